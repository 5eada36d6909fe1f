import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BenchScript } from '../../../api/client';
import { secondSideQuery } from '../../../api/stones';
import type { BenchState } from '../../../log/standing';
import { ChoiceList } from '../../../parts/ChoiceList';
import { NumberField } from '../../../parts/fields/NumberField';
import { Refusal } from '../../../parts/forms/Refusal';
import { useKeys } from '../../../parts/keys';
import type { StoneLog } from '../../../parts/work/useStoneLog';
import { carats, mm, percent } from '../../../words/numbers';
import { wheelWords as t } from '../../../words/wheel';
import { w } from '../../../words/words';
import { Panel } from '../Panel';
import type { Reread } from '../reread';
import { Follows } from './Follows';
import { TwoStones } from './TwoStones';
import { useAdapting } from './useAdapting';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  reread: Reread;
  onClose: () => void;
}

/** What is left of the rough for the second side, and the ways to use it: one key chooses, one takes it. */
export function SecondSidePanel(props: Props) {
  const { script, onClose } = props;
  const [typed, setTyped] = useState<number>();
  const [left, setLeft] = useState<number>();
  const [no, setNo] = useState(0);
  const found = useQuery(secondSideQuery(script.stoneId, left));
  const take = useAdapting(props);
  const ways = found.data?.ways ?? [];
  const chosen = ways[no];
  const use = () => {
    if (!chosen || take.busy) return;
    if (chosen.way === 'as-planned') onClose();
    else take.take(chosen);
  };
  useKeys(
    ways.length === 0
      ? []
      : [
          ...ways.map((way, i) => ({
            keys: [String(i + 1)],
            label: t.ways[way.way],
            run: () => setNo(i),
          })),
          { keys: ['Enter', ' '], label: t.cutItSo, run: use },
        ],
  );
  return (
    <Panel
      title={t.left}
      lead={t.leftLead}
      onClose={onClose}
      picture={<TwoStones script={script} of={chosen} />}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          setLeft(typed);
          setNo(0);
          // The keys are the panel's again: digits choose.
          (document.activeElement as HTMLElement | null)?.blur();
        }}
        style={{ display: 'flex', gap: 12, alignItems: 'flex-start' }}
      >
        <NumberField
          label={t.leftField}
          unit={w.units.mm}
          min={0.05}
          max={500}
          value={typed}
          optional=""
          width={200}
          autoFocus
          onChange={setTyped}
        />
        <Button
          type="submit"
          variant="outlined"
          disabled={typed === undefined}
          sx={{ minHeight: 56, minWidth: 160 }}
        >
          {t.findWays}
        </Button>
      </form>
      {found.isFetching && <LinearProgress aria-label={w.common.loading} sx={{ my: 2 }} />}
      <Refusal error={found.error ?? take.error} />
      {found.data?.need && (
        <Typography sx={{ my: 2, fontSize: '1.125rem' }}>{t.needs(mm(found.data.need))}</Typography>
      )}
      {found.data && ways.length === 0 && <Typography role="status">{t.noWay}</Typography>}
      {ways.length > 0 && (
        <ChoiceList
          label={t.left}
          list={ways}
          keyOf={(way) => way.way}
          isChosen={(_, i) => i === no}
          onChoose={(_, i) => setNo(i)}
          row={64}
        >
          {(way, i) => (
            <>
              <span>
                {i + 1} · {t.ways[way.way]}
              </span>
              <Typography component="span" variant="figures">
                {carats(way.after.carats)} · {percent(way.after.return)}
              </Typography>
            </>
          )}
        </ChoiceList>
      )}
      {chosen && (
        <Box sx={{ mt: 2 }}>
          <Follows of={chosen} />
          <Button
            variant="contained"
            disabled={take.busy}
            onClick={use}
            sx={{ minHeight: 72, minWidth: 220, fontSize: '1.375rem', mt: 3 }}
          >
            {t.cutItSo}
          </Button>
        </Box>
      )}
    </Panel>
  );
}
