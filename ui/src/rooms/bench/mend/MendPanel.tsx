import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BenchScript, WayOut, WaysOut } from '../../../api/client';
import { mendStone, takePlanBack, waysOutQuery } from '../../../api/stones';
import { ChoiceList } from '../../../parts/ChoiceList';
import { Refusal } from '../../../parts/forms/Refusal';
import { useKeys } from '../../../parts/keys';
import { BeforeAndAfter } from '../../../parts/stone/BeforeAndAfter';
import { StonesBeside } from '../../../parts/stone/StonesBeside';
import type { StoneLog } from '../../../parts/work/useStoneLog';
import { mendingWords as t } from '../../../words/mending';
import { carats, mm, percent } from '../../../words/numbers';
import { w } from '../../../words/words';
import { heardOf } from '../otherwise';
import { Panel } from '../Panel';
import type { Reread } from '../reread';

interface Props {
  script: BenchScript;
  log: StoneLog;
  reread: Reread;
  onClose: () => void;
}

/** The ways out of what went wrong, side by side: one key looks at a way, one takes it. */
export function MendPanel({ script, log, reread, onClose }: Props) {
  const found = useQuery(waysOutQuery(script.stoneId, heardOf(log)));
  const [no, setNo] = useState(0);
  const mend = useMutation(mendStone);
  const back = useMutation(takePlanBack);
  const of = found.data;
  const ways = of && of.wrong.length > 0 ? of.ways : [];
  const way = ways[no];
  const then = { onSuccess: () => void reread().then(onClose) };
  const take = () => {
    if (!of || !way?.solid || mend.isPending) return;
    mend.mutate({ stone: script.stoneId, way: way.way, version: of.version }, then);
  };
  useKeys(
    ways.length === 0
      ? []
      : [
          ...ways.map((each, i) => ({
            keys: [String(i + 1)],
            label: each.name,
            run: () => setNo(i),
          })),
          { keys: ['Enter', ' '], label: t.cutSo, run: take },
        ],
  );
  return (
    <Panel
      title={t.title}
      lead={t.lead}
      onClose={onClose}
      picture={of && <Pictures of={of} way={way} />}
    >
      {found.isFetching && <LinearProgress aria-label={w.common.loading} sx={{ mb: 2 }} />}
      <Refusal error={found.error ?? mend.error ?? back.error} />
      {of?.wrong.map((wrong, i) => (
        <Typography key={i} sx={{ fontSize: '1.25rem', fontWeight: 600 }}>
          {t.at(wrong.tier, wrong.tooth, wrong.text)}
        </Typography>
      ))}
      {of && ways.length === 0 && <Typography role="status">{t.nothing}</Typography>}
      {of?.mended && (
        <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', my: 2 }}>
          <Typography>{t.mended(of.mended.text)}</Typography>
          {of.mended.canUndo && (
            <Button
              variant="outlined"
              disabled={back.isPending}
              onClick={() => back.mutate({ stone: script.stoneId, version: of.version }, then)}
              sx={{ minHeight: 64 }}
            >
              {t.takeBack}
            </Button>
          )}
        </Box>
      )}
      {ways.length > 0 && (
        <ChoiceList
          label={t.title}
          list={ways}
          keyOf={(each) => each.way}
          isChosen={(_, i) => i === no}
          onChoose={(_, i) => setNo(i)}
          row={64}
        >
          {(each, i) => (
            <>
              <Typography
                component="span"
                sx={{ fontWeight: 600 }}
                color={each.solid ? undefined : 'text.secondary'}
              >
                {i + 1} · {each.name}
              </Typography>
              <Typography component="span" sx={{ textAlign: 'right' }}>
                {each.figures ? (
                  <>
                    <Typography component="span" variant="figures">
                      {t.loss(each.figures.lost)}
                    </Typography>{' '}
                    · {t.work(each.again, each.minutes)}
                  </>
                ) : (
                  each.why
                )}
              </Typography>
            </>
          )}
        </ChoiceList>
      )}
      {of && way?.figures && (
        <>
          <Costs of={of} way={way} />
          <Button
            variant="contained"
            disabled={mend.isPending}
            onClick={take}
            sx={{ minHeight: 72, minWidth: 220, fontSize: '1.375rem', mt: 3 }}
          >
            {t.cutSo}
          </Button>
        </>
      )}
    </Panel>
  );
}

/** The stone as it stands, and as a way leaves it; what is cut again is marked. */
function Pictures({ of, way }: { of: WaysOut; way: WayOut | undefined }) {
  const marked = new Set(
    way ? way.takes.map((take) => take.face) : of.wrong.map((wrong) => wrong.face),
  );
  return (
    <StonesBeside
      stacked
      up={of.up}
      marked={marked}
      stones={[
        [t.stands, of.cut],
        [way?.solid ? way.name : t.planned, way?.solid ?? of.planned],
      ]}
    />
  );
}

/** What a way does and costs, beside the plan. */
function Costs({ of, way }: { of: WaysOut; way: WayOut }) {
  const figures = way.figures!;
  const rows: [string, string, string][] = [
    [t.weight, carats(of.plan.carats), carats(figures.carats)],
    [t.width, mm(of.plan.width), mm(figures.width)],
    [t.height, mm(of.plan.height), mm(figures.height)],
    [
      t.girdle,
      t.girdleOf(of.plan.girdleMin, of.plan.girdleMax),
      t.girdleOf(figures.girdleMin, figures.girdleMax),
    ],
    [t.light, percent(of.plan.return), percent(figures.return)],
    [t.window, percent(of.plan.window), percent(figures.window)],
  ];
  return (
    <Box sx={{ mt: 3 }}>
      <Typography sx={{ fontSize: '1.125rem' }}>
        {[way.does, t.seen(way.gap), t.turnsBack(way.turns)].filter(Boolean).join(' ')}
      </Typography>
      <Box sx={{ display: 'grid', gridTemplateColumns: '1fr 1fr', gap: 5, mt: 2 }}>
        <BeforeAndAfter heads={[t.planned, t.will]} rows={rows} />
        <Box component="ul" sx={{ m: 0, pl: 3 }}>
          {way.tiers.map((tier) => (
            <li key={tier.tier}>
              <Typography variant="figures">
                {t.take(tier.tier, tier.facets, tier.least, tier.most)}
                {tier.leastDivisions !== null &&
                  tier.mostDivisions !== null &&
                  `, ${t.divisions(tier.leastDivisions, tier.mostDivisions)}`}
              </Typography>
            </li>
          ))}
        </Box>
      </Box>
    </Box>
  );
}
