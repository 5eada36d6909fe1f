import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { useNavigate, useParams } from 'react-router';
import type { Diagram, Draft, FreehandUntil } from '../../api/client';
import { diagramQuery } from '../../api/diagrams';
import { freehandQuery } from '../../api/freehand';
import type { History } from '../../drafts/history';
import { draftLines } from '../../parts/diagram/draftLines';
import { useDraftSession, useKeptHistory } from '../../parts/diagram/useDraftSession';
import { Conflict } from '../../parts/forms/Conflict';
import { Refusal } from '../../parts/forms/Refusal';
import { FullHead } from '../../parts/FullHead';
import { useKeys } from '../../parts/keys';
import { Await } from '../../parts/Page';
import { freehandWords as t } from '../../words/freehand';
import { mm, sizes } from '../../words/numbers';
import { w } from '../../words/words';
import { Dials } from './Dials';
import { FreehandPictures } from './FreehandPictures';
import { settingOf, type Dialled } from './setting';
import { StopList, stopsOf, type Way } from './StopList';
import { TidyDialog } from './TidyDialog';

/** A stone that is cut without a diagram: what is dialled and where it stops, and the stone that grows of it. */
export function FreehandRoom() {
  const { id = '' } = useParams();
  const diagram = useQuery(diagramQuery(id));
  return (
    <Box component="main" sx={{ height: '100%' }}>
      <Await query={diagram}>{(d) => <WithHistory key={d.id} diagram={d} />}</Await>
    </Box>
  );
}

function WithHistory({ diagram }: { diagram: Diagram }) {
  const kept = useKeptHistory(diagram);
  return kept && <Wheel diagram={diagram} history={kept.history} />;
}

const saveWords = {
  saved: w.diagrams.saved,
  unsaved: w.diagrams.unsaved,
  saving: w.diagrams.saving,
};

