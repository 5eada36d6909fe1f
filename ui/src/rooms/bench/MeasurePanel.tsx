import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { BenchScript } from '../../api/client';
import { NumberField } from '../../parts/fields/NumberField';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { mm } from '../../words/numbers';
import { wheelWords as t } from '../../words/wheel';
import { w } from '../../words/words';
import { budgetText, girdlePlanned } from './girdle';
import { Panel } from './Panel';

interface Props {
  script: BenchScript;
  log: StoneLog;
  shown: number;
  onClose: () => void;
}

/** The girdle, measured while the second side comes down: what is left until it is as planned. */
export function MeasurePanel({ script, log, shown, onClose }: Props) {
  const [thick, setThick] = useState<number>();
  const planned = girdlePlanned(script);
  const facet = script.facets[script.visits[shown]!.facet]!;
  return (
    <Panel
      title={t.measure}
      lead={planned === undefined ? '' : t.girdlePlan(mm(planned))}
      onClose={onClose}
    >
      <form
        onSubmit={(e) => {
          e.preventDefault();
          if (thick === undefined) return;
          log.add([{ kind: 'measured', payload: { what: 'girdle', mm: thick } }]);
          onClose();
        }}
      >
        <NumberField
          label={t.girdle}
          help={t.girdleHelp}
          unit={w.units.mm}
          min={0.01}
          max={100}
          value={thick}
          optional=""
          width={320}
          autoFocus
          onChange={setThick}
        />
        {thick !== undefined && planned !== undefined && (
          <Typography role="status" sx={{ fontSize: '1.5rem', mt: 3 }}>
            {budgetText(facet, planned, thick)}
          </Typography>
        )}
        <Button
          type="submit"
          variant="contained"
          disabled={thick === undefined}
          sx={{ minHeight: 88, minWidth: 320, fontSize: '1.5rem', mt: 4, display: 'block' }}
        >
          {t.keepMeasure}
        </Button>
      </form>
    </Panel>
  );
}
