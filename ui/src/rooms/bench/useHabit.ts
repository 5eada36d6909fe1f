import { useState } from 'react';
import { remember, remembered } from '../../log/remember';
import type { Habit } from './work';

const key = 'cressa-bench-marks';

/**
 * How much Done marks at a bench: what was chosen at it last, which a reload keeps, or the habit.
 */
export function useHabit(path: string, usual: string): [Habit, (habit: Habit) => void] {
  const before = remembered(key)?.split(' ');
  const [chosen, choose] = useState(before?.[0] === path ? before[1] : undefined);
  return [
    (chosen ?? usual) as Habit,
    (habit) => {
      remember(key, `${path} ${habit}`);
      choose(habit);
    },
  ];
}
