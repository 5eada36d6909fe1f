import LinearProgress from '@mui/material/LinearProgress';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BenchScript } from '../../api/client';
import { asCutQuery } from '../../api/stones';
import { Refusal } from '../../parts/forms/Refusal';
import { TakeOver } from '../../parts/work/TakeOver';
import { AsCutList, AsCutStones } from '../../parts/work/AsCut';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { asCutWords as t } from '../../words/asCut';
import { w } from '../../words/words';
import { heardOf } from './otherwise';
import { Panel } from './Panel';

interface Props {
  script: BenchScript;
  log: StoneLog;
  onClose: () => void;
}

/** What was really cut beside what was planned. */
export function AsCutPanel({ script, log, onClose }: Props) {
  const found = useQuery(asCutQuery(script.stoneId, script.workId, '', heardOf(log)));
  const [chosen, choose] = useState<number>();
  return (
    <Panel
      title={t.title}
      onClose={onClose}
      picture={found.data && <AsCutStones of={found.data} chosen={chosen} stacked />}
    >
      {found.isPending && <LinearProgress aria-label={w.common.loading} />}
      <Refusal error={found.error} />
      <TakeOver stone={script.stoneId} work={script.workId} />
      {found.data && <AsCutList of={found.data} chosen={chosen} onChoose={choose} row={64} />}
    </Panel>
  );
}
