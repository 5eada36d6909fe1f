import Close from '@mui/icons-material/Close';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import IconButton from '@mui/material/IconButton';
import TextField from '@mui/material/TextField';
import { useMutation } from '@tanstack/react-query';
import { useState } from 'react';
import { ranges } from '../../api/ranges';
import { saveRecipe, type Recipe } from '../../api/trials';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { Row } from '../../parts/Row';
import { kitWords } from '../../words/kit';
import { w } from '../../words/words';

const k = kitWords.recipes;

interface Props {
  recipe: Recipe;
  onKept: (r: Recipe) => void;
  onClose: () => void;
}

type Surface = Recipe['surfaces'][number];

/** A recipe of one's own. */
export function RecipeDialog({ recipe, onKept, onClose }: Props) {
  const [r, setR] = useState(recipe);
  const { readable, report } = useReadable();
  const save = useMutation(saveRecipe);
  const set = (change: Partial<Recipe>) => setR({ ...r, ...change });
  const whole =
    r.name.trim() !== '' &&
    r.steps.every((s) => s.text.trim() !== '') &&
    r.parts.every((p) => p.what.trim() !== '');
  return (
    <Dialog open onClose={onClose} maxWidth="md" fullWidth>
      <DialogTitle>{k.dialog}</DialogTitle>
      <DialogContent>
        <FormFields value={report}>
          <Box sx={{ display: 'grid', gap: 3, pt: 2 }}>
            <Row>
              <TextField
                label={k.name}
                value={r.name}
                autoFocus
                onChange={(e) => set({ name: e.target.value })}
                sx={{ flex: '1 1 300px' }}
              />
              <PickField
                label={k.kind}
                value={r.kind}
                options={k.kinds}
                onChange={(kind) => set({ kind: kind as Recipe['kind'] })}
                width={150}
              />
            </Row>
            <Box role="group" aria-label={k.surfaces}>
              {Object.entries(kitWords.fields.surfaces).map(([surface, name]) => (
                <FormControlLabel
                  key={surface}
                  control={
                    <Checkbox
                      checked={r.surfaces.includes(surface as Surface)}
                      onChange={(e) =>
                        set({
                          surfaces: e.target.checked
                            ? [...r.surfaces, surface as Surface]
                            : r.surfaces.filter((s) => s !== surface),
                        })
                      }
                    />
                  }
                  label={name}
                />
              ))}
            </Box>
            <Parts parts={r.parts} onChange={(parts) => set({ parts })} />
            <Steps steps={r.steps} onChange={(steps) => set({ steps })} />
            <TextField
              label={k.caution}
              value={r.caution}
              multiline
              onChange={(e) => set({ caution: e.target.value })}
            />
          </Box>
        </FormFields>
        <Refusal error={save.error} />
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.cancel}</Button>
        <Button
          variant="contained"
          disabled={!whole || !readable || save.isPending}
          onClick={() => save.mutate(r, { onSuccess: onKept })}
        >
          {w.common.save}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

const changed = <T,>(list: T[], i: number, change: Partial<T>): T[] =>
  list.map((o, n) => (n === i ? { ...o, ...change } : o));

function Parts(props: { parts: Recipe['parts']; onChange: (p: Recipe['parts']) => void }) {
  const { parts, onChange } = props;
  return (
    <Box>
      {parts.map((p, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 2, mb: 2, alignItems: 'flex-start' }}>
          <TextField
            label={k.part}
            value={p.what}
            onChange={(e) => onChange(changed(parts, i, { what: e.target.value }))}
            sx={{ flex: 1 }}
          />
          <NumberField
            label={k.amount}
            {...ranges.RecipePart.amount}
            value={p.amount}
            onChange={(amount) => onChange(changed(parts, i, { amount }))}
            width={110}
          />
          <TextField
            label={k.unit}
            value={p.unit}
            onChange={(e) => onChange(changed(parts, i, { unit: e.target.value }))}
            sx={{ width: 90 }}
          />
          <PickField
            label={k.per}
            value={p.per}
            options={k.pers}
            onChange={(per) => onChange(changed(parts, i, { per: per as typeof p.per }))}
            width={120}
          />
          <IconButton
            aria-label={k.remove(p.what)}
            onClick={() => onChange(parts.filter((_, n) => n !== i))}
          >
            <Close />
          </IconButton>
        </Box>
      ))}
      <Button onClick={() => onChange([...parts, { what: '', amount: 1, unit: 'g', per: 'area' }])}>
        {k.addPart}
      </Button>
    </Box>
  );
}

function Steps(props: { steps: Recipe['steps']; onChange: (s: Recipe['steps']) => void }) {
  const { steps, onChange } = props;
  return (
    <Box>
      {steps.map((s, i) => (
        <Box key={i} sx={{ display: 'flex', gap: 2, mb: 2, alignItems: 'flex-start' }}>
          <TextField
            label={k.step(i + 1)}
            value={s.text}
            multiline
            onChange={(e) => onChange(changed(steps, i, { text: e.target.value }))}
            sx={{ flex: 1 }}
          />
          <NumberField
            label={k.minutes}
            {...ranges.RecipeStep.minutes}
            value={s.minutes || undefined}
            optional="–"
            onChange={(minutes) => onChange(changed(steps, i, { minutes: minutes ?? 0 }))}
            width={110}
          />
          <IconButton
            aria-label={k.remove(k.step(i + 1))}
            disabled={steps.length === 1}
            onClick={() => onChange(steps.filter((_, n) => n !== i))}
          >
            <Close />
          </IconButton>
        </Box>
      ))}
      <Button onClick={() => onChange([...steps, { text: '', minutes: 0 }])}>{k.addStep}</Button>
    </Box>
  );
}
