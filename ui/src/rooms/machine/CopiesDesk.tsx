import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useRef, useState, type ReactNode } from 'react';
import {
  copiesQuery,
  copying,
  planCopies,
  takeCopy,
  type CopiesPage,
  type CopyingLine,
  type CopyLine,
} from '../../api/copies';
import { Unreachable } from '../../api/client';
import { ranges } from '../../api/ranges';
import { reread } from '../../api/refresh';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Await, Care } from '../../parts/Page';
import { ProgressLine } from '../../parts/ProgressLine';
import { Sheet } from '../../parts/Sheet';
import { useLongWork } from '../../parts/useLongWork';
import { copyWords as c } from '../../words/copies';
import { moment } from '../../words/numbers';

/** How often is asked, in ms, while the server is away. */
const whileAway = 500;

const latest = (_: CopyingLine | undefined, line: CopyingLine) => line;

/** Copies of everything: those that there are, when they are made, and how one is brought back. */
export function CopiesDesk() {
  const { state: line, again, ...work } = useLongWork(copying, latest);
  const [restores, setRestores] = useState(false);
  const lost = work.error instanceof Unreachable;
  // What was taken out whole takes the records' place last. The server begins anew for that, and may
  // be gone before it has told anything.
  const replacing = (restores || line?.what === 'restore') && (lost || work.ended === 'complete');
  const page = useQuery({ ...copiesQuery, refetchInterval: replacing && !lost && whileAway });
  useReplaced(page.data);
  useRereadOnceEnded(work.ended);
  useAgain(lost, again);
  const start = (asked: { bringBack?: string }) => {
    setRestores(asked.bringBack !== undefined);
    work.start(asked);
  };
  return (
    <Await query={page}>
      {(p) => (
        <Copies page={p} busy={work.running || replacing} start={start}>
          {replacing && <Care>{c.replacing}</Care>}
          {!replacing && <Refusal error={work.error} />}
          {!work.error && line && <Work line={line} stop={work.stop} />}
        </Copies>
      )}
    </Await>
  );
}

/**
 * Looks for the work again once the server that it was lost with answers: with a list that was asked for after that. One that was
 * on its way when the server went tells nothing of it, also where it comes only now.
 */
function useAgain(lost: boolean, again: () => void) {
  const queries = useQueryClient();
  useEffect(() => {
    if (!lost) return;
    let left = false;
    const answers = async () => {
      await queries.cancelQueries({ queryKey: copiesQuery.queryKey });
      await queries.fetchQuery({ ...copiesQuery, staleTime: 0 });
    };
    const ask = async () => {
      while (!left) {
        const there = await answers().then(
          () => true,
          () => false,
        );
        if (there && !left) again();
        await new Promise((wait) => setTimeout(wait, whileAway));
      }
    };
    void ask();
    return () => {
      left = true;
    };
  }, [queries, lost, again]);
}

/** Loads the page anew once other records have taken the place of those that it was opened with. */
function useReplaced(page: CopiesPage | undefined) {
  const began = useRef<string>(undefined);
  useEffect(() => {
    if (!page) return;
    began.current ??= page.records;
    if (page.records !== began.current) location.reload();
  }, [page]);
}

/** Reads the list anew once a copy was made, or could not be made. */
function useRereadOnceEnded(ended: string | undefined) {
  const queries = useQueryClient();
  useEffect(() => {
    if (ended) void reread(queries, copiesQuery.queryKey);
  }, [queries, ended]);
}

interface CopiesProps {
  page: CopiesPage;
  busy: boolean;
  start: (asked: { bringBack?: string }) => void;
  /** What is told of the copy that is made or brought back. */
  children: ReactNode;
}

