import Close from '@mui/icons-material/Close';
import KeyboardOutlined from '@mui/icons-material/KeyboardOutlined';
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { BenchScript } from '../../api/client';
import { useKeyHelp } from '../../app/keys';
import { Care } from '../../parts/Page';
import { um } from '../../words/numbers';
import { deviceWords } from '../../words/devices';
import { machineWords } from '../../words/machine';
import { w } from '../../words/words';
import type { BenchState } from './state';
import type { useBenchLog } from './useBenchLog';
import type { Habit } from './work';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: ReturnType<typeof useBenchLog>;
  habit: Habit;
  onHabit: (h: Habit) => void;
  onLeave: () => void;
}

export function BenchHead({ script, state, log, habit, onHabit, onLeave }: Props) {
  const showKeys = useKeyHelp();
  // Over plain http from another machine there is no service worker to load the page from.
  const [plain, setPlain] = useState(!window.isSecureContext);
  const done = state.visited.filter(Boolean).length;
  return (
    <Box component="header" sx={{ borderBottom: 1, borderColor: 'divider', px: 3 }}>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 3, minHeight: 64 }}>
        <IconButton onClick={onLeave} aria-label={w.bench.leave} sx={{ width: 64, height: 64 }}>
          <Close />
        </IconButton>
        <Typography component="h1" variant="h2" noWrap sx={{ flexGrow: 1 }}>
          {script.number} · {script.diagram} · {script.material}
        </Typography>
        <Typography variant="figures" aria-label={w.stones.progress}>
          {w.bench.progress(done, script.visits.length)}
        </Typography>
        <Typography color="text.secondary" sx={{ minWidth: 84 }}>
          {log.hollow.size > 0 ? w.bench.waiting(log.hollow.size) : w.bench.onDisk}
        </Typography>
        <TextField
          select
          label={w.bench.tick}
          value={habit}
          onChange={(e) => onHabit(e.target.value as Habit)}
          sx={{ minWidth: 190 }}
          // The keys are the bench's again as soon as a habit is chosen.
          slotProps={{ select: { MenuProps: { disableRestoreFocus: true } } }}
        >
          {Object.entries(machineWords.ticks).map(([value, name]) => (
            <MenuItem key={value} value={value}>
              {name}
            </MenuItem>
          ))}
        </TextField>
        <IconButton onClick={showKeys} aria-label={w.common.keys} sx={{ width: 64, height: 64 }}>
          <KeyboardOutlined />
        </IconButton>
      </Box>
      <div role="status">
        {plain && (
          <Care>
            {deviceWords.keepOpen}{' '}
            <Button size="small" onClick={() => setPlain(false)}>
              {deviceWords.understood}
            </Button>
          </Care>
        )}
        {script.cheatGap > 0 && <Care>{w.bench.noCheater(um(script.cheatGap))}</Care>}
        {log.fleeting && <Care>{w.bench.fleeting}</Care>}
        {log.away && <Care>{w.bench.away(log.hollow.size)}</Care>}
        {log.refused && (
          <Care grave>
            {w.bench.refused} {log.refused.message}
          </Care>
        )}
      </div>
    </Box>
  );
}
