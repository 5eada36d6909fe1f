import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useRef, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { ApiProblem, Unreachable, type Place, type ReadFile, type Usual } from '../../api/client';
import { addDiagram } from '../../api/diagrams';
import { usualQuery } from '../../api/settings';
import { placeSolid, readTable, type HeldSolid } from '../../api/solving';
import { ChoiceList } from '../../parts/ChoiceList';
import { useNotice } from '../../parts/notice';
import { PageHead } from '../../parts/Page';
import { Refusal } from '../../parts/forms/Refusal';
import { solidWords } from '../../words/solids';
import { libraryWords as l } from '../../words/library';
import { plain } from '../../words/numbers';
import { w } from '../../words/words';
import { ReadDesk } from './ReadDesk';
import { isSolid, largestSolid, openSolid } from './solidFile';

/** Above this no diagram file is; larger ones are not even sent. */
const largest = 4 << 20;

/** A text that came in: what it was recognised as, or why it could not be. */
export interface Entry {
  key: number;
  name: string;
  text: string;
  read?: ReadFile;
  /** How it is held, where it is a solid. */
  solid?: HeldSolid;
  refused?: Place[];
  /** The diagram that it has become. */
  added?: string;
}

/** Files and pasted tables come in here, are looked at, and then added. */
export function ImportRoom() {
  const [entries, setEntries] = useState<Entry[]>([]);
  const [chosen, setChosen] = useState(0);
  const [pasted, setPasted] = useState('');
  const keys = useRef(0);
  const input = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const say = useNotice();
  const queries = useQueryClient();
  const read = useMutation({ mutationFn: readOne });
  const takeIn = async (texts: { name: string; text: string; size: number }[]) => {
    for (const t of texts) {
      const key = ++keys.current;
      const entry: Entry =
        t.size > largest
          ? { key, name: t.name, text: '', refused: [tooLarge] }
          : { key, ...(await read.mutateAsync({ ...t, width: await usualWidth() })) };
      setEntries((list) => [...list, entry]);
      setChosen(key);
    }
  };
  const usualWidth = async () => plain((await queries.fetchQuery(usualQuery)).width);
  const openSolids = async (files: File[]) => {
    for (const file of files) {
      const key = ++keys.current;
      const held = await holdOne(file, () => queries.fetchQuery(usualQuery));
      setEntries((list) => [...list, { key, name: file.name, text: '', ...held }]);
      setChosen(key);
    }
  };
  const openFiles = async (files: FileList | null) => {
    const all = [...(files ?? [])].filter((f) => !isSolid(f.name));
    await openSolids([...(files ?? [])].filter((f) => isSolid(f.name)));
    await takeIn(
      await Promise.all(
        all.map(async (f) => ({
          name: f.name,
          size: f.size,
          text: f.size > largest ? '' : await f.text(),
        })),
      ),
    );
  };
  const adding = useMutation(addDiagram);
  const add = useMutation({
    mutationFn: async (list: Entry[]) => {
      const out: Entry[] = [];
      for (const e of list) {
        const d = await adding.mutateAsync({
          draft: e.read!.draft,
          origin: e.name,
          designed: e.solid !== undefined,
        });
        const done = { ...e, added: d.id };
        out.push(done);
        change(e.key, done);
      }
      return out;
    },
    onSuccess: (done) => {
      say({ text: l.addedAll(done.length) });
      if (done.length === 1) void navigate(`/diagrams/${done[0]!.added}`);
      else void navigate('/diagrams');
    },
  });
  const change = (key: number, to: Partial<Entry>) =>
    setEntries((list) => list.map((o) => (o.key === key ? { ...o, ...to } : o)));
  const open = entries.filter((e) => e.read && !e.added);
  const entry = entries.find((e) => e.key === chosen);
  return (
    <Box
      onDragOver={(e) => e.preventDefault()}
      onDrop={(e) => {
        e.preventDefault();
        void openFiles(e.dataTransfer.files);
      }}
    >
      <PageHead title={l.title}>
        <Button component={Link} to="/diagrams">
          {w.rooms.diagrams}
        </Button>
        {open.length > 1 && (
          <Button onClick={() => add.mutate(open)} disabled={add.isPending}>
            {l.addAll(open.length)}
          </Button>
        )}
        {entry?.read && !entry.added && (
          <Button variant="contained" onClick={() => add.mutate([entry])} disabled={add.isPending}>
            {l.add}
          </Button>
        )}
      </PageHead>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', md: '330px minmax(0, 1fr)' },
          minHeight: 'calc(100vh - 110px)',
        }}
      >
        <Box sx={{ p: 4, borderRight: { md: 1 }, borderColor: { md: 'divider' } }}>
          <Typography color="text.secondary">{l.lead}</Typography>
          <Box sx={{ display: 'flex', gap: 2, alignItems: 'center', my: 3 }}>
            <Button onClick={() => input.current?.click()}>{l.files}</Button>
            <Typography color="text.secondary">{l.drop}</Typography>
          </Box>
          <input
            ref={input}
            type="file"
            multiple
            accept=".json,.csv,.txt,.tsv,.obj,.stl,.ply,application/json,text/csv,text/plain"
            hidden
            aria-label={l.files}
            onChange={(e) => {
              void openFiles(e.target.files).then(() => {
                if (input.current) input.current.value = '';
              });
            }}
          />
          <TextField
            label={l.paste}
            value={pasted}
            onChange={(e) => setPasted(e.target.value)}
            multiline
            minRows={5}
            maxRows={10}
            fullWidth
            helperText={l.pasteHelp}
            slotProps={{ htmlInput: { spellCheck: false } }}
          />
          <Button
            sx={{ mt: 2 }}
            disabled={pasted.trim() === ''}
            onClick={() =>
              void takeIn([{ name: l.pasted, text: pasted, size: pasted.length }]).then(() =>
                setPasted(''),
              )
            }
          >
            {l.read}
          </Button>
          <Refusal error={read.error ?? add.error} />
          <Typography variant="h3" sx={{ mt: 5, borderBottom: 1, pb: 1 }}>
            {l.list}
          </Typography>
          {entries.length === 0 && <Typography color="text.secondary">{l.nothing}</Typography>}
          <ChoiceList
            label={l.list}
            list={entries}
            keyOf={(e) => e.key}
            isChosen={(e) => e.key === chosen}
            onChoose={(e) => setChosen(e.key)}
            row={56}
            aside={(e) => (
              <IconButton
                onClick={() => setEntries((list) => list.filter((o) => o.key !== e.key))}
                aria-label={l.forget(e.name)}
              >
                <Close />
              </IconButton>
            )}
          >
            {(e) => (
              <Box sx={{ minWidth: 0 }}>
                <Typography noWrap component="span" sx={{ display: 'block', fontWeight: 600 }}>
                  {e.read?.draft.name || e.name}
                </Typography>
                <Typography
                  variant="body2"
                  component="span"
                  sx={{ color: e.refused ? 'error.main' : 'text.primary' }}
                >
                  {stateOf(e)}
                </Typography>
              </Box>
            )}
          </ChoiceList>
        </Box>
        <Box sx={{ minWidth: 0 }}>
          {entry && (
            <ReadDesk
              key={entry.key}
              entry={entry}
              onHold={(solid) => change(entry.key, heldAs(solid))}
              onRead={(read, text = entry.text) => change(entry.key, { read, text })}
            />
          )}
        </Box>
      </Box>
    </Box>
  );
}

