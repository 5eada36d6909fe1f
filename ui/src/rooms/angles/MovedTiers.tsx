import type { AnglesReport } from '../../api/client';
import { Sheet } from '../../parts/Sheet';
import { angle, signed, thousandths } from '../../words/numbers';
import { anglesWords } from '../../words/angles';
import { w } from '../../words/words';
import { Margin } from '../../parts/stone/TierTable';

const a = anglesWords;

/** Every tier's angle and margin, before and after. */
export function MovedTiers({ report }: { report: AnglesReport }) {
  const moved = report.pavilionFactor !== 1 || report.crownFactor !== 1;
  return (
    <>
      {moved && (
        <p className="figure">
          {a.factors(thousandths(report.pavilionFactor), thousandths(report.crownFactor))}
        </p>
      )}
      <Sheet dense head={[w.tiers.tier, a.from, a.to, a.marginFrom, a.marginTo]}>
        {report.tiers.map((t) => (
          <tr key={t.name}>
            <td className="figure">{t.name}</td>
            <td className="figure">{angle(t.from)}°</td>
            <td className="figure">
              {Math.abs(t.to - t.from) < 1e-9 ? angle(t.to) : <strong>{angle(t.to)}</strong>}°
            </td>
            <td className="figure">{t.marginFrom === null ? '' : `${signed(t.marginFrom)}°`}</td>
            <td>
              <Margin tier={{ margin: t.marginTo, judgement: t.judgement }} />
            </td>
          </tr>
        ))}
      </Sheet>
    </>
  );
}
