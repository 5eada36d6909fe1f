import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { Place, ReadFile } from '../../api/client';
import { Care } from '../../parts/Page';
import { Sheet } from '../../parts/Sheet';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { faces } from '../../theme/tokens';
import { stopsWords } from '../../words/order';
import { libraryWords as l } from '../../words/library';
import { w } from '../../words/words';
import { StopsDialog } from '../../parts/diagram/StopsDialog';
import type { Entry } from './ImportRoom';
import { SolidHold } from './SolidHold';
import type { HeldSolid } from '../../api/solving';
import { useSolved } from '../../parts/stone/useSolved';

interface Props {
  entry: Entry;
  /** A solid is held otherwise. */
  onHold: (solid: HeldSolid) => void;
  /** What was read has been completed. */
  onRead: (read: ReadFile) => void;
}

/** What came in, held beside the stone it makes: what was read, guessed, and not understood. */
export function ReadDesk({ entry, onHold, onRead }: Props) {
  if (entry.refused) {
    return (
      <Box sx={{ p: 4 }} role="alert">
        <Typography variant="h2">{entry.name}</Typography>
        {entry.refused.map((p, i) => (
          <Care key={i} grave>
            <PlaceOf place={p} /> {p.message}
          </Care>
        ))}
      </Box>
    );
  }
  if (entry.solid) {
    return (
      <Box sx={{ p: 4 }}>
        <Typography variant="h2" gutterBottom>
          {entry.name}
        </Typography>
        <SolidHold solid={entry.solid} onHold={onHold} />
      </Box>
    );
  }
  return entry.read && <Recognised entry={entry} read={entry.read} onRead={onRead} />;
}

function PlaceOf({ place: p }: { place: Place }) {
  if (p.line === 0) return null;
  return (
    <strong>
      {l.place(p.line, p.column)}
      {p.tierName && `, ${p.tierName}`}:
    </strong>
  );
}

function Recognised({
  entry,
  read,
  onRead,
}: {
  entry: Entry;
  read: ReadFile;
  onRead: Props['onRead'];
}) {
  const [finding, setFinding] = useState(false);
  const lacking = read.draft.tiers.some((t) => t.stop === '');
  const { shown, solved } = useSolved(read.draft);
  const d = read.draft;
  const unsettled = solved?.problems.filter((p) => p.field === '' && p.tier < 0) ?? [];
  return (
    <Box sx={{ p: 4 }}>
      <Typography variant="h2">{d.name || entry.name}</Typography>
      <Typography color="text.secondary">
        {[
          l.from(entry.name),
          w.diagrams.teeth(Number(d.gear)),
          `n ${d.refractiveIndex}`,
          d.outline,
        ].join(' · ')}
      </Typography>
      <Box
        sx={{
          display: 'grid',
          gridTemplateColumns: { xs: '1fr', lg: '1fr 1fr' },
          gap: 4,
          mt: 3,
          alignItems: 'start',
        }}
      >
        <Box sx={{ height: 330 }}>
          {shown ? (
            <StoneInWheel
              mesh={shown.mesh}
              up={shown.complete ? 'crown' : ((shown.tiers.at(-1)?.up ?? 'crown') as 'crown')}
              wheel={shown.wheel}
              label={w.drawing.inWheel('crown')}
            />
          ) : (
            <Typography color="text.secondary">{w.diagrams.noDrawing}</Typography>
          )}
        </Box>
        <Box>
          <Typography variant="h3" gutterBottom>
            {l.marks}
          </Typography>
          {read.mistakes.length === 0 && unsettled.length === 0 && (
            <Typography>{l.noMarks}</Typography>
          )}
          {read.mistakes.map((p, i) => (
            <Care key={i} grave={p.code === 'line-not-read'}>
              <PlaceOf place={p} /> {p.message}
            </Care>
          ))}
          {unsettled.map((p, i) => (
            <Care key={i}>{p.message}</Care>
          ))}
          {lacking && !entry.added && (
            <Button onClick={() => setFinding(true)} sx={{ mt: 2 }}>
              {stopsWords.open}
            </Button>
          )}
        </Box>
      </Box>
      <Box sx={{ mt: 4, overflow: 'auto' }}>
        <Sheet
          dense
          head={[
            w.tiers.tier,
            w.tiers.part,
            w.tiers.angle,
            w.tiers.indexes,
            w.tiers.stop,
            w.tiers.note,
          ]}
        >
          {d.tiers.map((t, i) => {
            const at = (field: string) =>
              read.mistakes.some((p) => p.tier === i && p.field === field);
            const cell = (field: string, text: string) => (
              <Box
                component="td"
                className={field === 'note' ? undefined : 'figure'}
                sx={{
                  whiteSpace: 'normal !important',
                  background: (th) => (at(field) ? th.tokens.emberWash : undefined),
                }}
              >
                {at(field) && '! '}
                {text}
              </Box>
            );
            return (
              <tr key={t.key}>
                {cell('name', t.name)}
                {cell('part', w.tiers.parts[t.part] ?? t.part)}
                {cell('angle', `${t.angle}°`)}
                {cell('indexes', t.indexes)}
                {cell('stop', t.stop)}
                {cell('note', t.note)}
              </tr>
            );
          })}
        </Sheet>
      </Box>
      {read.lines.length > 0 && <Lines read={read} />}
      {finding && (
        <StopsDialog
          draft={read.draft}
          onClose={() => setFinding(false)}
          onTake={(draft) => {
            setFinding(false);
            const mistakes = read.mistakes.filter((p) => p.code !== 'stop-not-read');
            onRead({ ...read, draft, mistakes });
          }}
        />
      )}
    </Box>
  );
}

/** The text as it came in. Every line says what it was taken for. */
function Lines({ read }: { read: ReadFile }) {
  return (
    <Box component="section" sx={{ mt: 4 }}>
      <Typography variant="h3" gutterBottom>
        {l.text}
      </Typography>
      {read.lines.map((line) => (
        <Box
          key={line.no}
          sx={{
            display: 'grid',
            gridTemplateColumns: '40px 90px 1fr',
            borderBottom: 1,
            borderColor: 'divider',
            background: (t) => (line.kind === 'unread' ? t.tokens.emberWash : undefined),
          }}
        >
          <Typography variant="figures" color="text.secondary">
            {line.no}
          </Typography>
          <Typography>{l.kinds[line.kind]}</Typography>
          <Box
            component="span"
            sx={{ fontFamily: faces.figures, whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}
          >
            {line.text}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
