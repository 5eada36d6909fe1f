import DarkModeOutlined from '@mui/icons-material/DarkModeOutlined';
import KeyboardOutlined from '@mui/icons-material/KeyboardOutlined';
import LightModeOutlined from '@mui/icons-material/LightModeOutlined';
import SettingsOutlined from '@mui/icons-material/SettingsOutlined';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Tooltip from '@mui/material/Tooltip';
import { useIsFetching, useIsMutating } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Link, NavLink, Outlet, useNavigate, useNavigation } from 'react-router';
import { DiskCares, DiskState } from '../parts/work/DiskState';
import { kitWords } from '../words/kit';
import { roughWords } from '../words/rough';
import { w } from '../words/words';
import { useKeyHelp, useKeys } from '../parts/keys';
import { useScheme } from './scheme';
import { useScrollMemory } from './useScrollMemory';

/** The rooms in the order of the work. */
const rooms = [
  { to: '/', name: w.rooms.today, key: '1' },
  { to: '/rough', name: roughWords.title, key: '2' },
  { to: '/diagrams', name: w.rooms.diagrams, key: '3' },
  { to: '/stones', name: w.rooms.stones, key: '4' },
  { to: '/logbook', name: w.rooms.logbook, key: '5' },
  { to: '/kit', name: kitWords.title, key: '6' },
];

export function Shell() {
  const navigate = useNavigate();
  useKeys(
    rooms.map((r) => ({ keys: [r.key], label: w.keys.go(r.name), run: () => void navigate(r.to) })),
  );
  return (
    <Box sx={{ height: '100%', display: 'flex', flexDirection: 'column' }}>
      <Box
        component="header"
        sx={{
          display: 'flex',
          alignItems: 'stretch',
          borderBottom: 1,
          borderColor: 'text.primary',
          px: 4,
          flexShrink: 0,
          flexWrap: 'wrap',
        }}
      >
        <Box
          component="nav"
          aria-label={w.common.main}
          sx={{ display: 'flex', gap: 1, flexGrow: 1 }}
        >
          <Box
            sx={{
              alignSelf: 'center',
              fontWeight: 600,
              letterSpacing: '0.14em',
              pr: 6,
              textTransform: 'uppercase',
            }}
          >
            {w.name}
          </Box>
          {rooms.map((r) => (
            <RoomLink key={r.to} to={r.to} name={r.name} />
          ))}
        </Box>
        <DiskState quiet />
        <Tools />
      </Box>
      <DiskCares />
      <Room>
        <Outlet />
      </Room>
    </Box>
  );
}

/** Where the rooms stand. Only this says that something is under way, so only this follows it. */
function Room({ children }: { children: ReactNode }) {
  // While the next room loads, the last one is still seen.
  const leaving = useNavigation().state !== 'idle';
  const busy = useIsFetching() + useIsMutating() > 0 || leaving;
  const box = useScrollMemory<HTMLElement>();
  return (
    // Not aria-busy: what is said in a live region meanwhile would not be heard.
    <Box
      component="main"
      ref={box}
      data-busy={busy}
      sx={{ flexGrow: 1, minHeight: 0, overflow: 'auto' }}
    >
      {children}
    </Box>
  );
}

function RoomLink({ to, name }: { to: string; name: string }) {
  return (
    <Box
      component={NavLink}
      to={to}
      end={to === '/'}
      sx={{
        display: 'flex',
        alignItems: 'center',
        px: 4,
        minHeight: 48,
        color: 'text.primary',
        textDecoration: 'none',
        borderBottom: '3px solid transparent',
        '&.active': { borderColor: 'primary.main', fontWeight: 600 },
        '&:hover': { background: (t) => t.tokens.sheet },
      }}
    >
      {name}
    </Box>
  );
}

function Tools() {
  const { scheme, toggle } = useScheme();
  const showKeys = useKeyHelp();
  const schemeName = scheme === 'light' ? w.common.dark : w.common.light;
  return (
    <Box sx={{ display: 'flex', alignItems: 'center' }}>
      <Tooltip title={schemeName}>
        <IconButton onClick={toggle} aria-label={schemeName}>
          {scheme === 'light' ? <DarkModeOutlined /> : <LightModeOutlined />}
        </IconButton>
      </Tooltip>
      <Tooltip title={w.common.keys}>
        <IconButton onClick={showKeys} aria-label={w.common.keys}>
          <KeyboardOutlined />
        </IconButton>
      </Tooltip>
      <Tooltip title={w.common.machine}>
        <IconButton component={Link} to="/machine" aria-label={w.common.machine}>
          <SettingsOutlined />
        </IconButton>
      </Tooltip>
    </Box>
  );
}
