import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { Adaptation, BenchScript, TierChange } from '../../../api/client';
import { pullQuery } from '../../../api/solving';
import { adaptationQuery } from '../../../api/stones';
import type { BenchState } from '../../../log/standing';
import { NumberField } from '../../../parts/fields/NumberField';
import { Refusal } from '../../../parts/forms/Refusal';
import type { StoneLog } from '../../../parts/work/useStoneLog';
import { angle } from '../../../words/numbers';
import { wheelWords as t } from '../../../words/wheel';
import { w } from '../../../words/words';
import { Panel } from '../Panel';
import type { Reread } from '../reread';
import { Follows } from './Follows';
import { TwoStones } from './TwoStones';
import { useAdapting } from './useAdapting';

interface Props {
  script: BenchScript;
  state: BenchState;
  log: StoneLog;
  shown: number;
  reread: Reread;
  onClose: () => void;
}

/** By how many degrees an angle goes at a tap. */
const taps = [-1, -0.1, 0.1, 1];

/** Another angle or stop for a tier of this stone: solved again at once, with what follows beside it. */
export function AdaptPanel(props: Props) {
  const { script, shown, onClose } = props;
  const [tier, setTier] = useState(script.facets[script.visits[shown]!.facet]!.tier);
  const [changes, setChanges] = useState<readonly TierChange[]>(script.layer);
  const tried = useQuery(adaptationQuery(script.stoneId, changes));
  const take = useAdapting(props);
  const of = tried.data;
  const own = of?.tiers.find((x) => x.name === tier);
  const change = (to: Partial<TierChange>) => {
    if (!own) return;
    const now = changes.find((c) => c.tier === tier) ?? {
      tier,
      angle: own.angle,
      stop: own.stop,
    };
    setChanges([...changes.filter((c) => c.tier !== tier), { ...now, ...to }]);
  };
  const same = JSON.stringify(changes) === JSON.stringify(script.layer);
  return (
    <Panel
      title={t.adapt}
      lead={t.adaptLead}
      onClose={onClose}
      picture={<TwoStones script={script} of={of} />}
    >
      <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap', alignItems: 'flex-start' }}>
        <TextField
          select
          label={t.tier}
          value={tier}
          onChange={(e) => setTier(e.target.value)}
          sx={{ minWidth: 110 }}
        >
          {(of?.tiers ?? [{ name: tier }]).map((x) => (
            <MenuItem key={x.name} value={x.name} sx={{ minHeight: 56 }}>
              {x.name}
            </MenuItem>
          ))}
        </TextField>
        {own && (
          <>
            <NumberField
              key={tier}
              label={t.angle}
              unit={w.units.degrees}
              min={0}
              max={90}
              width={150}
              value={Number((changes.find((c) => c.tier === tier)?.angle ?? own.angle).toFixed(9))}
              help={own.drawnAngle === own.angle ? '' : t.drawn(angle(own.drawnAngle))}
              onChange={(v) => change({ angle: v })}
            />
            {taps.map((by) => (
              <Button
                key={by}
                variant="outlined"
                onClick={() =>
                  change({ angle: Math.min(90, Math.max(0, Number((own.angle + by).toFixed(6)))) })
                }
                sx={{ minHeight: 56, minWidth: 76 }}
              >
                {by < 0 ? t.flatterBy(angle(-by)) : t.steeperBy(angle(by))}
              </Button>
            ))}
          </>
        )}
      </Box>
      {own && (
        <Stop
          key={`${tier} ${own.stop}`}
          of={of!}
          tier={tier}
          now={changes.find((c) => c.tier === tier)?.stop ?? own.stop}
          text={own.stopText}
          onChange={(stop) => change({ stop })}
        />
      )}
      <Refusal error={tried.error ?? take.error} />
      {of && !tried.error && (
        <Box
          sx={{ mt: 2, opacity: tried.isPlaceholderData ? 0.5 : 1 }}
          aria-busy={tried.isFetching}
        >
          <Box sx={{ display: 'flex', gap: 2, mb: 2, flexWrap: 'wrap' }}>
            <Button
              variant="contained"
              disabled={same || tried.isFetching || take.busy}
              onClick={() => take.take(of)}
              sx={{ minHeight: 72, minWidth: 220, fontSize: '1.375rem' }}
            >
              {t.cutItSo}
            </Button>
            {changes.length > 0 && (
              <Button onClick={() => setChanges([])} sx={{ minHeight: 72 }}>
                {t.asDrawn}
              </Button>
            )}
            {of.changes.length > 0 && (
              <Button onClick={() => take.keep(of)} disabled={take.busy} sx={{ minHeight: 72 }}>
                {t.keepDiagram}
              </Button>
            )}
          </Box>
          <Follows of={of} />
        </Box>
      )}
    </Panel>
  );
}

/** Where the tier's cut stops: as it is, another one that the stone offers, or typed. */
function Stop(props: {
  of: Adaptation;
  tier: string;
  now: string;
  text: string;
  onChange: (stop: string) => void;
}) {
  const { of, tier, now, text, onChange } = props;
  const [typed, setTyped] = useState(now);
  const no = of.draft.tiers.findIndex((x) => x.name === tier);
  const upTo = { ...of.draft, tiers: of.draft.tiers.slice(0, no + 1) };
  const pull = useQuery(pullQuery(upTo, no));
  const reaches = pull.data?.reaches ?? [];
  return (
    <form
      onSubmit={(e) => {
        e.preventDefault();
        onChange(typed.trim());
      }}
    >
      <Typography sx={{ fontSize: '1.25rem', my: 2 }}>{text}</Typography>
      <Box sx={{ display: 'flex', gap: 3, flexWrap: 'wrap' }}>
        <TextField
          label={t.stop}
          value={typed}
          onChange={(e) => setTyped(e.target.value)}
          onBlur={() => typed.trim() && typed.trim() !== now && onChange(typed.trim())}
          helperText={t.stopHelp}
          sx={{ width: 360 }}
          slotProps={{ htmlInput: { autoComplete: 'off', spellCheck: false } }}
        />
        {reaches.length > 0 && (
          <TextField
            select
            label={t.canStop}
            value=""
            onChange={(e) => onChange(e.target.value)}
            sx={{ width: 260 }}
          >
            {reaches.map((r) => (
              <MenuItem key={r.stop} value={r.stop} sx={{ minHeight: 56 }}>
                {r.words}
              </MenuItem>
            ))}
          </TextField>
        )}
      </Box>
    </form>
  );
}
