import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useNavigate } from 'react-router';
import { addPiece, readMesh, workedQuery, type ParcelLine, type PieceForm } from '../../api/rough';
import { MaterialField } from '../../parts/fields/MaterialField';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { base64 } from '../../parts/base64';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { Care } from '../../parts/Page';
import { Row } from '../../parts/Row';
import { carats } from '../../words/numbers';
import { roughWords } from '../../words/rough';
import { w } from '../../words/words';
import { Estimate } from './Estimate';
import { PieceSmall } from './PieceDrawn';
import { askew } from './PieceInRound';
import { Weight } from './Weight';

const r = roughWords.adding;

const nothing: PieceForm = {
  parcel: '',
  parent: '',
  weighed: '',
  unit: 'ct',
  along: '',
  across: '',
  seen: [],
  fate: 'whole',
  rough: {
    name: '',
    material: '',
    note: '',
    solid: { kind: 'pebble', size: { x: 12, y: 10, z: 8 }, points: [] },
    trims: [],
    flaws: [],
    axis: null,
    colour: null,
  },
  survey: null,
  version: 0,
};

/** What is enough to begin with: the material and three sizes, or a scan. */
export function AddPiece({ parcels, onClose }: { parcels: ParcelLine[]; onClose: () => void }) {
  const [draft, setDraft] = useState(nothing);
  const { readable, report } = useReadable();
  const add = useMutation(addPiece);
  const scan = useMutation(readMesh);
  const navigate = useNavigate();
  const { rough } = draft;
  const ready = rough.material !== '';
  const worked = useQuery({ ...workedQuery(draft), enabled: ready && readable });
  const set = (change: Partial<PieceForm>) => setDraft({ ...draft, ...change });
  const setRough = (change: Partial<PieceForm['rough']>) =>
    setDraft({ ...draft, rough: { ...rough, ...change } });
  const setSize = (change: Partial<typeof rough.solid.size>) =>
    setRough({ solid: { ...rough.solid, size: { ...rough.solid.size, ...change } } });
  const take = (file: File | undefined) => {
    if (!file) return;
    void base64(file).then((data) =>
      scan.mutate(data, {
        onSuccess: ({ points }) => setRough({ solid: { ...rough.solid, kind: 'hull', points } }),
      }),
    );
  };
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>{r.title}</DialogTitle>
      <DialogContent>
        <FormFields value={report}>
          <Box sx={{ display: 'grid', gap: 6, gridTemplateColumns: { md: '1fr 320px' }, pt: 2 }}>
            <Box sx={{ display: 'grid', gap: 4, alignContent: 'start' }}>
              <Row>
                <MaterialField
                  label={w.stones.material}
                  value={rough.material}
                  onChange={(material) => setRough({ material })}
                  width={230}
                />
                <Weight draft={draft} set={set} />
              </Row>
              <Row>
                <PickField
                  label={r.shape}
                  value={rough.solid.kind}
                  options={r.shapes}
                  onChange={(kind) =>
                    kind !== 'hull' && setRough({ solid: { ...rough.solid, kind } })
                  }
                  width={120}
                />
                {rough.solid.kind !== 'hull' &&
                  (
                    [
                      ['x', r.length],
                      ['y', r.width],
                      ['z', r.depth],
                    ] as const
                  ).map(([axis, label]) => (
                    <NumberField
                      key={axis}
                      label={label}
                      unit="mm"
                      min={0.1}
                      max={1000}
                      value={rough.solid.size[axis]}
                      onChange={(v) => setSize({ [axis]: v })}
                      width={112}
                    />
                  ))}
              </Row>
              <Box>
                <Button component="label">
                  {r.scan}
                  <input
                    type="file"
                    hidden
                    accept=".obj,.stl,.ply"
                    onChange={(e) => take(e.target.files?.[0])}
                  />
                </Button>{' '}
                <Typography component="span" color="text.secondary">
                  {rough.solid.kind === 'hull'
                    ? r.scanned(rough.solid.points.length / 3)
                    : r.scanHelp}
                </Typography>
                {scan.data?.hollow && <Care>{r.hollow}</Care>}
                <Refusal error={scan.error} />
              </Box>
              <Row>
                <TextField
                  label={r.name}
                  helperText={r.nameHelp}
                  value={rough.name}
                  onChange={(e) => setRough({ name: e.target.value })}
                  sx={{ width: 230 }}
                />
                <PickField
                  label={r.parcel}
                  value={draft.parcel}
                  options={{
                    '': r.noParcel,
                    ...Object.fromEntries(parcels.map((p) => [p.id, p.name])),
                  }}
                  onChange={(parcel) => set({ parcel })}
                  width={230}
                />
              </Row>
            </Box>
            <Box>
              {worked.data && ready && (
                <>
                  <PieceSmall kept={worked.data.kept} camera={askew} height={150} />
                  <Typography variant="figures" component="div">
                    {roughWords.bySolid}: {carats(worked.data.wholeCarats)}
                  </Typography>
                  {worked.data.care && <Care>{worked.data.care}</Care>}
                </>
              )}
              <Refusal error={worked.error} />
              <Estimate draft={draft} ready={ready && readable} />
            </Box>
          </Box>
        </FormFields>
        <Refusal error={add.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!ready || !readable || add.isPending}
          onClick={() => add.mutate(draft, { onSuccess: (p) => void navigate(`/rough/${p.id}`) })}
        >
          {r.put}
        </Button>
      </DialogActions>
    </Dialog>
  );
}
