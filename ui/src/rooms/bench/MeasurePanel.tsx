import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BenchScript } from '../../api/client';
import { changeAtWheel, stoneLineQuery } from '../../api/stones';
import { NumberField } from '../../parts/fields/NumberField';
import { Refusal } from '../../parts/forms/Refusal';
import { Profile } from '../../parts/stone/Profile';
import type { StoneLog } from '../../parts/work/useStoneLog';
import { mm } from '../../words/numbers';
import { wheelWords as t } from '../../words/wheel';
import { w } from '../../words/words';
import { budgetText, girdlePlanned, spareAt } from './girdle';
import { Panel } from './Panel';
import type { Reread } from './reread';

interface Props {
  script: BenchScript;
  log: StoneLog;
  shown: number;
  reread: Reread;
  onClose: () => void;
}

/**
 * What calipers read: the girdle while the second side comes down, and what is left until it is as planned; the stone
 * across, whose plan goes on from the size that it really has.
 */
export function MeasurePanel({ script, log, shown, reread, onClose }: Props) {
  const [thick, setThick] = useState<number>();
  const girdle = girdlePlanned(script);
  const planned = girdle === undefined ? undefined : girdle + spareAt(script, shown);
  const facet = script.facets[script.visits[shown]!.facet]!;
  return (
    <Panel
      title={t.measure}
      lead={planned === undefined ? '' : t.girdlePlan(mm(planned))}
      onClose={onClose}
      picture={
        <Profile
          mesh={script.mesh}
          step={script.visits[shown]!.now}
          levels={script.levels}
          length={(units) => mm(units * script.mmPerUnit)}
        />
      }
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
      <AcrossForm {...{ script, log, reread, onClose }} />
    </Panel>
  );
}

/** The stone across as it was cut: the plan is reckoned anew from there. */
function AcrossForm({ script, log, reread, onClose }: Omit<Props, 'shown'>) {
  // A script that an older build has kept knows none.
  const calipers = ((script.calipers as BenchScript['calipers'] | undefined) ?? [])[0];
  const width = calipers?.mm ?? 0;
  const [across, setAcross] = useState<number>();
  const { data: line } = useQuery(stoneLineQuery(script.stoneId));
  const change = useMutation(changeAtWheel);
  if (!calipers) return null;
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        if (across === undefined || !line) return;
        change.mutate(
          {
            stone: script.stoneId,
            across: { tier: calipers.tier, mm: across },
            version: line.version,
          },
          {
            onSuccess: () => {
              log.add([{ kind: 'measured', payload: { what: 'diameter', mm: across } }]);
              void reread();
              onClose();
            },
          },
        );
      }}
      style={{ marginTop: 32 }}
    >
      <Typography variant="h2" gutterBottom>
        {t.across}
      </Typography>
      <Typography sx={{ fontSize: '1.125rem', mb: 2 }}>
        {t.acrossLead(calipers.tier, mm(width), calipers.flats)}
      </Typography>
      <NumberField
        label={t.acrossField}
        unit={w.units.mm}
        min={0.1}
        max={500}
        value={across}
        optional=""
        width={320}
        onChange={setAcross}
      />
      <Refusal error={change.error} />
      <Button
        type="submit"
        disabled={across === undefined || !line || change.isPending}
        sx={{ minHeight: 64, minWidth: 320, fontSize: '1.25rem', mt: 3, display: 'block' }}
      >
        {t.acrossKeep}
      </Button>
    </form>
  );
}
