import { expect, it, vi } from 'vitest';
import type { InstrumentState, LiveReading } from '../api/client';
import { Live, type Source } from './live';

/** A source that a test speaks for. */
function speaker() {
  const hearers = new Map<string, (e: MessageEvent<string>) => void>();
  const source: Source = {
    addEventListener: (name, hear) => void hearers.set(name, hear),
    close: vi.fn(),
  };
  const say = (name: string, data: unknown = {}) =>
    hearers.get(name)?.({ data: JSON.stringify(data) } as MessageEvent<string>);
  return { source, say };
}

const height = (instrument: string, value: number, held = false): LiveReading => ({
  instrument,
  quantity: 'height',
  value,
  raw: value,
  held,
});

const state = (id: string, now: LiveReading[], here = true): InstrumentState => ({
  id,
  name: id,
  here,
  trouble: here ? '' : 'gone',
  unread: 0,
  lastUnread: '',
  now,
});

it('shows what the instruments that are here read, and forgets those that went away', () => {
  const live = new Live();
  const { source, say } = speaker();
  live.listen(source);
  say('instruments', { instruments: [state('mast', [height('mast', 20)])] });
  say('readings', { readings: [height('mast', 19.99)] });
  expect(live.readings().get('height')?.value).toBe(19.99);
  say('instruments', { instruments: [state('mast', [], false)] });
  expect(live.readings().size).toBe(0);
  expect(live.instruments()[0]!.trouble).toBe('gone');
});

it('shows of two dials the one that moves', () => {
  const live = new Live();
  const { source, say } = speaker();
  live.listen(source);
  say('readings', { readings: [height('mast', 20)] });
  say('readings', { readings: [height('other', 5, true)] });
  expect(live.readings().get('height')?.instrument).toBe('mast');
  say('readings', { readings: [height('other', 5.01)] });
  expect(live.readings().get('height')?.instrument).toBe('other');
});

it('tells which logs got something, and that it may be any where it was away', () => {
  const live = new Live();
  const heard = vi.fn();
  live.onLogs(heard);
  const { source, say } = speaker();
  live.listen(source);
  expect(live.tells()).toBe(false);
  say('open');
  expect(heard).toHaveBeenLastCalledWith(undefined);
  expect(live.tells()).toBe(true);
  say('logs', { streams: ['work/a'] });
  expect(heard).toHaveBeenLastCalledWith(new Set(['work/a']));
  say('error');
  expect(live.tells()).toBe(false);
  live.close();
  expect(source.close).toHaveBeenCalled();
  // What an old source says late counts no more.
  say('readings', { readings: [height('mast', 20)] });
  expect(live.readings().size).toBe(0);
});
