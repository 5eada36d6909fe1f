import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { NumberField } from '../../parts/fields/NumberField';
import { Row } from '../../parts/Row';
import { roughWords } from '../../words/rough';
import type { Price } from './prices';
import { Part } from './Part';

const r = roughWords.prices;

/** The most that anybody asks for a carat, and the heaviest stone that a price begins at. */
const mostPrice = 10_000_000;
const mostCarats = 10_000;

interface Props {
  prices: readonly Price[];
  currency: string;
  onChange: (prices: Price[]) => void;
}

/** Prices by the carat, from weights on. */
export function Prices({ prices, currency, onChange }: Props) {
  const set = (no: number, change: Partial<Price>) =>
    onChange(prices.map((p, i) => (i === no ? { ...p, ...change } : p)));
  const heaviest = Math.max(0, ...prices.map((p) => p.from));
  return (
    <Part
      head={r.head}
      add={r.add}
      onAdd={() =>
        onChange([
          ...prices,
          { from: prices.length > 0 ? heaviest + 1 : 0, carat: prices.at(-1)?.carat ?? 0 },
        ])
      }
    >
      <Box sx={{ display: 'grid', gap: 2 }}>
        {prices.map((p, i) => (
          <Row key={i}>
            <NumberField
              label={r.from(i + 1)}
              unit="ct"
              min={0}
              max={mostCarats}
              value={p.from}
              onChange={(from) => set(i, { from })}
              width={150}
            />
            <NumberField
              label={r.carat(i + 1)}
              unit={currency || undefined}
              min={0}
              max={mostPrice}
              value={p.carat}
              onChange={(carat) => set(i, { carat })}
              width={190}
            />
            <Button onClick={() => onChange(prices.filter((_, n) => n !== i))}>
              {r.remove(i + 1)}
            </Button>
          </Row>
        ))}
      </Box>
    </Part>
  );
}
