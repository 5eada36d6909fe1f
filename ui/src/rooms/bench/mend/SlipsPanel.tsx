import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import ButtonBase from '@mui/material/ButtonBase';
import LinearProgress from '@mui/material/LinearProgress';
import Typography from '@mui/material/Typography';
import { useMutation, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import type { BenchScript, Slips } from '../../../api/client';
import { slipsQuery, takeSlip } from '../../../api/stones';
import { Refusal } from '../../../parts/forms/Refusal';
import { spanOf } from '../../../parts/stone/geometry';
import {
  ontoSide,
  StoneInTheRound,
  StoneTurned,
  useRound,
} from '../../../parts/stone/StoneInTheRound';
import type { StoneLog } from '../../../parts/work/useStoneLog';
import { slipWords as t } from '../../../words/slips';
import { w } from '../../../words/words';
import { heardOf } from '../otherwise';
import { Panel } from '../Panel';

interface Props {
  script: BenchScript;
  log: StoneLog;
  onClose: () => void;
  /** Goes on to the ways out. */
  onWays: () => void;
}

/** The stone does not look like its diagram: what it would look like after one slip, to find the one that it does look like. */
export function SlipsPanel({ script, log, onClose, onWays }: Props) {
  const found = useQuery(slipsQuery(script.stoneId, heardOf(log)));
  if (found.data)
    return <Looks stone={script.stoneId} of={found.data} onClose={onClose} onWays={onWays} />;
  return (
    <Panel title={t.title} lead={t.lead} onClose={onClose}>
      {found.isFetching && <LinearProgress aria-label={w.common.loading} />}
      <Refusal error={found.error} />
    </Panel>
  );
}

interface LooksProps {
  stone: string;
  of: Slips;
  onClose: () => void;
  onWays: () => void;
}

/** All looks, turned alike: turning one turns them all. */
function Looks({ stone, of, onClose, onWays }: LooksProps) {
  const round = useRound(ontoSide(of.up));
  const [no, setNo] = useState<number>();
  const take = useMutation(takeSlip);
  const chosen = no === undefined ? undefined : of.looks[no];
  const levels = spanOf(of.planned);
  const beside = [
    [t.planned, of.planned],
    [chosen?.text ?? t.choose, chosen?.solid ?? of.planned],
  ] as const;
  return (
    <Panel
      title={t.title}
      lead={t.lead}
      onClose={onClose}
      picture={
        <Box sx={{ height: '100%', display: 'grid', gridTemplate: '1fr 1fr / 1fr', gap: 2 }}>
          {beside.map(([caption, mesh]) => (
            <Box
              key={caption}
              component="figure"
              sx={{ m: 0, minHeight: 0, display: 'flex', flexDirection: 'column' }}
            >
              <Box sx={{ flex: '1 1 0', minHeight: 0 }}>
                <StoneInTheRound
                  {...{ mesh, levels, round }}
                  label={caption}
                  selected={new Set(chosen?.faces)}
                />
              </Box>
              <Typography
                component="figcaption"
                color="text.secondary"
                sx={{ textAlign: 'center' }}
              >
                {caption}
              </Typography>
            </Box>
          ))}
        </Box>
      }
    >
      <Refusal error={take.error} />
      {of.looks.length === 0 && <Typography role="status">{t.nothing}</Typography>}
      {chosen && (
        <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', mb: 2 }}>
          <Typography sx={{ flexGrow: 1, fontSize: '1.25rem', fontWeight: 600 }}>
            {chosen.text}
          </Typography>
          <Button
            variant="contained"
            disabled={take.isPending}
            onClick={() => take.mutate({ stone, ...chosen.slip }, { onSuccess: onWays })}
            sx={{ minHeight: 64, fontSize: '1.25rem' }}
          >
            {t.thatIsIt}
          </Button>
        </Box>
      )}
      <Box
        role="group"
        aria-label={t.title}
        sx={{
          display: 'grid',
          gap: 2,
          gridTemplateColumns: 'repeat(auto-fill, minmax(150px, 1fr))',
        }}
      >
        {of.looks.map((look, i) => (
          <ButtonBase
            key={i}
            aria-pressed={i === no}
            onClick={() => setNo(i)}
            sx={{
              flexDirection: 'column',
              p: 1,
              borderRadius: 1,
              background: (theme) => (i === no ? theme.tokens.copperWash : undefined),
            }}
          >
            <Box sx={{ width: '100%', aspectRatio: '1' }}>
              <StoneTurned
                mesh={look.solid}
                levels={levels}
                camera={round.camera}
                label={look.text}
                selected={new Set(look.faces)}
              />
            </Box>
            <Typography component="span" sx={{ fontWeight: look.told ? 700 : undefined }}>
              {look.text}
              {look.told && ` · ${t.told}`}
            </Typography>
          </ButtonBase>
        ))}
      </Box>
    </Panel>
  );
}
