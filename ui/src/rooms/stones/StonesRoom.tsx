import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import { useInfiniteQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import type { StoneLine } from '../../api/client';
import { stonesQuery, type StoneFilter } from '../../api/stones';
import { More } from '../../parts/More';
import { useFilter } from '../../parts/useFilter';
import { Await, Empty, PageHead } from '../../parts/Page';
import { PickField } from '../../parts/fields/PickField';
import { Thumbnail } from '../../parts/Thumbnail';
import { Sheet } from '../../parts/Sheet';
import { day, hours as formatHours, mm } from '../../words/numbers';
import { aboutOf, pathOf, titleOf } from '../../parts/work/naming';
import { freehandWords } from '../../words/freehand';
import { repairWords } from '../../words/repairs';
import { runWords } from '../../words/runs';
import { recutWords } from '../../words/recut';
import { w } from '../../words/words';

const noFilter = { text: '', state: '' };

export function StonesRoom() {
  const [filter, change] = useFilter(noFilter);
  const stones = useInfiniteQuery(stonesQuery(filter as StoneFilter));
  const all = filter.text === '' && filter.state === '';
  return (
    <>
      <PageHead title={w.stones.title}>
        <Button component={Link} to="/repairs/new">
          {repairWords.takeIn}
        </Button>
        <Button component={Link} to="/recut">
          {recutWords.anyTitle}
        </Button>
        <Button component={Link} to="/freehand/new">
          {freehandWords.open}
        </Button>
        <Button component={Link} to="/stones/new" variant="contained">
          {w.today.newStone}
        </Button>
      </PageHead>
      <Await query={stones}>
        {({ pages }) => {
          const list = pages.flatMap((p) => p.stones);
          if (list.length === 0 && all)
            return (
              <Empty text={w.stones.nothing}>
                <Button component={Link} to="/stones/new">
                  {w.today.newStone}
                </Button>
              </Empty>
            );
          return (
            <>
              <Box sx={{ display: 'flex', gap: 3, px: 6, py: 3 }} role="search">
                <TextField
                  label={w.stones.search}
                  value={filter.text}
                  onChange={(e) => change({ text: e.target.value })}
                  sx={{ width: 360 }}
                />
                <PickField
                  label={w.stones.state}
                  value={filter.state}
                  options={{ '': w.diagrams.any, ...w.stones.states }}
                  onChange={(state) => change({ state })}
                  width={190}
                />
              </Box>
              {list.length === 0 ? (
                <Empty text={w.stones.noMatch}>
                  <Button onClick={() => change(noFilter)}>{w.diagrams.clear}</Button>
                </Empty>
              ) : (
                <StoneTable stones={list} />
              )}
              <More query={stones} shown={list.length} total={pages.at(-1)!.total} />
            </>
          );
        }}
      </Await>
    </>
  );
}

/** Stones in a table. Hours stand there where they are asked for. */
export function StoneTable({ stones, hours }: { stones: StoneLine[]; hours?: boolean }) {
  return (
    <Sheet
      fold={900}
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
            <Thumbnail hash={s.picture} size={40} />
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
          <td className="figure">{day(s.lastEvent)}</td>
          {hours && <td className="figure">{formatHours(s.hours)} h</td>}
        </tr>
      ))}
    </Sheet>
  );
}