const tooLarge: Place = {
  tier: -1,
  tierName: '',
  field: '',
  code: 'too-large',
  message: l.tooLarge,
  line: 1,
  column: 1,
};

function stateOf(e: Entry): string {
  if (e.refused) return l.refused;
  if (e.added) return l.added;
  if (e.solid) return solidWords.file;
  return e.read?.whole ? l.whole : l.table(e.read?.draft.tiers.length ?? 0);
}

async function readOne({
  name,
  text,
  width,
}: {
  name: string;
  text: string;
  width: string;
}): Promise<Omit<Entry, 'key'>> {
  try {
    return { name, text, read: await readTable(name, text, { angles: 0, width }) };
  } catch (e) {
    if (!(e instanceof ApiProblem)) throw e;
    const places = e.problem.places;
    return {
      name,
      text,
      refused: places.length > 0 ? places : [{ ...tooLarge, message: e.message }],
    };
  }
}

/** A solid as an entry. */
const heldAs = (solid: HeldSolid): Pick<Entry, 'solid' | 'read'> => ({
  solid,
  read: {
    name: solid.file.name,
    draft: solid.placed.draft,
    whole: true,
    lines: [],
    mistakes: [],
    angles: [],
  },
});

async function holdOne(file: File, usual: () => Promise<Usual>): Promise<Partial<Entry>> {
  if (file.size > largestSolid) return { refused: [tooLarge] };
  try {
    return heldAs(await placeSolid(await openSolid(file, await usual())));
  } catch (e) {
    return { refused: [{ ...tooLarge, line: 0, message: refusalOf(e) }] };
  }
}

function refusalOf(e: unknown): string {
  if (e instanceof ApiProblem) return e.message;
  return e instanceof Unreachable ? w.common.unreachable : solidWords.unreadable;
}