function Copies({ page, start, children, ...props }: CopiesProps) {
  const say = useNotice();
  const take = useMutation(takeCopy);
  const [chosen, setChosen] = useState<CopyLine>();
  const input = useRef<HTMLInputElement>(null);
  const busy = props.busy || take.isPending;
  return (
    <>
      <Typography>{page.last ? c.last(moment(page.last)) : c.none}</Typography>
      {page.failed !== '' && (
        <Care grave>{c.failed(page.failed, page.failedAt ? moment(page.failedAt) : '')}</Care>
      )}
      <Box sx={{ display: 'flex', gap: 3, my: 3, flexWrap: 'wrap' }}>
        <Button variant="contained" disabled={busy} onClick={() => start({})}>
          {c.now}
        </Button>
        <Button disabled={busy} onClick={() => input.current?.click()}>
          {c.take}
        </Button>
        <input
          ref={input}
          type="file"
          accept=".zip,application/zip"
          hidden
          aria-label={c.take}
          onChange={(e) => {
            const [file] = e.target.files ?? [];
            e.target.value = '';
            if (file) take.mutate(file, { onSuccess: () => say({ text: c.taken }) });
          }}
        />
      </Box>
      {children}
      <Refusal error={take.error} />
      <Sheet head={[...Object.values(c.head), '']} fold={900}>
        <Line line={page.now} name={c.present} />
        {page.copies.map((k) => (
          <Line key={k.name} line={k} name={moment(k.made)}>
            <Button
              aria-label={c.bringBackOf(moment(k.made))}
              disabled={busy || k.problem !== ''}
              onClick={() => setChosen(k)}
            >
              {c.bringBack}
            </Button>
            <Button
              component="a"
              href={`/api/copies/${encodeURIComponent(k.name)}/file`}
              aria-label={c.downloadOf(moment(k.made))}
            >
              {c.download}
            </Button>
          </Line>
        ))}
      </Sheet>
      <Plan page={page} />
      {chosen && (
        <Dialog open onClose={() => setChosen(undefined)} maxWidth="md">
          <DialogTitle>{c.asks(moment(chosen.made))}</DialogTitle>
          <DialogContent>
            <Typography sx={{ mb: 3 }}>{c.wouldReplace}</Typography>
            <Sheet head={['', c.inCopy, c.present]}>
              {(['entry', 'stones', 'diagrams', 'entries', 'photos', 'size'] as const).map((k) => (
                <tr key={k}>
                  <td>{c.head[k]}</td>
                  <td>{figuresOf(chosen)[k]}</td>
                  <td>{figuresOf(page.now)[k]}</td>
                </tr>
              ))}
            </Sheet>
            <Typography sx={{ mt: 3, maxWidth: 560 }}>{c.isKept}</Typography>
          </DialogContent>
          <DialogActions>
            <Button onClick={() => setChosen(undefined)}>{c.cancel}</Button>
            <Button
              variant="contained"
              onClick={() => {
                start({ bringBack: chosen.name });
                setChosen(undefined);
              }}
            >
              {c.replace}
            </Button>
          </DialogActions>
        </Dialog>
      )}
    </>
  );
}

/** What a copy holds, or the records do now, as people read it. */
const figuresOf = (l: CopyLine) => ({
  entry: l.lastEntry ? moment(l.lastEntry) : '',
  stones: l.stones,
  diagrams: l.diagrams,
  entries: l.events,
  photos: l.photos,
  size: c.bytes(l.bytes),
});

/** A copy, or the records as they are now, in a row. */
function Line(props: { line: CopyLine; name: string; children?: ReactNode }) {
  const { line: l, name, children } = props;
  const figures = Object.entries(figuresOf(l));
  return (
    <tr>
      <td>{name}</td>
      {l.problem === '' ? (
        figures.map(([k, figure]) => (
          <td key={k} className="figure">
            {figure}
          </td>
        ))
      ) : (
        <td colSpan={figures.length}>{l.problem}</td>
      )}
      <td>
        <Box sx={{ display: 'flex', gap: 2 }}>{children}</Box>
      </td>
    </tr>
  );
}

/** The copy that is made or brought back just now, or what became of the last. */
function Work({ line, stop }: { line: CopyingLine; stop: () => void }) {
  const restores = line.what === 'restore';
  switch (line.ended) {
    case 'complete':
      return null;
    case 'stopped':
      return <Care>{c.stopped}</Care>;
    case 'failed':
      // Why no copy was made stands above, and stays there until one is.
      return restores && <Care grave>{c.jobFailed(line.problem)}</Care>;
  }
  return (
    <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', maxWidth: 560 }}>
      <Box sx={{ flex: 1 }}>
        <ProgressLine done={line.done} total={line.total} text={restores ? c.bringing : c.making} />
      </Box>
      <Button onClick={stop}>{c.stop}</Button>
    </Box>
  );
}

/** When copies are made, and where to. */
function Plan({ page }: { page: CopiesPage }) {
  const say = useNotice();
  const save = useMutation(planCopies);
  const [plan, setPlan] = useState(page.plan);
  const dirty = JSON.stringify(plan) !== JSON.stringify(page.plan);
  return (
    <Box sx={{ mt: 6 }}>
      <Box sx={{ display: 'flex', gap: 4, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <PickField
          label={c.every}
          value={plan.every}
          options={c.everys}
          onChange={(every) => setPlan({ ...plan, every: every as typeof plan.every })}
        />
        <NumberField
          label={c.keep}
          {...ranges.CopyPlan.keep}
          value={plan.keep}
          onChange={(keep) => setPlan({ ...plan, keep })}
        />
        <TextField
          label={c.folder}
          value={plan.folder}
          helperText={c.folderHelp(page.shelf)}
          onChange={(e) => setPlan({ ...plan, folder: e.target.value.trim() })}
          sx={{ flex: '1 1 320px', maxWidth: 560 }}
        />
        <Button
          disabled={!dirty || save.isPending}
          onClick={() => save.mutate(plan, { onSuccess: () => say({ text: c.saved }) })}
        >
          {c.save}
        </Button>
      </Box>
      <Refusal error={save.error} />
    </Box>
  );
}
