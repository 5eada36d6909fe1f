import CloseOutlined from '@mui/icons-material/CloseOutlined';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { materialsQuery } from '../../api/settings';
import { MaterialField } from '../../parts/fields/MaterialField';
import { Refusal } from '../../parts/forms/Refusal';
import { Sheet } from '../../parts/Sheet';
import { lightWords } from '../../words/light';
import { angle, percent, plain } from '../../words/numbers';
import { materialRowsQuery, type LitDraft } from '../../api/light';

/** A step apart each in refractive index, to begin with. */
const usual = ['Practice glass', 'Aquamarine', 'Peridot', 'Spinel', 'Sapphire', 'Sphene'];
const most = 12;

/** One diagram in several materials. */
export function MaterialRows({ draft, lighting }: LitDraft) {
  const m = lightWords.materials;
  const table = useQuery(materialsQuery).data ?? [];
  const [chosen, setChosen] = useState(usual);
  const names = table.map((o) => o.name);
  const shown = [...new Set([lighting.material, ...chosen])].filter((name) => names.includes(name));
  const rows = useQuery({
    ...materialRowsQuery(draft, lighting, shown.slice(0, most)),
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
        fold={560}
        dense
        head={[lightWords.material, 'n', m.critical, n.return, n.window, n.headShadow, n.leak, '']}
      >
        {sorted.map((r) => (
          <tr key={r.material}>
            <td>{r.material === lighting.material ? <strong>{r.material}</strong> : r.material}</td>
            <td className="figure">{plain(r.figures.refractiveIndex)}</td>
            <td className="figure">{angle(r.figures.criticalAngle)}°</td>
            <td className="figure">{percent(r.figures.return)}</td>
            <td className="figure">{percent(r.figures.window)}</td>
            <td className="figure">{percent(r.figures.headShadow)}</td>
            <td className="figure">{percent(r.figures.leak)}</td>
            <td>
              {r.material !== lighting.material && (
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
        <Box sx={{ mt: 3 }}>
          <MaterialField
            label={m.add}
            value=""
            without={shown}
            onChange={(name) => setChosen([...chosen, name])}
            width={240}
          />
        </Box>
      )}
    </Box>
  );
}
