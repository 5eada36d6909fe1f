import MuiLink from '@mui/material/Link';
import type { ReactNode } from 'react';
import { Link } from 'react-router';

/** A link within a text. */
export function TextLink({ to, children }: { to: string; children: ReactNode }) {
  return (
    <MuiLink component={Link} to={to}>
      {children}
    </MuiLink>
  );
}
