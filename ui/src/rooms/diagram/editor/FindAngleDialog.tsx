import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { Draft } from '../../../api/client';
import { usualQuery } from '../../../api/settings';
import { findAngleQuery } from '../../../api/solving';
import { Await } from '../../../parts/Page';
import { Sheet } from '../../../parts/Sheet';
import { useSolved } from '../../../parts/stone/useSolved';
import { editingWords } from '../../../words/editing';
import { angle, exactAngle, parseNumber, um } from '../../../words/numbers';
import { w } from '../../../words/words';

const f = editingWords.findAngle;

interface Props {
  draft: Draft;
  tier: number;
  onTake: (angle: string) => void;
  onClose: () => void;
}

/** Angles at which a tier comes to a second meet, exact and as the protractor sets them. */
export function FindAngleDialog(props: Props) {
  const usual = useQuery(usualQuery);
  const t = props.draft.tiers[props.tier]!;
  return (
    <Dialog open onClose={props.onClose} maxWidth="md" fullWidth>
      <DialogTitle>{f.title(t.name)}</DialogTitle>
      <DialogContent>
        <Await query={usual}>
          {(u) => <Found {...props} width={parseNumber(props.draft.width) ?? u.width} />}
        </Await>
      </DialogContent>
      <DialogActions>
        <Button onClick={props.onClose}>{w.common.close}</Button>
      </DialogActions>
    </Dialog>
  );
}

function Found({ draft, tier, width, onTake }: Props & { width: number }) {
  const found = useQuery(findAngleQuery(draft, tier, width));
  const t = draft.tiers[tier]!;
  const stop = useSolved(draft).shown?.tiers[tier]?.stop ?? t.stop;
  return (
    <Await query={found}>
      {({ angles }) => (
        <>
          <Typography gutterBottom>{f.lead(t.name, t.angle, stop)}</Typography>
          {angles.length === 0 ? (
            <Typography>{f.none}</Typography>
          ) : (
            <Sheet head={[f.second, f.exact, f.settable, '']}>
              {angles.map((a) => (
                <tr key={a.angle}>
                  <td style={{ whiteSpace: 'normal' }}>{a.meet}</td>
                  <td>
                    <Take angle={a.angle} onTake={onTake} />
                  </td>
                  <td>
                    {a.below === a.above ? (
                      f.asIs
                    ) : (
                      <>
                        <Take angle={a.below} onTake={onTake} /> {f.leaves(um(a.belowGap))}
                      </>
                    )}
                  </td>
                  <td>
                    {a.below !== a.above && (
                      <>
                        <Take angle={a.above} onTake={onTake} /> {f.leaves(um(a.aboveGap))}
                      </>
                    )}
                  </td>
                </tr>
              ))}
            </Sheet>
          )}
        </>
      )}
    </Await>
  );
}

function Take({ angle: at, onTake }: { angle: number; onTake: (angle: string) => void }) {
  return (
    // Six digits keep the second meet to far less than an eye sees.
    <Button size="small" onClick={() => onTake(exactAngle(at))} aria-label={f.take(exactAngle(at))}>
      {angle(at)}°
    </Button>
  );
}
