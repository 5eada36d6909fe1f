import { useQuery } from '@tanstack/react-query';
import { tintsQuery } from '../../api/settings';
import { PickField } from '../fields/PickField';
import { lightWords } from '../../words/light';

/** Chooses a body colour, '' for the one that is usual for the material. */
export function TintField({ value, onChange }: { value: string; onChange: (v: string) => void }) {
  const tints = useQuery(tintsQuery).data ?? [];
  return (
    <PickField
      label={lightWords.tint}
      value={value}
      options={[
        { value: '', name: lightWords.usual },
        ...tints.map((t) => ({ value: t.key, name: lightWords.tints[t.key] ?? t.key })),
      ]}
      onChange={onChange}
      width={160}
    />
  );
}
