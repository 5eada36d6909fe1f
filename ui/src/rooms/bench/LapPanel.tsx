import Typography from '@mui/material/Typography';
import type { BenchScript } from '../../api/client';
import { passName } from '../../parts/work/visitWords';
import { wheelWords as t } from '../../words/wheel';
import { lapOf } from './order';
import { Panel } from './Panel';

interface Props {
  script: BenchScript;
  shown: number;
  onClose: () => void;
}

/** What to mind at the lap of this pass, and the cautions of the material. */
export function LapPanel({ script, shown, onClose }: Props) {
  const { pass } = script.visits[shown]!;
  return (
    <Panel title={t.lap} lead={passName(script, pass)} onClose={onClose}>
      {[...(lapOf(script, pass)?.texts ?? []), ...script.cautions].map((text) => (
        <Typography key={text} sx={{ fontSize: '1.375rem', mb: 3, maxWidth: 960 }}>
          {text}
        </Typography>
      ))}
    </Panel>
  );
}
