import { ranges } from '../../api/ranges';
import Box from '@mui/material/Box';
import { NumberField } from '../../parts/fields/NumberField';
import { MaterialField } from '../../parts/fields/MaterialField';
import { numbers, PickField } from '../../parts/fields/PickField';
import { machineWords } from '../../words/machine';
import { anglesWords } from '../../words/angles';
import type { AngleWish } from './angleWish';

const a = anglesWords;

interface Props {
  wish: AngleWish;
  set: (change: Partial<AngleWish>) => void;
  /** The machine's own step in degrees. */
  step: number;
  /** Its angles are set by holes, whatever the step. */
  byHoles: boolean;
  /** What the shallowest tier was given or would be given unasked; undefined until it is known. */
  margin: number | undefined;
}

/** What the angles are to suit: a material, a margin, a machine. */
export function AngleChoices({ wish, set, step, byHoles, margin }: Props) {
  const steps = byHoles ? [step] : [step, 0.05, 0.1, 0.25, 0.5, 1].sort((x, y) => x - y);
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, mb: 3 }}>
      <MaterialField
        label={a.material}
        value={wish.material}
        none={a.own}
        onChange={(material, m) =>
          set(m ? { material, index: m.refractiveIndex.low } : { material })
        }
        width={190}
      />
      <NumberField
        label={a.index}
        {...ranges.AnglesTarget.refractiveIndex}
        value={wish.index}
        onChange={(index) => set({ index })}
        width={130}
      />
      <PickField
        label={a.margin}
        value={wish.margin === null ? 'own' : 'chosen'}
        options={{ own: a.ownMargin, chosen: a.chosenMargin }}
        onChange={(v) =>
          set({ margin: v === 'own' || margin === undefined ? null : rounded(margin) })
        }
        width={190}
      />
      {wish.margin !== null && (
        <NumberField
          label={a.margin}
          unit="°"
          {...ranges.AnglesTarget.margin}
          value={wish.margin}
          onChange={(m) => set({ margin: m })}
          width={110}
        />
      )}
      <PickField
        label={a.crown}
        value={wish.crown}
        options={a.crowns}
        onChange={(crown) => set({ crown })}
        width={250}
      />
      {wish.crown === 'own' && (
        <NumberField
          label={a.factor}
          {...ranges.AnglesTarget.crownFactor}
          value={wish.factor}
          onChange={(factor) => set({ factor })}
          width={130}
        />
      )}
      <PickField
        label={a.round}
        value={wish.step}
        options={[
          { value: 0, name: a.exact },
          ...numbers(steps, (s) => (byHoles ? machineWords.byHoles : a.steps(s, s === step))),
        ]}
        onChange={(chosen) => set({ step: chosen })}
        width={200}
      />
      {wish.step > 0 && (
        <PickField
          label={a.search}
          value={wish.search}
          options={a.searches}
          onChange={(search) => set({ search })}
          width={210}
        />
      )}
      <NumberField
        label={a.width}
        unit="mm"
        {...ranges.AnglesRequest.width}
        value={wish.width}
        onChange={(width) => set({ width })}
        width={130}
      />
    </Box>
  );
}

const rounded = (v: number) => Math.round(v * 10) / 10;
