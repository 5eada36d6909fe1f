import Box from '@mui/material/Box';
import type { Draft, ReadFile, Reading, StoneView } from '../../api/client';
import { TierReadings } from '../../parts/diagram/TierReadings';
import { Sheet } from '../../parts/Sheet';
import { libraryWords as l } from '../../words/library';
import { w } from '../../words/words';

interface Props {
  read: ReadFile;
  stone: StoneView | undefined;
  readings: Reading[];
  onChange: (draft: Draft) => void;
}

/** The tiers as they stand in the text, each with what its words were read as. */
export function ReadTiers({ read, stone, readings, onChange }: Props) {
  const d = read.draft;
  if (d.tiers.length === 0) return null;
  const worded = new Map(stone?.tiers.map((t) => [t.key, t.stop]));
  return (
    <Box sx={{ mt: 3, overflow: 'auto', '& td': { fontSize: '0.8125rem' } }}>
      <Sheet
        dense
        head={[w.tiers.tier, w.tiers.part, w.tiers.angle, w.tiers.indexes, w.tiers.stop, l.readAs]}
      >
        {d.tiers.map((t, i) => {
          const mine = readings.filter((r) => r.tier === i);
          const of = (field: string) => mine.find((r) => r.field === field);
          const wrong = (field: string) =>
            read.mistakes.some((p) => p.tier === i && p.field === field);
          const cell = (field: string, text: string) => {
            const doubtful = wrong(field) || of(field)?.sure === false;
            return (
              <Box
                component="td"
                className="figure"
                sx={{
                  whiteSpace: 'normal !important',
                  background: (th) => (doubtful ? th.tokens.emberWash : undefined),
                }}
              >
                {doubtful && '! '}
                {text}
              </Box>
            );
          };
          const part = t.part || of('part')?.read || '';
          return (
            <tr key={t.key}>
              {cell('name', t.name)}
              {cell('part', w.tiers.parts[part] ?? part)}
              {cell('angle', t.angle.includes('°') ? t.angle : `${t.angle}°`)}
              {cell('indexes', of('indexes')?.sure ? of('indexes')!.says : t.indexes)}
              {cell('stop', t.stop || l.noStop)}
              <Box component="td" sx={{ whiteSpace: 'normal !important', minWidth: 220 }}>
                {of('stop') ? '' : t.stop && worded.get(t.key)}
                <TierReadings
                  name={t.name}
                  // A part and indexes that are certain stand in their columns.
                  readings={mine.filter((r) => r.field === 'stop' || !r.sure)}
                  open
                  onTake={(field, text) =>
                    onChange({
                      ...d,
                      tiers: d.tiers.map((o, k) => (k === i ? { ...o, [field]: text } : o)),
                    })
                  }
                />
              </Box>
            </tr>
          );
        })}
      </Sheet>
    </Box>
  );
}
