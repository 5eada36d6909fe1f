import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { Link } from 'react-router';
import type { Diagram } from '../../api/client';
import { Thumbnail } from '../../parts/Thumbnail';
import { w } from '../../words/words';

/** Diagrams to plan a stone from. */
export function DiagramChoice({ list }: { list: Diagram[] }) {
  return (
    <Box
      component="ul"
      sx={{
        listStyle: 'none',
        m: 6,
        p: 0,
        display: 'grid',
        gridTemplateColumns: 'repeat(auto-fill, minmax(280px, 1fr))',
        borderTop: 1,
        borderLeft: 1,
        borderColor: 'divider',
      }}
    >
      {list.map((d) => (
        <Box
          component="li"
          key={d.id}
          sx={{ borderRight: 1, borderBottom: 1, borderColor: 'divider' }}
        >
          <Box
            component={Link}
            to={`/stones/new?diagram=${d.id}`}
            sx={{
              display: 'block',
              p: 3,
              color: 'text.primary',
              textDecoration: 'none',
              '&:hover': { backgroundColor: 'background.paper' },
            }}
          >
            <Thumbnail picture={d.picture} size={120} />
            <Typography variant="h2">{d.facts!.name}</Typography>
            <Typography color="text.secondary">
              {[
                d.facts!.outline,
                w.diagrams.teeth(d.facts!.gear),
                w.diagrams.facets(d.facts!.facets),
              ].join(' · ')}
            </Typography>
          </Box>
        </Box>
      ))}
    </Box>
  );
}
