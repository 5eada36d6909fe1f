import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Logbook, StoneLine } from '../../api/client';
import { logbookQuery } from '../../api/stones';
import { More } from '../../parts/More';
import { Await, Empty, PageHead } from '../../parts/Page';
import { Sheet } from '../../parts/Sheet';
import { workPath } from '../../parts/work/Works';
import { Thumbnail } from '../../parts/Thumbnail';
import { carats, dayOf, hours, sizes } from '../../words/numbers';
import { aboutOf, titleOf } from '../../parts/work/naming';
import { w } from '../../words/words';
import { yieldOf } from '../../parts/work/CardFigures';

export function LogbookRoom() {
  const book = useInfiniteQuery(logbookQuery);
  return (
    <>
      <PageHead title={w.logbook.title} />
      <Await query={book}>
        {({ pages }) => {
          const stones = pages.flatMap((p) => p.stones);
          const sums = pages[0]!;
          return stones.length > 0 ? (
            <>
              <Book stones={stones} sums={sums} />
              <More query={book} shown={stones.length} total={sums.total} />
            </>
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

function Book({ stones, sums }: { stones: StoneLine[]; sums: Logbook }) {
  const l = w.logbook;
  return (
    <Sheet
      fold={1100}
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
        const f = s.finish!;
        return (
          <tr key={s.workId}>
            <td className="figure">{dayOf(f.finished)}</td>
            <td>
              <Thumbnail hash={s.picture} size={44} />
            </td>
            <td>
              <Box
                component={Link}
                to={workPath(s.id, s.task, s.workId)}
                sx={{ color: 'text.primary' }}
              >
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
        <th scope="row">{l.total}</th>
        <td />
        <td className="figure">{sums.total}</td>
        <td />
        <td className="figure">{carats(sums.roughCarats)}</td>
        <td className="figure">{carats(sums.finishedCarats)}</td>
        <td />
        <td />
        <td className="figure">{hours(sums.hours)}</td>
      </tr>
    </Sheet>
  );
}
