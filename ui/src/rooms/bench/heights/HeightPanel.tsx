import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { BenchScript } from '../../../api/client';
import { isStrange } from '../../../log/heights';
import { visitOf, type BenchState } from '../../../log/standing';
import { NumberField } from '../../../parts/fields/NumberField';
import { reads } from '../../../parts/instruments/ReadingOffer';
import { useNotice } from '../../../parts/notice';
import { Care } from '../../../parts/Page';
import { Sheet } from '../../../parts/Sheet';
import type { StoneLog } from '../../../parts/work/useStoneLog';
import { angle, plain, signed, thousandths } from '../../../words/numbers';
import { wheelWords as t } from '../../../words/wheel';
import { w } from '../../../words/words';
import { FacetPick, pickable } from '../FacetPick';
import { Panel } from '../Panel';
import { facetName } from '../work';
import { aboveFinish, foretoldAt, takenIn } from './dial';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  shown: number;
  onClose: () => void;
}

/** The height dial: a reading is taken, and all that it tells stands beside it. */
export function HeightPanel({ script, state, log, shown, onClose }: Props) {
  const [at, setAt] = useState(shown);
  const [shows, setShows] = useState<number>();
  const say = useNotice();
  const { setup } = script.visits[shown]!;
  const facet = script.facets[script.visits[at]!.facet]!;
  const told = foretoldAt(script, log.state, at);
  const strange = shows !== undefined && told && isStrange(shows, told);
  const above = shows !== undefined && told ? aboveFinish(facet, shows, told) : undefined;
  if (!facet.division)
    return (
      <Panel title={t.heightTitle} lead={t.noDial} onClose={onClose}>
        {null}
      </Panel>
    );
  const keep = () => {
    const [made] = log.add([{ kind: 'reading', payload: { at: visitOf(script, at), mm: shows! } }]);
    say({
      text: `${facetName(script, at)}: ${plain(shows!)} mm`,
      action: {
        label: t.takeBack,
        run: () => void log.add([{ kind: 'undo', payload: { undoes: made!.id } }]),
      },
    });
    onClose();
  };
  const pair = script.readWell
    .filter((i) => script.setups[script.facets[i]!.setup]!.id === setup)
    .map((i) => script.facets[i]!.tier);
  return (
    <Panel
      title={t.heightTitle}
      lead={pair.length > 0 ? t.goodPair(pair.join(', ')) : ''}
      onClose={onClose}
    >
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(2, minmax(0, 1fr))', gap: 6 }}>
        <form
          onSubmit={(e) => {
            e.preventDefault();
            if (shows !== undefined) keep();
          }}
        >
          <FacetPick
            script={script}
            places={pickable(script, state, shown)}
            at={at}
            onChange={setAt}
          />
          <Typography sx={{ fontSize: '2rem', my: 3 }} data-foretold>
            {told ? t.foretold(plain2(told.mm), plain2(told.sd)) : t.notKnown}
          </Typography>
          <NumberField
            label={t.reading}
            measures={reads.height}
            help={t.readingHelp}
            unit={w.units.mm}
            min={-10000}
            max={10000}
            value={shows}
            optional=""
            width={320}
            autoFocus
            onChange={setShows}
          />
          {above !== undefined && (
            <Typography sx={{ fontSize: '1.25rem', mt: 2 }}>
              {above >= 0 ? t.atHeight(thousandths(above)) : t.deeperThan(thousandths(-above))}
            </Typography>
          )}
          {strange && (
            <Care>
              {t.strange(signed(shows - told.mm), t.foretold(plain2(told.mm), plain2(told.sd)))}
            </Care>
          )}
          <Button
            type="submit"
            variant="contained"
            disabled={shows === undefined}
            sx={{ minHeight: 88, minWidth: 320, fontSize: '1.5rem', mt: 4 }}
          >
            {t.keepReading}
          </Button>
        </form>
        <HeightTable script={script} log={log} setup={setup} pass={script.visits[at]!.pass} />
      </Box>
    </Panel>
  );
}

/** Two decimals: a dial's hundredths. */
const plain2 = (mm: number): string => plain(Math.round(mm * 100) / 100);

/** Tier by tier of a side, what was read and what the dial will read on the lap of a pass. */
function HeightTable(props: { script: BenchScript; log: StoneLog; setup: string; pass: string }) {
  const { script, log, setup, pass } = props;
  const taken = takenIn(script, log.state, setup);
  const first = new Map<string, number>();
  script.visits.forEach((v, i) => {
    const { tier } = script.facets[v.facet]!;
    if (v.setup === setup && v.pass === pass && !v.adapter && !first.has(tier)) first.set(tier, i);
  });
  return (
    <Box sx={{ overflow: 'auto' }}>
      <Typography variant="h3">{t.heightsOf}</Typography>
      <Sheet head={[w.tiers.tier, w.tiers.angle, t.height, t.readIt]}>
        {[...first].map(([tier, i]) => {
          const told = foretoldAt(script, log.state, i);
          const own = taken.filter(
            (r) => script.facets[script.visits[r.place]!.facet]!.tier === tier,
          );
          return (
            <tr key={tier}>
              <td className="figure">{tier}</td>
              <td className="figure">{angle(script.facets[script.visits[i]!.facet]!.angle)}°</td>
              <td className="figure">
                {told ? `${plain2(told.mm)} ± ${plain2(told.sd)} mm` : t.notKnown}
              </td>
              <td className="figure">
                {own.map((r) => (
                  <Box key={r.event} component="span" sx={{ whiteSpace: 'nowrap' }}>
                    {plain2(r.reads)}{' '}
                    <Button
                      size="small"
                      aria-label={`${t.takeBack}: ${tier} ${plain2(r.reads)}`}
                      onClick={() => log.add([{ kind: 'undo', payload: { undoes: r.event } }])}
                    >
                      {t.takeBack}
                    </Button>
                  </Box>
                ))}
              </td>
            </tr>
          );
        })}
      </Sheet>
    </Box>
  );
}
