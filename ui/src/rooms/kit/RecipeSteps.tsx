import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Checkbox from '@mui/material/Checkbox';
import Typography from '@mui/material/Typography';
import { useState, type ReactNode } from 'react';
import type { Recipe } from '../../api/trials';
import { kitWords } from '../../words/kit';
import { Clock } from '../../parts/clock/Clock';

const k = kitWords.recipes;

interface Props {
  recipe: Recipe;
  /** The lap that it is done to: each has clocks of its own. */
  lap: string;
  /** What follows the last step. */
  children?: ReactNode;
}

/** The steps, to be ticked, with a clock for those that take time. */
export function RecipeSteps({ recipe, lap, children }: Props) {
  const [done, setDone] = useState<ReadonlySet<number>>(new Set());
  const toggle = (i: number) => {
    const next = new Set(done);
    if (!next.delete(i)) next.add(i);
    setDone(next);
  };
  return (
    <Box component="section" aria-label={k.steps} sx={{ mt: 4 }}>
      <Typography variant="h3" sx={{ mb: 1 }}>
        {k.steps}
      </Typography>
      <Box component="ol" sx={{ m: 0, p: 0, listStyle: 'none' }}>
        {recipe.steps.map((s, i) => (
          <Box
            component="li"
            key={i}
            sx={{
              display: 'flex',
              gap: 2,
              alignItems: 'flex-start',
              borderTop: 1,
              borderColor: 'divider',
              py: 1,
            }}
          >
            <Checkbox
              checked={done.has(i)}
              onChange={() => toggle(i)}
              slotProps={{ input: { 'aria-label': k.step(i + 1) } }}
            />
            <Typography sx={{ pt: 1, flexGrow: 1 }}>{s.text}</Typography>
            {s.minutes > 0 && (
              <Clock
                key={`${recipe.id}/${lap}`}
                of={`recipe/${recipe.id}/${lap}/${i}`}
                what={recipe.name}
                label={k.step(i + 1)}
                minutes={s.minutes}
              />
            )}
          </Box>
        ))}
      </Box>
      <Box sx={{ display: 'flex', gap: 2, mt: 2 }}>
        {children}
        {done.size > 0 && <Button onClick={() => setDone(new Set())}>{k.again}</Button>}
      </Box>
    </Box>
  );
}
