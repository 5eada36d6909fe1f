import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Material, Settings } from '../../api/client';
import { materialsQuery } from '../../api/settings';
import { Await } from '../../parts/Page';
import { Sheet } from '../../parts/Sheet';
import { angle, plain } from '../../words/numbers';
import { machineWords } from '../../words/machine';
import { figuresOf, MaterialDialog } from './MaterialDialog';

export type OwnMaterial = Settings['materials'][number];

const m = machineWords.material;

interface Props {
  own: OwnMaterial[];
  onChange: (own: OwnMaterial[]) => void;
}

/** The material table with the owner's own beside it. */
export function MaterialsDesk({ own, onChange }: Props) {
  const table = useQuery(materialsQuery);
  const [q, setQ] = useState('');
  const [editing, setEditing] = useState<{ was: string; material: OwnMaterial } | null>(null);
  return (
    <Await query={table}>
      {(all) => {
        const known = all.filter((o) => !o.own);
        const rows = [...known, ...own].sort((a, b) => a.name.localeCompare(b.name));
        const found = rows.filter((o) => o.name.toLowerCase().includes(q.toLowerCase()));
        return (
          <>
            <Box sx={{ display: 'flex', gap: 3, mb: 3 }}>
              <TextField label={m.search} value={q} onChange={(e) => setQ(e.target.value)} />
              <Button onClick={() => setEditing({ was: '', material: fresh(known) })}>
                {m.add}
              </Button>
            </Box>
            <Box sx={{ overflow: 'auto', maxHeight: 'calc(100vh - 330px)' }}>
              <Sheet
                fold={1150}
                dense
                head={[
                  m.material,
                  m.index,
                  m.critical,
                  m.optic,
                  m.birefringence,
                  m.dispersion,
                  m.sg,
                  m.hardness,
                  m.cleavage,
                  m.polish,
                  m.heat,
                  m.dust,
                ]}
              >
                {found.map((o) => (
                  <Row
                    key={o.name}
                    material={o}
                    critical={all.find((a) => a.name === o.name)?.criticalAngle.high}
                    onEdit={
                      own.includes(o) ? () => setEditing({ was: o.name, material: o }) : undefined
                    }
                  />
                ))}
              </Sheet>
            </Box>
            {editing && (
              <MaterialDialog
                material={editing.material}
                known={known}
                onClose={() => setEditing(null)}
                onRemove={
                  editing.was
                    ? () => {
                        onChange(own.filter((o) => o.name !== editing.was));
                        setEditing(null);
                      }
                    : undefined
                }
                onKeep={(changed) => {
                  onChange([...own.filter((o) => o.name !== editing.was), changed]);
                  setEditing(null);
                }}
              />
            )}
          </>
        );
      }}
    </Await>
  );
}

/** A new material begins with the figures of one that is known. */
function fresh(known: Material[]): OwnMaterial {
  return { ...figuresOf(known.find((o) => o.name === 'Practice glass')!), name: '' };
}

const span = (r: { low: number; high: number }) =>
  r.low === r.high ? plain(r.low) : `${plain(r.low)}–${plain(r.high)}`;

function Row({
  material: o,
  critical,
  onEdit,
}: {
  material: OwnMaterial;
  /** Reckoned by the server, so not there for what is not saved yet. */
  critical?: number;
  onEdit?: () => void;
}) {
  return (
    <tr>
      <td>
        {onEdit ? (
          <Button size="small" onClick={onEdit} aria-label={m.edit(o.name)}>
            {o.name} · {m.own}
          </Button>
        ) : (
          o.name
        )}
      </td>
      <td className="figure">{span(o.refractiveIndex)}</td>
      <td className="figure">{critical === undefined ? '–' : `${angle(critical)}°`}</td>
      <td>{m.optics[o.optic]}</td>
      <td className="figure">{o.birefringence ? plain(o.birefringence) : '–'}</td>
      <td className="figure">{o.dispersion ? plain(o.dispersion) : '–'}</td>
      <td className="figure">{plain(o.sg)}</td>
      <td className="figure">{span(o.hardness)}</td>
      <td>{m.cleavages[o.cleavage]}</td>
      <td>{m.polishes[o.polish]}</td>
      <td>{m.heats[o.heat]}</td>
      <td>{m.dusts[o.dust]}</td>
    </tr>
  );
}
