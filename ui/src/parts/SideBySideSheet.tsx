import { Sheet } from './Sheet';

interface Props {
  /** What stands on the left and on the right. */
  sides: [left: string, right: string];
  /** What is measured, and its figure on either side. */
  rows: [name: string, left: string, right: string][];
}

/** Figures of two stones side by side. */
export function SideBySideSheet({ sides, rows }: Props) {
  return (
    <Sheet dense head={['', ...sides]}>
      {rows.map(([name, left, right]) => (
        <tr key={name}>
          <td>{name}</td>
          <td className="figure">{left}</td>
          <td className="figure">{right}</td>
        </tr>
      ))}
    </Sheet>
  );
}
