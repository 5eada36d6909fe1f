import { useQuery } from '@tanstack/react-query';
import { materialsQuery } from '../../api/settings';
import type { Material } from '../../api/client';
import { names, PickField } from './PickField';

interface Props {
  label: string;
  /** The material's name. */
  value: string;
  onChange: (name: string, material: Material | undefined) => void;
  /** What no material is called, where one need not be chosen. */
  none?: string;
  /** Materials that cannot be chosen here. */
  without?: readonly string[];
  width?: number;
}

/** A material of the table. */
export function MaterialField({ label, value, onChange, none, without = [], width = 200 }: Props) {
  const table = useQuery(materialsQuery).data ?? [];
  const offered = table.map((m) => m.name).filter((name) => !without.includes(name));
  return (
    <PickField
      label={label}
      value={value}
      options={[...(none === undefined ? [] : [{ value: '', name: none }]), ...names(offered)]}
      onChange={(name) =>
        onChange(
          name,
          table.find((m) => m.name === name),
        )
      }
      width={width}
    />
  );
}
