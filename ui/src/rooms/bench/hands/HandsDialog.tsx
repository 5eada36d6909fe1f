import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import { useEffect, useState } from 'react';
import { keyName, readableKey } from '../../../parts/keys';
import { wheelWords as t } from '../../../words/wheel';
import { w } from '../../../words/words';
import { acts, keysOf, taught, type Act, type Hands } from './useHands';
import { canSpeak, chime, say } from './voice';

interface Props {
  hands: Hands;
  onChange: (change: Partial<Hands>) => void;
  /** Whether the screen stays on. */
  awake: boolean | undefined;
  onClose: () => void;
}

/** How the bench is worked without a hand: keys that are learned, touches, voice and the screen. */
export function HandsDialog({ hands, onChange, awake, onClose }: Props) {
  const [learning, setLearning] = useState<Act>();
  return (
    <Dialog open onClose={() => !learning && onClose()} fullWidth maxWidth="md">
      <DialogTitle>{t.hands}</DialogTitle>
      <DialogContent>
        <Typography color="text.secondary" gutterBottom>
          {t.handsLead}
        </Typography>
        <Typography variant="h3" sx={{ mt: 3 }}>
          {t.pedal}
        </Typography>
        <Typography gutterBottom>{t.pedalLead}</Typography>
        {acts.map((act) => {
          const keys = hands.pedal[act] ?? [];
          const named = (list: readonly string[]) => list.map(readableKey).join(', ');
          const usual = named(keysOf({ ...hands.pedal, [act]: [] }, act));
          return (
            <Box
              key={act}
              sx={{
                display: 'flex',
                alignItems: 'center',
                gap: 3,
                minHeight: 64,
                borderBottom: 1,
                borderColor: 'divider',
              }}
            >
              <Typography sx={{ fontWeight: 600, width: 190 }}>{t.acts[act]}</Typography>
              <Typography sx={{ flexGrow: 1 }} data-learned={act}>
                {learning === act
                  ? t.learning
                  : keys.length > 0
                    ? t.learnedToo(usual, named(keys))
                    : t.usualKeys(usual)}
              </Typography>
              {keys.length > 0 && (
                <Button
                  aria-label={`${t.forget}: ${t.acts[act]}`}
                  onClick={() => onChange({ pedal: { ...hands.pedal, [act]: [] } })}
                  sx={{ minHeight: 48 }}
                >
                  {t.forget}
                </Button>
              )}
              <Button
                variant="outlined"
                aria-label={`${t.learn}: ${t.acts[act]}`}
                onClick={() => setLearning(act)}
                sx={{ minHeight: 48 }}
              >
                {t.learn}
              </Button>
            </Box>
          );
        })}
        {learning && (
          <Learning
            onKey={(key) => {
              setLearning(undefined);
              if (key) onChange({ pedal: taught(hands.pedal, learning, key) });
            }}
          />
        )}
        <Choice
          name={t.splash}
          help={t.splashHelp}
          on={hands.splash}
          onChange={(splash) => onChange({ splash })}
        />
        <Choice
          name={t.speak}
          help={canSpeak() ? t.speakHelp : t.noVoice}
          on={hands.speak}
          disabled={!canSpeak()}
          onChange={(speak) => {
            if (speak) say(t.speak);
            onChange({ speak });
          }}
        />
        <Choice
          name={t.chime}
          help=""
          on={hands.chime}
          onChange={(on) => {
            if (on) chime();
            onChange({ chime: on });
          }}
        />
        <Typography sx={{ mt: 3 }} role="status" data-awake={awake}>
          {awake === undefined ? '' : awake ? t.awake : t.notAwake}
        </Typography>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose} sx={{ minHeight: 64 }}>
          {w.common.close}
        </Button>
      </DialogActions>
    </Dialog>
  );
}

function Choice(props: {
  name: string;
  help: string;
  on: boolean;
  disabled?: boolean;
  onChange: (on: boolean) => void;
}) {
  const { name, help, on, disabled, onChange } = props;
  return (
    <Box sx={{ mt: 3 }}>
      <FormControlLabel
        disabled={disabled}
        control={<Switch checked={on} onChange={(_, is) => onChange(is)} />}
        label={name}
        sx={{ minHeight: 48 }}
      />
      <Typography color="text.secondary">{help}</Typography>
    </Box>
  );
}

/** Takes the next key that is pressed; Escape leaves it. */
function Learning({ onKey }: { onKey: (key: string | undefined) => void }) {
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (['Shift', 'Control', 'Alt', 'Meta', 'Tab'].includes(e.key)) return;
      e.preventDefault();
      e.stopImmediatePropagation();
      onKey(e.key === 'Escape' ? undefined : keyName(e));
    };
    // Before the dialog and its buttons get to see it.
    window.addEventListener('keydown', press, { capture: true });
    return () => window.removeEventListener('keydown', press, { capture: true });
  }, [onKey]);
  return null;
}
