import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Summary } from '../../api/client';
import { stonesQuery } from '../../api/queries';
import { Await, Empty, PageHead } from '../../parts/Page';
import { Sheet } from '../../parts/Sheet';
import { Thumbnail } from '../../parts/Thumbnail';
import { carats, hours, sizes } from '../../words/numbers';
import { aboutOf, pathOf, titleOf } from '../stones/naming';
import { w } from '../../words/words';
import { yieldOf } from './CardFigures';

export function LogbookRoom() {
  const stones = useQuery(stonesQuery);
  return (
    <>
      <PageHead title={w.logbook.title} />
      <Await query={stones}>
        {(list) => {
          const finished = list
            .filter((s) => s.work.finish)
            .sort((a, b) => b.work.finish!.finished.localeCompare(a.work.finish!.finished));
          return finished.length > 0 ? (
            <Book stones={finished} />
          ) : (
            <Empty text={w.logbook.nothing}>
              <Button component={Link} to="/stones">
                {w.logbook.toStones}
              </Button>
            </Empty>
          );
        }}
      </Await>
    </>
  );
}

function Book({ stones }: { stones: Summary[] }) {
  const l = w.logbook;
  const sum = (of: (s: Summary) => number) => stones.reduce((total, s) => total + of(s), 0);
  return (
    <Sheet
      head={[
        l.finished,
        '',
        w.stones.what,
        l.material,
        l.rough,
        l.weight,
        l.yield,
        l.size,
        l.hours,
      ]}
    >
      {stones.map((s) => {
        const f = s.work.finish!;
        return (
          <tr key={s.id}>
            <td className="figure">{f.finished}</td>
            <td>
              <Thumbnail picture={s.picture} size={44} />
            </td>
            <td>
              <Box component={Link} to={pathOf(s)} sx={{ color: 'text.primary' }}>
                {s.number} · {titleOf(s)}
              </Box>
              <Box sx={{ color: 'text.secondary' }}>{f.notes || aboutOf(s)}</Box>
            </td>
            <td>{s.material}</td>
            <td className="figure">{f.roughCarats > 0 ? carats(f.roughCarats) : '–'}</td>
            <td className="figure">{f.finishedCarats > 0 ? carats(f.finishedCarats) : '–'}</td>
            <td className="figure">{yieldOf(f)}</td>
            <td className="figure">{sizes(f.widthMM, f.lengthMM, f.heightMM)}</td>
            <td className="figure">{hours(s.hours)}</td>
          </tr>
        );
      })}
      <tr>
        <td>{l.total}</td>
        <td />
        <td className="figure">{stones.length}</td>
        <td />
        <td className="figure">{carats(sum((s) => s.work.finish!.roughCarats))}</td>
        <td className="figure">{carats(sum((s) => s.work.finish!.finishedCarats))}</td>
        <td />
        <td />
        <td className="figure">{hours(sum((s) => s.hours))}</td>
      </tr>
    </Sheet>
  );
}
