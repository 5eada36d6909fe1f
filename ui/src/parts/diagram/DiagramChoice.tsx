import Box from '@mui/material/Box';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useInfiniteQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import { libraryQuery } from '../../api/diagrams';
import { More } from '../More';
import { Await } from '../Page';
import { Thumbnail } from '../Thumbnail';
import { libraryWords } from '../../words/library';
import { w } from '../../words/words';

/** Diagrams to plan a stone from, or to recut the one that is named. */
export function DiagramChoice({ stone = null }: { stone?: string | null }) {
  const [text, setText] = useState('');
  const diagrams = useInfiniteQuery(libraryQuery({ kept: true, text, sort: 'fit' }));
  return (
    <Await query={diagrams}>
      {({ pages }) => {
        const list = pages.flatMap((p) => p.diagrams);
        const { total, next } = pages.at(-1)!;
        return (
          <>
            {(next !== '' || pages.length > 1 || text !== '') && (
              <Box sx={{ px: 6, pt: 4 }} role="search">
                <TextField
                  label={w.diagrams.search}
                  value={text}
                  onChange={(e) => setText(e.target.value)}
                  sx={{ width: 360 }}
                />
              </Box>
            )}
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
                    to={`/stones/new?diagram=${d.id}${stone === null ? '' : `&stone=${stone}`}`}
                    sx={{
                      display: 'block',
                      p: 3,
                      color: 'text.primary',
                      textDecoration: 'none',
                      '&:hover': { backgroundColor: 'background.paper' },
                    }}
                  >
                    <Thumbnail hash={d.revision} size={120} />
                    <Typography variant="h2">{d.facts!.name}</Typography>
                    <Typography color="text.secondary">
                      {[
                        d.facts!.outline,
                        w.diagrams.teeth(d.facts!.gear),
                        w.diagrams.facets(d.facts!.facets),
                        d.judged ? libraryWords.levels[d.judged.level] : '',
                        d.judged?.cuttable ? libraryWords.fits : '',
                      ]
                        .filter(Boolean)
                        .join(' · ')}
                    </Typography>
                  </Box>
                </Box>
              ))}
            </Box>
            <More query={diagrams} shown={list.length} total={total} />
          </>
        );
      }}
    </Await>
  );
}
