import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BenchScript } from '../../api/client';
import { ranges } from '../../api/ranges';
import { changeAtWheel, stoneLineQuery } from '../../api/stones';
import { visitOf, type BenchState } from '../../log/standing';
import { ChoiceList } from '../../parts/ChoiceList';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { passName } from '../../parts/work/visitWords';
import { machineWords as m } from '../../words/machine';
import { duration, micron } from '../../words/numbers';
import { wheelWords as t } from '../../words/wheel';
import { w } from '../../words/words';
import { MarkedStone } from './MarkedStone';
import { onwards, repeats, type Again, type Onward } from './order';
import { Panel } from './Panel';
import type { Reread } from './reread';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  reread: Reread;
  onClose: () => void;
}

/** The order of the work, changed in the middle: what that leaves open stands beside each way. */
export function OrderPanel({ script, state, log, reread, onClose }: Props) {
  const [to, setTo] = useState<Onward>();
  const [again, setAgain] = useState<Again>();
  const ahead = onwards(script, state);
  const behind = repeats(script, state);
  const tierOf = (o: Onward) => script.facets[script.visits[o.place]!.facet]!.tier;
  const pass = (id: string) => passName(script, id);
  return (
    <Panel
      title={t.order}
      lead={t.orderLead}
      onClose={onClose}
      picture={
        <MarkedStone
          script={script}
          step={state.step}
          setup={script.setups.findIndex((s) => s.id === state.setup)}
          facets={script.facets.filter((f) => f.tier === (again?.tier ?? (to && tierOf(to))))}
          label={again?.tier ?? (to ? tierOf(to) : w.bench.now)}
        />
      }
    >
      <Habits {...{ script, reread }} />
      <Box sx={{ display: 'grid', gridTemplateColumns: 'repeat(2, minmax(0, 1fr))', gap: 4 }}>
        <Box>
          <Typography variant="h2">{t.goTo}</Typography>
          {ahead.length === 0 && <Typography>{t.nothingOpen}</Typography>}
          <ChoiceList
            label={t.goTo}
            list={ahead}
            keyOf={(o) => o.place}
            isChosen={(o) => o.place === to?.place}
            onChoose={(o) => {
              setTo(o);
              setAgain(undefined);
            }}
            row={64}
            most={360}
          >
            {(o) => t.goToLine(tierOf(o), pass(script.visits[o.place]!.pass), o.open)}
          </ChoiceList>
          {to && (
            <Way
              texts={[
                to.over > 0 ? t.passedOver(to.over) : '',
                to.uncut.length > 0 ? t.uncut(to.uncut.join(', ')) : '',
              ]}
              go={t.doGoTo}
              onGo={() => {
                log.add([{ kind: 'jump', payload: visitOf(script, to.place) }]);
                onClose();
              }}
            />
          )}
        </Box>
        <Box>
          <Typography variant="h2">{t.again}</Typography>
          {behind.length === 0 && <Typography>{t.nothingDone}</Typography>}
          <ChoiceList
            label={t.again}
            list={behind}
            keyOf={(a) => `${a.tier} ${a.pass}`}
            isChosen={(a) => a.tier === again?.tier && a.pass === again.pass}
            onChoose={(a) => {
              setAgain(a);
              setTo(undefined);
            }}
            row={64}
            most={360}
          >
            {(a) => t.againLine(a.tier, pass(a.pass))}
          </ChoiceList>
          {again && (
            <Way
              texts={[
                t.opens(again.cuts, duration(again.minutes)),
                again.pits === undefined
                  ? ''
                  : again.pits > 0
                    ? t.pits(pass(again.pass), micron(again.pits))
                    : t.pitsUnknown(pass(again.pass)),
                t.meetsMove,
              ]}
              go={t.doAgain}
              onGo={() => {
                const { setup, passes, facets } = again;
                log.add([{ kind: 'again', payload: { setup, passes, facets } }]);
                onClose();
              }}
            />
          )}
        </Box>
      </Box>
    </Panel>
  );
}

/** What a way leaves open and what it risks, and the button that takes it. */
function Way({ texts, go, onGo }: { texts: string[]; go: string; onGo: () => void }) {
  return (
    <Box sx={{ mt: 3 }} role="status">
      {texts.filter(Boolean).map((text) => (
        <Typography key={text} sx={{ fontSize: '1.125rem', mb: 1 }}>
          {text}
        </Typography>
      ))}
      <Button
        variant="contained"
        onClick={onGo}
        sx={{ minHeight: 64, minWidth: 260, fontSize: '1.25rem', mt: 2 }}
      >
        {go}
      </Button>
    </Box>
  );
}

/** The order within a tier, and what the girdle is left thicker by at first: changed, they are a new plan. */
function Habits({ script, reread }: Pick<Props, 'script' | 'reread'>) {
  const [visiting, setVisiting] = useState(script.visiting);
  const [girdleSpare, setSpare] = useState(script.girdleSpare);
  const { data: line } = useQuery(stoneLineQuery(script.stoneId));
  const change = useMutation(changeAtWheel);
  const same = visiting === script.visiting && girdleSpare === script.girdleSpare;
  return (
    <Box sx={{ mb: 4 }}>
      <Box sx={{ display: 'flex', gap: 3, alignItems: 'flex-start', flexWrap: 'wrap' }}>
        <PickField
          label={m.visiting}
          value={visiting}
          options={m.visitings}
          onChange={setVisiting}
          width={240}
        />
        <NumberField
          label={m.girdleSpare}
          unit={w.units.mm}
          {...ranges.Choices.girdleSpare}
          value={girdleSpare}
          onChange={setSpare}
          help={m.girdleSpareHelp}
          width={220}
        />
        <Button
          disabled={same || !line || change.isPending}
          onClick={() =>
            change.mutate(
              { stone: script.stoneId, visiting, girdleSpare, version: line!.version },
              { onSuccess: () => void reread() },
            )
          }
          sx={{ minHeight: 64, minWidth: 140 }}
        >
          {t.cutItSo}
        </Button>
      </Box>
      <Refusal error={change.error} />
    </Box>
  );
}
