import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import type { Draft } from '../../api/client';
import { usualQuery } from '../../api/settings';
import { gearsQuery } from '../../api/solving';
import { Await, Care } from '../../parts/Page';
import { Sheet } from '../../parts/Sheet';
import { angle, mm, um } from '../../words/numbers';
import { editingWords } from '../../words/editing';

const g = editingWords.gears;

interface Props {
  draft: Draft;
  /** The gear that the stone is shown on, 0 for its own. */
  shown: number;
  onShow: (gear: number) => void;
}

/** How well each gear of the machine fits the diagram, and what it costs where none does. */
export function GearPanel({ draft, shown, onShow }: Props) {
  // A diagram has no size: gaps are told at the usual one.
  const width = useQuery(usualQuery).data?.width ?? 0;
  const report = useQuery({ ...gearsQuery(draft, width), enabled: width > 0 });
  const own = Number(draft.gear);
  return (
    <Await query={report}>
      {(r) => (
        <Box component="section" aria-label={g.head} sx={{ my: 5 }}>
          <Typography variant="h3">{g.head}</Typography>
          <Typography color="text.secondary">{g.lead(r.machine)}</Typography>
          <Sheet
            dense
            fold={520}
            head={[g.gear, g.cheats, g.turn, [g.gap, g.gapHelp(mm(width))], '']}
          >
            {r.gears.map((f) => (
              <tr key={f.teeth}>
                <td className="figure">
                  {f.teeth}
                  {f.teeth === own && ` · ${g.own}`}
                </td>
                <td className="figure">
                  {f.largestCheat > 0 ? `${angle(f.largestCheat)}°` : g.carries}
                </td>
                <td className="figure">{f.turn === 0 ? '–' : `${angle(f.turn)}°`}</td>
                <td className="figure">{f.largestCheat > 0 ? um(f.gap) : '–'}</td>
                <td>
                  {f.teeth !== own && (
                    <Button
                      size="small"
                      aria-pressed={shown === f.teeth}
                      onClick={() => onShow(shown === f.teeth ? 0 : f.teeth)}
                    >
                      {shown === f.teeth ? g.back : g.show(f.teeth)}
                    </Button>
                  )}
                </td>
              </tr>
            ))}
          </Sheet>
          {r.proposed && <Care>{g.proposed(r.proposed.teeth)}</Care>}
          {r.obstacles.length === 0 ? (
            <Typography sx={{ mt: 2 }}>{g.cuttable}</Typography>
          ) : (
            <>
              <Typography sx={{ mt: 3 }}>{g.obstacles}</Typography>
              {r.obstacles.map((o) => (
                <Care key={o.code + o.tierName}>
                  {o.tierName && <strong>{o.tierName}: </strong>}
                  {o.message}
                </Care>
              ))}
            </>
          )}
        </Box>
      )}
    </Await>
  );
}
