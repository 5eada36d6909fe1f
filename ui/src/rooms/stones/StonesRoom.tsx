import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { Summary } from '../../api/client';
import { stonesQuery } from '../../api/queries';
import { Await, Empty, PageHead } from '../../parts/Page';
import { Thumbnail } from '../../parts/Thumbnail';
import { Sheet } from '../../parts/Sheet';
import { date, hours as formatHours, mm } from '../../words/numbers';
import { runWords } from '../../words/runs';
import { w } from '../../words/words';

export function StonesRoom() {
  const stones = useQuery(stonesQuery);
  return (
    <>
      <PageHead title={w.stones.title}>
        <Button component={Link} to="/stones/new" variant="contained">
          {w.today.newStone}
        </Button>
      </PageHead>
      <Await query={stones}>
        {(list) =>
          list.length === 0 ? (
            <Empty text={w.stones.nothing}>
              <Button component={Link} to="/stones/new">
                {w.today.newStone}
              </Button>
            </Empty>
          ) : (
            <StoneTable stones={list} />
          )
        }
      </Await>
    </>
  );
}

/** Stones in a table. Hours stand there where they are asked for. */
export function StoneTable({ stones, hours }: { stones: Summary[]; hours?: boolean }) {
  return (
    <Sheet
      head={[
        w.stones.number,
        '',
        w.stones.what,
        w.stones.material,
        w.stones.size,
        w.stones.progress,
        w.stones.state,
        w.stones.touched,
        ...(hours ? [runWords.hours] : []),
      ]}
    >
      {stones.map((s) => (
        <tr key={s.id}>
          <td className="figure">{s.number}</td>
          <td>
            <Thumbnail picture={s.picture} size={40} />
          </td>
          <td>
            <Box component={Link} to={`/stones/${s.id}`} sx={{ color: 'text.primary' }}>
              {s.name || s.work.plan.diagramName}
            </Box>
            <Box sx={{ color: 'text.secondary' }}>
              {s.work.plan.diagramName}
              {s.run && ` · ${runWords.partOf(s.runPlace)}`}
            </Box>
          </td>
          <td>{s.work.plan.choices.material}</td>
          <td className="figure">{mm(s.work.plan.choices.size.mm)}</td>
          <td className="figure">{w.common.of(s.done, s.all)}</td>
          <td>{w.stones.states[s.state]}</td>
          <td className="figure">{date(s.lastEvent)}</td>
          {hours && <td className="figure">{formatHours(s.hours)} h</td>}
        </tr>
      ))}
    </Sheet>
  );
}