function Wheel({ diagram, history }: { diagram: Diagram; history: History<Draft> | undefined }) {
  const editing = useDraftSession(diagram, history);
  const { draft, session } = editing;
  const [dialled, setDialled] = useState<Dialled>(() => ({
    up: draft.tiers.at(-1)?.part === 'crown' ? 'crown' : 'pavilion',
    angle: 45,
    index: Number(draft.gear),
    times: 1,
  }));
  const [way, setWay] = useState<Way>();
  const [size, setSize] = useState<number>();
  const [tidying, setTidying] = useState(false);
  const navigate = useNavigate();
  const setting = settingOf(dialled, Number(draft.gear));
  const seen = useQuery(freehandQuery(draft, setting, null));
  const ways = stopsOf(seen.data?.next ?? undefined);
  const chosen = way && ways.some((o) => o.key === way.key) ? way : ways.find((o) => o.stop);
  const until = untilOf(chosen, size);
  const after = useQuery({
    ...freehandQuery(draft, setting, until),
    enabled: setting !== null && until !== null,
  });
  // What comes of the cut counts only for what is dialled now.
  const cut = until && !after.isPlaceholderData ? after.data?.next : undefined;
  const stone = seen.data;
  const change = (to: Partial<Dialled>) => {
    setDialled((d) => ({ ...d, ...to }));
    setWay(undefined);
  };
  const make = () => {
    if (!cut?.draft) return;
    const { draft: next } = cut;
    session.set(() => next);
    setWay(undefined);
  };
  const turn = () => change({ up: dialled.up === 'crown' ? 'pavilion' : 'crown' });
  const leave = () => void navigate('/');
  useEffect(() => {
    document.title = `${t.title} · ${draft.name} · ${w.name}`;
  }, [draft.name]);
  useKeys(
    tidying
      ? []
      : [
          { keys: ['Enter', ' '], label: t.cut, run: make },
          { keys: ['Backspace', 'Ctrl+z'], label: t.back, run: session.undo },
          { keys: ['Ctrl+y', 'Ctrl+Shift+z'], label: t.forward, run: session.redo },
          { keys: ['t'], label: t.turn, run: turn },
          ...ways.map((o, i) => ({
            keys: i < 9 ? [String(i + 1)] : [],
            label: o.words,
            run: () => setWay(o),
          })),
          { keys: ['Escape'], label: w.bench.leave, run: leave },
        ],
  );
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <FullHead title={draft.name} onLeave={leave}>
        <Typography role="status">{saveWords[editing.state]}</Typography>
        <Button
          onClick={() => setTidying(true)}
          disabled={!stone?.whole}
          title={stone?.whole ? undefined : t.unfinished}
          sx={{ minHeight: 48 }}
        >
          {t.tidy}
        </Button>
      </FullHead>
      <Refusal error={editing.error ?? seen.error} />
      <Box
        sx={{
          flexGrow: 1,
          minHeight: 0,
          display: 'grid',
          gridTemplateColumns: 'repeat(2, minmax(0, 1fr))',
        }}
      >
        <FreehandPictures
          stone={stone}
          up={dialled.up}
          after={cut?.mesh ?? undefined}
          ways={ways}
          chosen={chosen}
          onChoose={setWay}
        />
        <Box
          // Enter ends a field: the keys are the room's again, and the next one cuts.
          onKeyDown={(e) =>
            e.key === 'Enter' && e.target instanceof HTMLInputElement && e.target.blur()
          }
          sx={{
            display: 'flex',
            flexDirection: 'column',
            minHeight: 0,
            borderLeft: 1,
            borderColor: 'divider',
            px: 4,
            pb: 3,
          }}
        >
          <Dials
            dialled={dialled}
            gear={Number(draft.gear)}
            next={stone?.next ?? undefined}
            fresh={draft.tiers.length === 0}
            onChange={change}
          />
          <Box sx={{ flexGrow: 1, minHeight: 0, overflow: 'auto' }}>
            <StopList ways={ways} chosen={chosen} onChoose={setWay} size={size} onSize={setSize} />
            {cut?.problem && (
              <Typography color="error" role="alert" sx={{ my: 1 }}>
                {cut.problem}
              </Typography>
            )}
            <Refusal error={after.error} />
            {stone && (
              <Typography color="text.secondary" sx={{ my: 1 }}>
                {[
                  sizes(stone.width, stone.length, stone.height),
                  stone.girdle !== null && t.girdle(mm(stone.girdle)),
                ]
                  .filter(Boolean)
                  .join(' · ')}
              </Typography>
            )}
            <Cuts stone={stone} />
          </Box>
          <Box sx={{ display: 'grid', gridTemplateColumns: '2fr 1fr 1fr', gap: 2, flexShrink: 0 }}>
            <Button
              variant="contained"
              data-cut
              disabled={!cut?.draft}
              onClick={make}
              sx={{ minHeight: 84, fontSize: '1.75rem' }}
            >
              {t.cut}
            </Button>
            <Button disabled={!editing.canUndo} onClick={session.undo} sx={{ minHeight: 84 }}>
              {t.back}
            </Button>
            <Button onClick={turn} sx={{ minHeight: 84 }}>
              {t.turn}
            </Button>
          </Box>
        </Box>
      </Box>
      {tidying && (
        <TidyDialog
          draft={draft}
          onClose={() => setTidying(false)}
          onKeep={async (tidy, width, plan) => {
            session.set(() => tidy);
            if (!(await session.keep())) return;
            void navigate(
              plan ? `/stones/new?diagram=${diagram.id}&width=${width}` : `/diagrams/${diagram.id}`,
            );
          }}
        />
      )}
      {editing.theirs && (
        <Conflict
          mine={draftLines(draft)}
          theirs={draftLines(editing.theirs.draft)}
          onMine={session.keepMine}
          onTheirs={session.takeTheirs}
        />
      )}
    </Box>
  );
}

/** Where the cut stops, null while nobody has said. */
function untilOf(way: Way | undefined, size: number | undefined): FreehandUntil | null {
  if (way?.stop) return { stop: way.stop, here: null, size: 0 };
  if (way?.here) return { stop: '', here: way.here, size: 0 };
  if (way?.key === 'size' && size !== undefined) return { stop: '', here: null, size };
  return null;
}

/** What was cut so far, the last first. */
function Cuts({
  stone,
}: {
  stone: { tiers: { name: string; angle: number; stop: string }[] } | undefined;
}) {
  const tiers = stone?.tiers ?? [];
  return (
    <Box component="section" aria-label={t.cuts} sx={{ mt: 1 }}>
      <Typography variant="h3">{t.cuts}</Typography>
      {tiers.length === 0 && <Typography color="text.secondary">{t.none}</Typography>}
      {[...tiers].reverse().map((tier) => (
        <Typography key={tier.name}>
          <strong>{tier.name}</strong> {tier.angle}° {tier.stop}
        </Typography>
      ))}
    </Box>
  );
}
