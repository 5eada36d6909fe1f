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
import { aboutOf, pathOf, titleOf } from './naming';
import { repairWords } from '../../words/repairs';
import { runWords } from '../../words/runs';
import { w } from '../../words/words';

export function StonesRoom() {
  const stones = useQuery(stonesQuery);
  return (
    <>
      <PageHead title={w.stones.title}>
        <Button component={Link} to="/repairs/new">
          {repairWords.takeIn}
        </Button>
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
            <Box component={Link} to={pathOf(s)} sx={{ color: 'text.primary' }}>
              {titleOf(s)}
            </Box>
            <Box sx={{ color: 'text.secondary' }}>
              {aboutOf(s)}
              {s.run && ` · ${runWords.partOf(s.runPlace)}`}
            </Box>
          </td>
          <td>{s.material}</td>
          <td className="figure">{s.sizeMM > 0 ? mm(s.sizeMM) : '–'}</td>
          <td className="figure">{s.all > 0 ? w.common.of(s.done, s.all) : '–'}</td>
          <td>{w.stones.states[s.state]}</td>
          <td className="figure">{date(s.lastEvent)}</td>
          {hours && <td className="figure">{formatHours(s.hours)} h</td>}
        </tr>
      ))}
    </Sheet>
  );
}
