import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { keepPreviousData, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { answer, client, type Draft, type Rule } from '../../api/client';
import { diagramsQuery, settingsQuery } from '../../api/queries';
import { NumberField } from '../../parts/NumberField';
import { PickField } from '../../parts/PickField';
import { Refusal } from '../../parts/Refusal';
import { judgingWords } from '../../words/judging';
import { w } from '../../words/words';
import { defaultMachine } from '../machine/useSaveSettings';
import { SolidDrawn } from './SolidDrawn';

const s = judgingWords.solid;
const regular: Rule['kind'][] = [
  'tetrahedron',
  'cube',
  'octahedron',
  'dodecahedron',
  'icosahedron',
];

/** A regular solid or a prism as a diagram, drawn while it is chosen. */
export function SolidDialog({ onClose }: { onClose: () => void }) {
  const settings = useQuery(settingsQuery).data;
  const gears = settings ? defaultMachine(settings).gears : [96];
  const [rule, setRule] = useState<Rule>({ kind: 'cube', pose: 'face', sides: 6, height: 1 });
  const [gear, setGear] = useState(0);
  const [index, setIndex] = useState(1.54);
  const [name, setName] = useState('');
  const set = (change: Partial<Rule>) => setRule({ ...rule, ...change });
  const body = {
    rule,
    gear: gear || (gears.at(-1) ?? 96),
    refractiveIndex: index,
    name: name || s.kinds[rule.kind].split(',')[0]!,
  };
  const placed = useQuery({
    queryKey: ['solid', body],
    queryFn: ({ signal }) => answer(client.POST('/api/solids/rule', { body, signal })),
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 10_000,
  });
  const queries = useQueryClient();
  const navigate = useNavigate();
  const keep = useMutation({
    mutationFn: (draft: Draft) =>
      answer(client.POST('/api/diagrams/add', { body: { draft, origin: s.origin } })),
    onSuccess: (d) => {
      void queries.invalidateQueries({ queryKey: diagramsQuery.queryKey, exact: true });
      void navigate(`/diagrams/${d.id}`);
    },
  });
  const ready = placed.data && !placed.isError && !placed.isPlaceholderData;
  return (
    <Dialog open onClose={onClose} maxWidth="lg" fullWidth>
      <DialogTitle>{s.title}</DialogTitle>
      <DialogContent>
        <Typography color="text.secondary">{s.lead}</Typography>
        <Box
          sx={{
            display: 'grid',
            gridTemplateColumns: { xs: '1fr', md: '1fr 1.3fr' },
            gap: 5,
            pt: 3,
          }}
        >
          <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, alignContent: 'flex-start' }}>
            <TextField
              label={s.name}
              value={name}
              onChange={(e) => setName(e.target.value)}
              fullWidth
              autoFocus
            />
            <PickField
              label={s.kind}
              value={rule.kind}
              options={s.kinds}
              onChange={(kind) => set({ kind })}
            />
            {regular.includes(rule.kind) ? (
              <PickField
                label={s.pose}
                value={rule.pose}
                options={s.poses}
                onChange={(pose) => set({ pose })}
                width={160}
              />
            ) : (
              <>
                <NumberField
                  label={s.sides}
                  min={3}
                  max={60}
                  value={rule.sides}
                  onChange={(sides) => set({ sides: Math.round(sides) })}
                  width={110}
                />
                <NumberField
                  label={s.height}
                  min={0.1}
                  max={10}
                  value={rule.height}
                  onChange={(height) => set({ height })}
                />
              </>
            )}
            <PickField
              label={s.gear}
              value={String(body.gear)}
              options={Object.fromEntries(gears.map((g) => [String(g), String(g)]))}
              onChange={(g) => setGear(Number(g))}
              width={110}
            />
            <NumberField
              label={s.index}
              min={1.01}
              max={4}
              value={index}
              onChange={setIndex}
              width={140}
            />
            <Refusal error={placed.error ?? keep.error} />
          </Box>
          <Box>{placed.data && <SolidDrawn draft={placed.data.draft} />}</Box>
        </Box>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!ready || keep.isPending}
          onClick={() => ready && keep.mutate(placed.data.draft)}
        >
          {s.keep}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
