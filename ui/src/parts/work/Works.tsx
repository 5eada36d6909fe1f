import Box from '@mui/material/Box';
import Typography from '@mui/material/Typography';
import { Link } from 'react-router';
import type { WorkHead } from '../../api/client';
import { workWords as t } from '../../words/works';
import { Care } from '../Page';

/** Where the page of a stone is, at one of its works or, without one, at the present one. */
export const workPath = (stone: string, task: string, work = ''): string =>
  `/${task === 'repair' ? 'repairs' : 'stones'}/${stone}${work && `?work=${work}`}`;

interface Props {
  stone: string;
  works: readonly WorkHead[];
  /** The work that is shown. */
  shown: string;
}

/** The works on a stone, oldest first, where there is more than one. */
export function Works({ stone, works, shown }: Props) {
  if (works.length < 2) return null;
  const present = works.at(-1)!;
  return (
    <Box component="section" aria-label={t.title} sx={{ my: 4 }}>
      <Typography variant="h3" gutterBottom>
        {t.title}
      </Typography>
      {present.id !== shown && (
        <Care>
          {t.earlier}{' '}
          <Link to={workPath(stone, present.task)} style={{ color: 'inherit' }}>
            {t.toPresent}
          </Link>
        </Care>
      )}
      <Box component="ol" sx={{ listStyle: 'none', m: 0, p: 0 }}>
        {works.map((k) => (
          <Box component="li" key={k.id} sx={{ py: 1 }}>
            {k.id === shown ? (
              <strong aria-current="page">{t.tasks[k.task]}</strong>
            ) : (
              <Link
                to={workPath(stone, k.task, k === present ? '' : k.id)}
                style={{ color: 'inherit' }}
              >
                {t.tasks[k.task]}
              </Link>
            )}
            , {k.finished ? t.finished(k.finished) : t.open}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
