import { ranges } from '../../api/ranges';
import Box from '@mui/material/Box';
import type { ReactNode } from 'react';
import type { Lighting } from './lighting';
import { TintField } from './TintField';
import { MaterialField } from '../fields/MaterialField';
import { NumberField } from '../fields/NumberField';
import { PickField } from '../fields/PickField';
import { lightWords } from '../../words/light';
import { plain } from '../../words/numbers';

interface Props {
  lighting: Lighting;
  set: (change: Partial<Lighting>) => void;
  children?: ReactNode;
}

/** What the stone is made of and what light it is looked at in. */
export function LightingFields({ lighting, set, children }: Props) {
  const l = lightWords;
  return (
    <Box sx={{ display: 'flex', flexWrap: 'wrap', gap: 3, my: 3 }}>
      <MaterialField
        label={l.material}
        value={lighting.material}
        none={l.asDrawn(plain(lighting.refractiveIndex))}
        onChange={(material) => set({ material })}
      />
      <TintField value={lighting.tint} onChange={(tint) => set({ tint })} />
      <NumberField
        label={l.width}
        unit="mm"
        {...ranges.LookRequest.width}
        value={lighting.width}
        onChange={(width) => set({ width })}
        width={120}
      />
      <PickField
        label={l.model}
        value={lighting.model}
        options={l.models}
        onChange={(model) => set({ model })}
        width={200}
      />
      <NumberField
        label={l.head}
        unit="°"
        {...ranges.LookRequest.headAngle}
        value={lighting.headAngle}
        onChange={(headAngle) => set({ headAngle })}
        width={110}
      />
      <PickField
        label={l.girdleIs}
        value={lighting.frostedGirdle ? 'frosted' : 'polished'}
        options={l.girdles}
        onChange={(v) => set({ frostedGirdle: v === 'frosted' })}
        width={130}
      />
      {children}
    </Box>
  );
}
