import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import type { BenchScript } from '../../api/client';
import { FullHead } from '../../parts/FullHead';
import { DiskCares, DiskState } from '../../parts/work/DiskState';
import { Care } from '../../parts/Page';
import { um } from '../../words/numbers';
import { deviceWords } from '../../words/devices';
import { diskWords } from '../../words/disk';
import { machineWords } from '../../words/machine';
import { wheelWords } from '../../words/wheel';
import { w } from '../../words/words';
import { useReloads } from './reloads';
import type { BenchState } from '../../log/standing';
import type { Habit } from './work';

/** The head of every bench: what lies on it, and whether what was entered is on disk. */
export function BenchFrame({
  title,
  path,
  onLeave,
  children,
  cares,
  dark,
}: {
  title: string;
  /** Where what is shown comes from. */
  path: string;
  onLeave: () => void;
  children?: ReactNode;
  cares?: ReactNode;
  /** The browser lets the screen go dark. */
  dark?: boolean;
}) {
  // Over plain http from another machine there is no service worker to load the page from.
  const [plain, setPlain] = useState(!window.isSecureContext);
  return (
    <FullHead
      title={title}
      onLeave={onLeave}
      end={
        <Box sx={{ display: 'grid', justifyItems: 'end', minWidth: 164 }}>
          <DiskState />
          <Reloads path={path} />
          {dark && (
            <Typography variant="caption" noWrap>
              {wheelWords.goesDark}
            </Typography>
          )}
        </Box>
      }
      below={
        <>
          {plain && (
            <Care>
              {deviceWords.keepOpen}{' '}
              <Button size="small" onClick={() => setPlain(false)}>
                {deviceWords.understood}
              </Button>
            </Care>
          )}
          {cares}
          <DiskCares />
        </>
      }
    >
      {children}
    </FullHead>
  );
}

/** Says whether the bench would come back if it were loaded anew without the network. */
function Reloads({ path }: { path: string }) {
  const reloads = useReloads(path);
  return (
    <Typography variant="caption" data-reloads={reloads} noWrap sx={{ minHeight: 20 }}>
      {reloads === undefined ? '' : reloads ? diskWords.reloads : diskWords.noReload}
    </Typography>
  );
}

interface Props {
  script: BenchScript;
  /** The log was read: before that nobody knows how much is cut. */
  known: boolean;
  state: BenchState;
  path: string;
  habit: Habit;
  onHabit: (h: Habit) => void;
  /** Shows the facets that were skipped. */
  onSkipped: () => void;
  onLeave: () => void;
  /** The browser lets the screen go dark. */
  dark: boolean;
}

export function BenchHead(props: Props) {
  const { script, known, state, path, habit, onHabit, onSkipped, onLeave, dark } = props;
  return (
    <BenchFrame
      title={`${script.number} · ${script.diagram} · ${script.material}`}
      path={path}
      onLeave={onLeave}
      dark={dark}
      cares={script.cheatGap > 0 && <Care>{w.bench.noCheater(um(script.cheatGap))}</Care>}
    >
      <Typography variant="figures" role="status" aria-label={w.stones.progress} noWrap>
        {known && w.bench.progress(state.done, script.visits.length)}
      </Typography>
      {known && state.skipped.length > 0 && (
        <Button onClick={onSkipped} sx={{ minHeight: 48, flexShrink: 0 }}>
          {w.bench.skipped(state.skipped.length)}
        </Button>
      )}
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
    </BenchFrame>
  );
}
