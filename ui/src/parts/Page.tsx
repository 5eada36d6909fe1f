import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useEffect, type ReactNode } from 'react';
import { ApiProblem } from '../api/client';
import { w } from '../words/words';
import { useArrival } from './useArrival';

/** On a screen that is wide enough for it. */
const inOneRow = {
  whiteSpace: { md: 'nowrap' },
  overflow: { md: 'hidden' },
  textOverflow: { md: 'ellipsis' },
};

/** A page's head, like the title block of a drawing: what it is, its particulars, what can be done. */
export function PageHead({
  title,
  facts,
  children,
}: {
  title: string;
  facts?: string[];
  children?: ReactNode;
}) {
  const heading = useArrival<HTMLHeadingElement>();
  useEffect(() => {
    document.title = `${title} · ${w.name}`;
  }, [title]);
  return (
    <Box
      sx={{
        display: 'flex',
        alignItems: 'center',
        gap: 4,
        px: 6,
        py: 2,
        borderBottom: 1,
        borderColor: 'divider',
        // In one row: what does not fit of a long name or of the facts is cut off, and told on hovering.
        flexWrap: { xs: 'wrap', md: 'nowrap' },
        minHeight: 61,
      }}
    >
      <Typography
        variant="h1"
        ref={heading}
        tabIndex={-1}
        title={title}
        sx={{
          overflowWrap: 'anywhere',
          minWidth: { md: 160 },
          ...inOneRow,
          '&:focus-visible': { outlineOffset: { xs: 6, md: -2 } },
        }}
      >
        {title}
      </Typography>
      <Typography
        component="div"
        color="text.secondary"
        title={facts?.filter(Boolean).join(' · ')}
        sx={{
          flex: '1 1 0',
          minWidth: 0,
          display: 'flex',
          flexWrap: { xs: 'wrap', md: 'nowrap' },
          ...inOneRow,
        }}
      >
        {facts?.filter(Boolean).map((f) => (
          <Box
            key={f}
            component="span"
            sx={{ borderLeft: 1, borderColor: 'divider', px: 3, flexShrink: 0 }}
          >
            {f}
          </Box>
        ))}
      </Typography>
      <Box
        sx={{
          display: 'flex',
          gap: 2,
          alignItems: 'center',
          flexWrap: { xs: 'wrap', md: 'nowrap' },
          flexShrink: { md: 0 },
        }}
      >
        {children}
      </Box>
    </Box>
  );
}

/** Shows a query's data, and until it is there what keeps it. */
export function Await<T>({
  query,
  children,
}: {
  query: {
    data: T | undefined;
    isError: boolean;
    error: unknown;
    refetch: () => unknown;
  };
  children: (data: T) => ReactNode;
}) {
  if (query.data !== undefined) return children(query.data);
  if (query.isError) {
    const text = query.error instanceof ApiProblem ? query.error.message : w.common.unreachable;
    return (
      <Box sx={{ p: 8 }} role="alert">
        <Typography gutterBottom>{text}</Typography>
        <Button onClick={() => void query.refetch()}>{w.common.retry}</Button>
      </Box>
    );
  }
  return <LinearProgress aria-label={w.common.loading} />;
}

/** Teaches what belongs here, with a way to make the first one. */
export function Empty({ text, children }: { text: string; children?: ReactNode }) {
  return (
    <Box sx={{ p: 8, maxWidth: 560 }}>
      <Typography sx={{ mb: 4 }}>{text}</Typography>
      {children}
    </Box>
  );
}

/** Figures of one thing, name and value side by side as on a drawing sheet. */
export function Figures({ rows }: { rows: [name: ReactNode, value: ReactNode][] }) {
  return (
    <Box component="dl" sx={{ m: 0 }}>
      {rows.map(([name, value], i) => (
        <Box
          key={i}
          sx={{ display: 'flex', gap: 4, borderBottom: 1, borderColor: 'divider', py: 0.5 }}
        >
          <Typography component="dt" color="text.secondary" sx={{ flexGrow: 1 }}>
            {name}
          </Typography>
          <Typography component="dd" variant="figures" sx={{ m: 0, textAlign: 'right' }}>
            {value}
          </Typography>
        </Box>
      ))}
    </Box>
  );
}

/** What needs care, marked by a bar and a sign before any colour. */
export function Care({ children, grave }: { children: ReactNode; grave?: boolean }) {
  return (
    <Box
      sx={{
        display: 'flex',
        gap: 2,
        borderLeft: 4,
        borderColor: grave ? 'error.main' : 'secondary.main',
        pl: 3,
        py: 1,
        my: 1,
      }}
    >
      <Box
        component="span"
        aria-hidden
        sx={{ fontWeight: 600, color: grave ? 'error.main' : 'secondary.main' }}
      >
        {grave ? '✕' : '!'}
      </Box>
      <Box>{children}</Box>
    </Box>
  );
}
