import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import { useState } from 'react';
import type { ReadFile } from '../../api/client';
import { PickField } from '../../parts/fields/PickField';
import { StopsDialog } from '../../parts/diagram/StopsDialog';
import { Refusal } from '../../parts/forms/Refusal';
import { Care } from '../../parts/Page';
import { StoneInWheel } from '../../parts/stone/StoneInWheel';
import { useSolved } from '../../parts/stone/useSolved';
import { faces } from '../../theme/tokens';
import { editingWords } from '../../words/editing';
import { libraryWords as l } from '../../words/library';
import { stopsWords } from '../../words/order';
import { w } from '../../words/words';
import type { Entry } from './ImportRoom';
import { PlaceOf } from './ReadDesk';
import { ReadTiers } from './ReadTiers';
import { useReading } from './useReading';

interface Props {
  entry: Entry;
  read: ReadFile;
  onRead: (read: ReadFile, text?: string) => void;
}

/**
 * A sheet as it was recognised: its text, which can be corrected here, the stone it makes, and for
 * each tier what its words were read as.
 */
export function ReadSheet({ entry, read, onRead }: Props) {
  const [finding, setFinding] = useState(false);
  const { shown, solved } = useSolved(read.draft);
  const text = useReading(entry.name, entry.text, read, onRead);
  const d = read.draft;
  const problems = solved?.problems ?? [];
  const lacking = problems.filter((p) => p.code === 'stop-missing').length;
  const unsettled = problems.filter((p) => p.field === '' && p.tier < 0);
  const marks = read.mistakes.length + unsettled.length;
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
          gridTemplateColumns: { xs: '1fr', lg: read.whole ? '1fr' : '1.2fr 1fr' },
          gap: 4,
          mt: 3,
          alignItems: 'start',
        }}
      >
        {!read.whole && (
          <Box>
            <TextField
              label={l.text}
              value={text.typed}
              onChange={(e) => text.type(e.target.value)}
              multiline
              minRows={9}
              maxRows={14}
              fullWidth
              helperText={l.textHelp}
              disabled={entry.added !== undefined}
              slotProps={{
                htmlInput: { spellCheck: false, wrap: 'off' },
                input: { sx: { fontFamily: faces.figures, fontSize: '0.8125rem' } },
              }}
            />
            <Refusal error={text.error} />
            <Box sx={{ display: 'flex', gap: 2, mt: 2, flexWrap: 'wrap' }}>
              <TextField
                label={w.diagrams.plannedWidth}
                value={text.how.width}
                onChange={(e) => text.read({ ...text.how, width: e.target.value })}
                sx={{ width: 150 }}
                slotProps={{ htmlInput: { inputMode: 'decimal' } }}
              />
              {read.angles.length > 1 && (
                <PickField
                  label={l.anglesFor}
                  value={text.how.angles}
                  options={read.angles.map((name, value) => ({ value, name }))}
                  onChange={(angles) => text.read({ ...text.how, angles })}
                  width={200}
                />
              )}
            </Box>
          </Box>
        )}
        <Box sx={{ height: 300 }}>
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
      </Box>
      {lacking > 0 && !entry.added && (
        <Box sx={{ display: 'flex', gap: 3, alignItems: 'center', mt: 3 }}>
          <Button variant="contained" onClick={() => setFinding(true)}>
            {stopsWords.open}
          </Button>
          <Typography>{editingWords.missing(lacking)}</Typography>
        </Box>
      )}
      <ReadTiers
        read={read}
        stone={shown}
        readings={solved?.readings ?? []}
        onChange={(draft) => onRead({ ...read, draft })}
      />
      <Typography variant="h3" sx={{ mt: 4 }} gutterBottom>
        {l.marks}
      </Typography>
      {marks === 0 && <Typography>{l.noMarks}</Typography>}
      {read.mistakes.map((p, i) => (
        <Care key={i} grave={p.code === 'line-not-read'}>
          <PlaceOf place={p} /> {p.message}
          {p.code === 'line-not-read' && (
            <Box sx={{ fontFamily: faces.figures, overflowWrap: 'anywhere' }}>
              {read.lines.find((line) => line.no === p.line)?.text}
            </Box>
          )}
        </Care>
      ))}
      {unsettled.map((p, i) => (
        <Care key={i}>{p.message}</Care>
      ))}
      {finding && (
        <StopsDialog
          draft={read.draft}
          onClose={() => setFinding(false)}
          onTake={(draft) => {
            setFinding(false);
            onRead({ ...read, draft });
          }}
        />
      )}
    </Box>
  );
}
