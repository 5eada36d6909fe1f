import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import Typography from '@mui/material/Typography';
import { useEffect, useState, useSyncExternalStore } from 'react';
import { live } from '../../live/browser';
import { log } from '../../log/browser';
import type { LogEvent } from '../../log/events';
import type { RefusedEvent } from '../../log/kept';
import { namesOf, type VisitNames } from '../../log/works';
import { diskWords as d } from '../../words/disk';
import { duration, moment } from '../../words/numbers';
import { w } from '../../words/words';
import { Care } from '../Page';
import { useLogStatus } from './useStoneLog';

/** How much of what was entered in this browser is not on the server's disk yet. */
export function DiskState({ quiet = false }: { quiet?: boolean }) {
  const { waiting } = useLogStatus();
  if (waiting === 0 && quiet) return null;
  return (
    <Typography
      color="text.secondary"
      data-waiting={waiting}
      sx={{ alignSelf: 'center', whiteSpace: 'nowrap', mr: quiet ? 2 : 0 }}
    >
      {waiting > 0 ? (quiet ? d.waitingSomewhere(waiting) : d.waiting(waiting)) : d.onDisk}
    </Typography>
  );
}

/** From how many ms on a clock is wrong. */
const clockOff = 120_000;

/** What needs care about entries that are not on disk, and those that the server refused. */
export function DiskCares() {
  const { waiting, keeps, refused, away, why } = useLogStatus();
  const [reading, setReading] = useState(false);
  const ahead = useSyncExternalStore(live.onInstruments, live.clockAhead);
  return (
    <div role="status">
      {Math.abs(ahead) > clockOff && (
        <Care>{d.clockOff(duration(Math.round(Math.abs(ahead) / 60_000)), ahead > 0)}</Care>
      )}
      {!keeps && <Care>{d.fleeting}</Care>}
      {away && waiting > 0 && <Care>{why ? d.notTaken(why, waiting) : d.away(waiting)}</Care>}
      {refused.length > 0 && (
        <Care grave>
          {d.refused(refused.length)}{' '}
          <Button size="small" onClick={() => setReading(true)}>
            {d.read}
          </Button>
        </Care>
      )}
      {reading && <Refused onClose={() => setReading(false)} />}
    </div>
  );
}

/** The entries that the server refused: what each was, why, and what to do. */
function Refused({ onClose }: { onClose: () => void }) {
  const { refused } = useLogStatus();
  return (
    <Dialog open onClose={onClose} fullWidth>
      <DialogTitle>{d.refusedTitle}</DialogTitle>
      <DialogContent>
        {refused.length === 0 && <Typography>{d.noneRefused}</Typography>}
        {refused.map((r) => (
          <RefusedEntry key={r.id} entry={r} />
        ))}
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.close}</Button>
      </DialogActions>
    </Dialog>
  );
}

function RefusedEntry({ entry }: { entry: RefusedEvent }) {
  const { event } = entry;
  const [names, setNames] = useState<VisitNames>();
  useEffect(() => {
    let over = false;
    void namesOf(event).then((n) => !over && setNames(n));
    return () => {
      over = true;
    };
  }, [event]);
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'flex-start',
        gap: 3,
        py: 2,
        borderBottom: 1,
        borderColor: 'divider',
      }}
    >
      <Box sx={{ flexGrow: 1 }}>
        <Typography sx={{ fontWeight: 600 }}>{whatWas(event, names)}</Typography>
        <Typography color="text.secondary">
          {[names?.stone, moment(event.deviceTime)].filter(Boolean).join(', ')}
        </Typography>
        <Typography>{entry.message}</Typography>
      </Box>
      <Button onClick={() => void log.dismiss(entry.id)} sx={{ minHeight: 44, flexShrink: 0 }}>
        {d.understood}
      </Button>
    </Box>
  );
}

/** An entry in words. */
function whatWas(e: LogEvent, names?: VisitNames): string {
  switch (e.kind) {
    case 'done':
    case 'skip':
      return names
        ? d.visit(e.kind, names.tier, names.tooth, names.pass)
        : `${d.kinds[e.kind]} ${e.payload.facet}`;
    case 'note':
      return `${d.kinds.note}: ${e.payload.text}`;
    case 'check':
      return `${d.kinds.check}: ${e.payload.item}`;
    default:
      return d.kinds[e.kind] ?? e.kind;
  }
}
