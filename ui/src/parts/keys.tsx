import Button from '@mui/material/Button';
import Dialog from '@mui/material/Dialog';
import DialogActions from '@mui/material/DialogActions';
import DialogContent from '@mui/material/DialogContent';
import DialogTitle from '@mui/material/DialogTitle';
import FormControlLabel from '@mui/material/FormControlLabel';
import Switch from '@mui/material/Switch';
import Typography from '@mui/material/Typography';
import {
  createContext,
  useContext,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type ReactNode,
} from 'react';
import { remember, remembered } from '../log/remember';
import { live } from '../live/browser';
import { instrumentWords } from '../words/instruments';
import { w } from '../words/words';
import { takeKey } from './instruments/takeKey';

/** One key of a screen. Keys are named as KeyboardEvent.key names them, 'Ctrl+z' with control. */
export interface Key {
  keys: string[];
  label: string;
  run: () => void;
  /** Of the keys those that count although letters are off: somebody has chosen them. */
  chosen?: readonly string[];
  /** Held down it runs again and again. Most keys must not: a held Enter would tick the tier. */
  repeats?: boolean;
}

interface Registry {
  add: (list: () => Key[]) => () => void;
  show: () => void;
}

const KeysContext = createContext<Registry>({ add: () => () => {}, show: () => {} });

/** The key help's button. */
export const useKeyHelp = (): (() => void) => useContext(KeysContext).show;

const lettersKey = 'cressa-letters';

/** Whether a key is a plain character: somebody who speaks to the screen presses it by accident. */
const isCharacter = (name: string): boolean => name.length === 1 && name !== ' ';

/** Makes keys work while the caller is on screen, and lists them in the key help. */
export function useKeys(list: Key[]): void {
  const { add } = useContext(KeysContext);
  const latest = useRef(list);
  // Before the screen is painted: a key does what stands there, not what stood there before.
  useLayoutEffect(() => {
    latest.current = list;
  });
  useLayoutEffect(() => add(() => latest.current), [add]);
}

/** What a key is called in a list of keys. */
export function keyName(e: KeyboardEvent): string {
  const control = e.ctrlKey || e.metaKey ? 'Ctrl+' : '';
  const shift = e.shiftKey && e.key.length > 1 ? 'Shift+' : '';
  const key = control ? e.key.toLowerCase() : e.key;
  return control + (control && e.shiftKey ? 'Shift+' : shift) + key;
}

/** What a key does in number fields, where an instrument is read. */
const inFields = (): Key[] =>
  live.instruments().length > 0
    ? [{ keys: [takeKey], label: instrumentWords.takeKey, run: () => {} }]
    : [];

/** Plain letters belong to the field that is being typed in, and Enter to the button in focus. */
function taken(e: KeyboardEvent): boolean {
  const target = e.target as HTMLElement;
  if (target.closest('[role="dialog"], [role="listbox"], [role="menu"]')) return true;
  if (e.ctrlKey || e.metaKey) return false;
  if (target.closest('input:not([type=checkbox]):not([type=range]), textarea, [role="combobox"]'))
    return true;
  return presses(e);
}

/** Whether a key is typed into a field. */
const isTyped = (e: KeyboardEvent): boolean =>
  (e.target as HTMLElement).matches('input:not([type=checkbox]):not([type=radio]), textarea');

/** Whether a key presses the button, link or box in focus. */
function presses(e: KeyboardEvent): boolean {
  const target = e.target as HTMLElement;
  return (e.key === 'Enter' || e.key === ' ') && target.closest('button, a, input') !== null;
}

export function KeysProvider({ children }: { children: ReactNode }) {
  const lists = useRef<(() => Key[])[]>([]);
  const [shown, setShown] = useState<Key[] | null>(null);
  const [letters, setLetters] = useState(() => remembered(lettersKey) !== 'off');
  const registry = useMemo<Registry>(
    () => ({
      add: (list) => {
        lists.current = [list, ...lists.current];
        return () => {
          lists.current = lists.current.filter((l) => l !== list);
        };
      },
      show: () => setShown([...lists.current.flatMap((l) => l()), ...inFields()]),
    }),
    [],
  );
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      // A button that is held down by a key acts once, like one that is held by a finger.
      if (e.repeat && presses(e) && !isTyped(e)) return e.preventDefault();
      if (e.defaultPrevented || taken(e)) return;
      const name = keyName(e);
      const key = lists.current.flatMap((l) => l()).find((k) => k.keys.includes(name));
      if (!letters && isCharacter(name) && !key?.chosen?.includes(name)) return;
      if (e.key === '?') return registry.show();
      if (!key) return;
      e.preventDefault();
      if (!e.repeat || key.repeats) key.run();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [registry, letters]);
  return (
    <KeysContext value={registry}>
      {children}
      {shown && (
        <KeyList
          keys={shown}
          letters={letters}
          onLetters={(on) => {
            remember(lettersKey, on ? null : 'off');
            setLetters(on);
          }}
          onClose={() => setShown(null)}
        />
      )}
    </KeysContext>
  );
}

/** The keys of the present screen, in a dialog. */
function KeyList({
  keys,
  letters,
  onLetters,
  onClose,
}: {
  keys: Key[];
  letters: boolean;
  onLetters: (on: boolean) => void;
  onClose: () => void;
}) {
  return (
    <Dialog open onClose={onClose}>
      <DialogTitle>{w.common.keys}</DialogTitle>
      <DialogContent>
        <table>
          <tbody>
            {[...keys, { keys: ['?'], label: w.keys.help }].map((k) => (
              <tr
                key={k.keys.join()}
                style={{ opacity: letters || !k.keys.every(isCharacter) ? 1 : 0.5 }}
              >
                <td style={{ paddingRight: 24 }}>
                  <Typography variant="figures">{k.keys.map(readableKey).join('  ')}</Typography>
                </td>
                <td>{k.label}</td>
              </tr>
            ))}
          </tbody>
        </table>
        <FormControlLabel
          sx={{ mt: 3 }}
          control={<Switch checked={letters} onChange={(_, on) => onLetters(on)} />}
          label={w.keys.letters}
        />
        <Typography color="text.secondary">{w.keys.lettersHelp}</Typography>
      </DialogContent>
      <DialogActions>
        <Button onClick={onClose}>{w.common.close}</Button>
      </DialogActions>
    </Dialog>
  );
}

/** A key as it is written on a keyboard. */
export function readableKey(key: string): string {
  const names: Record<string, string> = {
    ' ': 'Space',
    ArrowLeft: '←',
    ArrowRight: '→',
    ArrowUp: '↑',
    ArrowDown: '↓',
    PageUp: 'Page up',
    PageDown: 'Page down',
  };
  return names[key] ?? key;
}
