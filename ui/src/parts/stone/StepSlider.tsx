import FirstPage from '@mui/icons-material/FirstPage';
import LastPage from '@mui/icons-material/LastPage';
import NavigateBefore from '@mui/icons-material/NavigateBefore';
import NavigateNext from '@mui/icons-material/NavigateNext';
import Box from '@mui/material/Box';
import IconButton from '@mui/material/IconButton';
import Slider from '@mui/material/Slider';
import Typography from '@mui/material/Typography';
import { memo } from 'react';
import type { StoneView } from '../../api/client';
import { useKeys } from '../keys';
import { w } from '../../words/words';
import { lastStep } from './geometry';

interface Props {
  /** The number of steps, and what is text of the present one. */
  last: number;
  text: string;
  step: number;
  onStep: (step: number) => void;
}

/** Walks the cutting facet by facet, from the rough block to the finished stone. */
export const StepSlider = memo(function StepSlider({ last, text, step, onStep }: Props) {
  const to = (s: number) => onStep(Math.max(0, Math.min(last, s)));
  useKeys([
    { keys: ['ArrowLeft'], label: w.drawing.back, run: () => to(step - 1), repeats: true },
    { keys: ['ArrowRight'], label: w.drawing.forth, run: () => to(step + 1), repeats: true },
    { keys: ['Home'], label: w.drawing.first, run: () => to(0) },
    { keys: ['End'], label: w.drawing.last, run: () => to(last) },
  ]);
  return (
    <Box>
      <Box sx={{ display: 'flex', alignItems: 'center', gap: 1 }}>
        <IconButton onClick={() => to(0)} aria-label={w.drawing.first}>
          <FirstPage />
        </IconButton>
        <IconButton onClick={() => to(step - 1)} aria-label={w.drawing.back}>
          <NavigateBefore />
        </IconButton>
        <Slider
          size="small"
          min={0}
          max={last}
          value={step}
          onChange={(_, v) => to(v as number)}
          aria-label={w.drawing.step}
          getAriaValueText={() => text}
          sx={{ mx: 2 }}
        />
        <IconButton onClick={() => to(step + 1)} aria-label={w.drawing.forth}>
          <NavigateNext />
        </IconButton>
        <IconButton onClick={() => to(last)} aria-label={w.drawing.last}>
          <LastPage />
        </IconButton>
      </Box>
      <Typography variant="figures" component="p" sx={{ textAlign: 'center', fontSize: '0.9rem' }}>
        {text}
      </Typography>
    </Box>
  );
});

/** Names the moment of the cutting after so many steps. */
export function momentOf(stone: StoneView, step: number): string {
  const facet = step > 0 ? stone.facets[step - 1] : undefined;
  return facet
    ? w.drawing.stepAt(
        stone.tiers[facet.tier]!.name,
        String(facet.dial.tooth),
        step,
        lastStep(stone.mesh),
      )
    : w.drawing.stepNone;
}
