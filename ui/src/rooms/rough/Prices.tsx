import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import type { Settings } from '../../api/client';
import { ranges } from '../../api/ranges';
import { reread } from '../../api/refresh';
import { roughKey, type Piece } from '../../api/rough';
import { settingsQuery } from '../../api/settings';
import { NumberField } from '../../parts/fields/NumberField';
import { FormFields, useReadable } from '../../parts/fields/unreadable';
import { SaveConflict } from '../../parts/forms/Conflict';
import { Refusal } from '../../parts/forms/Refusal';
import { useNotice } from '../../parts/notice';
import { Row } from '../../parts/Row';
import { useSaveSettings } from '../../parts/settings/useSaveSettings';
import { carats, money } from '../../words/numbers';
import { roughWords } from '../../words/rough';
import { Part } from './Part';

const r = roughWords.prices;

type Price = Settings['prices'][number];

/** What finished stones of a piece bring by the carat, from weights on. */
export function Prices({ piece }: { piece: Piece }) {
  const settings = useQuery(settingsQuery).data;
  return settings ? <List key={settings.version} settings={settings} piece={piece} /> : null;
}

function List({ settings, piece }: { settings: Settings; piece: Piece }) {
  const { material } = piece.rough;
  const { currency } = piece;
  const holds = (p: Price) =>
    p.material.toLowerCase() === material.toLowerCase() && p.currency === currency;
  const [prices, setPrices] = useState(() => settings.prices.filter(holds));
  const [changed, setChanged] = useState(false);
  const { readable, report } = useReadable();
  const queries = useQueryClient();
  const say = useNotice();
  const saving = useSaveSettings(
    () => {
      void reread(queries, roughKey);
      say({ text: r.saved });
    },
    () => void reread(queries, roughKey),
  );
  const change = (list: Price[]) => {
    setPrices(list);
    setChanged(true);
  };
  const set = (no: number, part: Partial<Price>) =>
    change(prices.map((p, i) => (i === no ? { ...p, ...part } : p)));
  const heaviest = Math.max(0, ...prices.map((p) => p.from));
  const linesOf = (s: { prices: readonly Price[] }) =>
    s.prices.filter(holds).map((p) => r.line(carats(p.from), money(p.amount, p.currency)));
  return (
    <Part
      head={r.head(material)}
      add={r.add}
      onAdd={() =>
        change([
          ...prices,
          {
            material,
            currency,
            from: prices.length > 0 ? heaviest + 1 : 0,
            amount: prices.at(-1)?.amount ?? 0,
          },
        ])
      }
    >
      <FormFields value={report}>
        <Box sx={{ display: 'grid', gap: 2 }}>
          {prices.map((p, i) => (
            <Row key={i}>
              <NumberField
                label={r.from(i + 1)}
                unit="ct"
                {...ranges.Price.from}
                value={p.from}
                onChange={(from) => set(i, { from })}
                width={150}
              />
              <NumberField
                label={r.carat(i + 1)}
                unit={currency || undefined}
                min={0}
                max={ranges.Price.amount.max / 100}
                value={p.amount / 100}
                onChange={(v) => set(i, { amount: Math.round(100 * v) })}
                width={190}
              />
              <Button onClick={() => change(prices.filter((_, n) => n !== i))}>
                {r.remove(i + 1)}
              </Button>
            </Row>
          ))}
        </Box>
      </FormFields>
      <Refusal error={saving.error} />
      {changed && (
        <Button
          variant="contained"
          sx={{ mt: 3 }}
          disabled={!readable || saving.isPending}
          onClick={() =>
            saving.save(
              { ...settings, prices: [...settings.prices.filter((p) => !holds(p)), ...prices] },
              settings.version,
            )
          }
        >
          {r.save}
        </Button>
      )}
      <SaveConflict saving={saving} mine={linesOf({ prices })} linesOf={linesOf} />
    </Part>
  );
}
