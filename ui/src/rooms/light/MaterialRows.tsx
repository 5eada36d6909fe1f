import CloseOutlined from '@mui/icons-material/CloseOutlined';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { materialsQuery } from '../../api/queries';
import { Refusal } from '../../parts/Refusal';
import { Sheet } from '../../parts/Sheet';
import { lightWords } from '../../words/light';
import { angle, percent, plain } from '../../words/numbers';
import { materialRowsQuery, type LookedAt } from './queries';

/** A step apart each in refractive index, to begin with. */
const usual = ['Practice glass', 'Aquamarine', 'Peridot', 'Spinel', 'Sapphire', 'Sphene'];
const most = 12;

/** One diagram in several materials. */
export function MaterialRows({ draft, looking }: LookedAt) {
  const m = lightWords.materials;
  const table = useQuery(materialsQuery).data ?? [];
  const [chosen, setChosen] = useState(usual);
  const names = table.map((o) => o.name);
  const shown = [...new Set([looking.material, ...chosen])].filter((name) => names.includes(name));
  const rows = useQuery({
    ...materialRowsQuery(draft, looking, shown.slice(0, most)),
    enabled: shown.length > 0,
  });
  const sorted = [...(rows.data ?? [])].sort(
    (a, b) => a.figures.refractiveIndex - b.figures.refractiveIndex,
  );
  const n = lightWords.names;
  return (
    <Box
      component="section"
      aria-label={m.head}
      sx={{ mt: 5, '& tbody td': { verticalAlign: 'middle !important' } }}
    >
      <Typography variant="h3">{m.head}</Typography>
      <Typography color="text.secondary">{m.lead}</Typography>
      <Refusal error={rows.error} />
      <Sheet
        dense
        head={[lightWords.material, 'n', m.critical, n.return, n.window, n.headShadow, n.leak, '']}
      >
        {sorted.map((r) => (
          <tr key={r.material}>
            <td>{r.material === looking.material ? <strong>{r.material}</strong> : r.material}</td>
            <td className="figure">{plain(r.figures.refractiveIndex)}</td>
            <td className="figure">{angle(r.figures.criticalAngle)}°</td>
            <td className="figure">{percent(r.figures.return)}</td>
            <td className="figure">{percent(r.figures.window)}</td>
            <td className="figure">{percent(r.figures.headShadow)}</td>
            <td className="figure">{percent(r.figures.leak)}</td>
            <td>
              {r.material !== looking.material && (
                <IconButton
                  size="small"
                  sx={{ p: 0 }}
                  aria-label={m.out(r.material)}
                  onClick={() => setChosen(chosen.filter((name) => name !== r.material))}
                >
                  <CloseOutlined fontSize="small" />
                </IconButton>
              )}
            </td>
          </tr>
        ))}
      </Sheet>
      {shown.length < most && (
        <TextField
          select
          label={m.add}
          value=""
          onChange={(e) => setChosen([...chosen, e.target.value])}
          sx={{ width: 240, mt: 3 }}
        >
          {names
            .filter((name) => !shown.includes(name))
            .map((name) => (
              <MenuItem key={name} value={name}>
                {name}
              </MenuItem>
            ))}
        </TextField>
      )}
    </Box>
  );
}
