import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useMutation } from '@tanstack/react-query';
import { useState, type FormEvent } from 'react';
import { useSearchParams } from 'react-router';
import { addItem, type ItemKind } from '../../api/kit';
import { ranges } from '../../api/ranges';
import { NumberField } from '../../parts/fields/NumberField';
import { PickField } from '../../parts/fields/PickField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Row } from '../../parts/Row';
import { kitWords } from '../../words/kit';
import { w } from '../../words/words';

const k = kitWords.adding;

/** A new thing in three fields. */
export function AddDialog({ onClose }: { onClose: () => void }) {
  const [kind, setKind] = useState<ItemKind>('lap');
  const [name, setName] = useState('');
  const [size, setSize] = useState<number>();
  const [, setParams] = useSearchParams();
  const { readable, report } = useReadable();
  const say = useNotice();
  const add = useMutation(addItem);
  const submit = (e: FormEvent) => {
    e.preventDefault();
    if (name.trim() === '' || !readable) return;
    add.mutate(
      { kind, name: name.trim(), size: size ?? 0 },
      {
        onSuccess: (made) => {
          say({ text: k.added(made.item.name) });
          setParams({ thing: made.item.id });
          onClose();
        },
      },
    );
  };
  return (
    <Dialog open onClose={onClose} maxWidth="sm" fullWidth>
      <form onSubmit={submit}>
        <DialogTitle>{k.title}</DialogTitle>
        <DialogContent sx={{ display: 'grid', gap: 4 }}>
          <FormFields value={report}>
            <Row>
              <PickField
                label={k.kind}
                value={kind}
                options={kitWords.kinds}
                onChange={setKind}
                width={220}
              />
              <NumberField
                label={k.size[kind]}
                unit={k.units[kind]}
                {...ranges.AddItemRequest.size}
                value={size}
                optional={k.byName}
                onChange={setSize}
              />
            </Row>
            <TextField
              label={k.name}
              value={name}
              autoFocus
              helperText={k.names[kind]}
              onChange={(e) => setName(e.target.value)}
            />
          </FormFields>
          <Typography color="text.secondary">{k.guessed}</Typography>
          <Refusal error={add.error} />
        </DialogContent>
        <DialogActions>
          <Button onClick={onClose}>{w.common.cancel}</Button>
          <Button
            type="submit"
            variant="contained"
            disabled={name.trim() === '' || !readable || add.isPending}
          >
            {k.put}
          </Button>
        </DialogActions>
      </form>
    </Dialog>
  );
}
