/** Formats by the reader's language and the number of digits: making one takes long. */
const formats = new Map<string, Intl.NumberFormat>();

/** Numbers as people write them here: the browser's decimal sign, no grouping. */
function format(v: number, min: number, max: number): string {
  const key = `${navigator.language} ${min} ${max}`;
  let f = formats.get(key);
  if (!f) {
    f = new Intl.NumberFormat(navigator.language, {
      minimumFractionDigits: min,
      maximumFractionDigits: max,
      useGrouping: false,
    });
    formats.set(key, f);
  }
  return f.format(v);
}

export const mm = (v: number): string => `${format(v, 2, 2)} mm`;

/** Width, length and height as far as they were taken. */
export function sizes(...v: number[]): string {
  const taken = v.filter((x) => x > 0);
  return taken.length > 0 ? `${taken.map((x) => format(x, 2, 2)).join(' × ')} mm` : '–';
}

/** Carats to 0.01; small stones to 0.001. */
export const carats = (v: number): string => `${format(v, v < 1 ? 3 : 2, v < 1 ? 3 : 2)} ct`;

/** A carat in grams. */
export const gramsPerCarat = 0.2;

/** A weight that is given in carats, in grams. */
export const grams = (ct: number): string => `${format(ct * gramsPerCarat, 3, 3)} g`;

/** A weight in carats and in grams. */
export const bothWeights = (ct: number): string => `${carats(ct)} · ${grams(ct)}`;

/** An angle as stored, to 0.01 at most. */
export const angle = (v: number): string => format(v, 0, 2);

/** An angle that was computed, with the digits that a meet needs to hold. */
export const exactAngle = (v: number): string => format(v, 0, 9);

/** An angle with its sign. */
export const signed = (v: number): string =>
  (v > 0 ? '+' : v < 0 ? '−' : '') + format(Math.abs(v), 0, 2);

export const ratio = (v: number): string => format(v, 3, 3);

export const percent = (v: number): string => `${format(100 * v, 1, 1)} %`;

/** A figure, or the two between which it lies where they are written differently. */
export function span(least: number, most: number, write: (v: number) => string): string {
  const [from, to] = [write(least), write(most)];
  return from === to ? from : `${from} – ${to}`;
}

/** A grain or a depth in µm: to the micrometre where it is coarse, to a hundredth where it is fine. */
export const micron = (v: number): string => `${format(v, 0, v >= 10 ? 0 : v >= 1 ? 1 : 2)} µm`;

/** How many times one thing is another. */
export const times = (v: number): string => `${format(v, 0, 1)}×`;

export const hours = (v: number): string => format(v, 1, 1);

/** The day of a moment, where this person is, as YYYY-MM-DD: for records and fields. */
export function date(moment: string | Date): string {
  const d = new Date(moment);
  const two = (v: number) => String(v).padStart(2, '0');
  return `${d.getFullYear()}-${two(d.getMonth() + 1)}-${two(d.getDate())}`;
}

/** A day as people write it here. */
export const day = (moment: string | Date): string =>
  new Date(moment).toLocaleDateString(navigator.language, { dateStyle: 'medium' });

/** A day of a record, YYYY-MM-DD, as people write it here; anything else as it was typed. */
export function dayOf(typed: string): string {
  const [, year, month, of] = /^(\d{4})-(\d{2})-(\d{2})$/.exec(typed) ?? [];
  return year ? day(new Date(Number(year), Number(month) - 1, Number(of))) : typed;
}

/** A moment as day and time. */
export const moment = (iso: string): string =>
  new Date(iso).toLocaleString(navigator.language, { dateStyle: 'medium', timeStyle: 'short' });

/** The time of day of a moment. */
export const timeOfDay = (iso: string): string =>
  new Date(iso).toLocaleTimeString(navigator.language, { timeStyle: 'short' });

/** Reads a number with a point or a comma; undefined where it is none. */
export function parseNumber(text: string): number | undefined {
  const v = Number(text.trim().replace(',', '.'));
  return text.trim() === '' || !Number.isFinite(v) ? undefined : v;
}

export const thousandths = (v: number): string => format(v, 3, 3);

/** A number with as many digits as it has. */
export const plain = (v: number): string => format(v, 0, 6);

/** A small error in micrometres. */
export const um = (v: number): string =>
  v >= 1000 ? mm(v / 1000) : `${format(v, 0, v < 10 ? 1 : 0)} µm`;

/** A stretch of time in ms as hours, minutes and seconds. */
export function clock(ms: number): string {
  const s = Math.floor(ms / 1000);
  const two = (v: number) => String(v).padStart(2, '0');
  return `${Math.floor(s / 3600)}:${two(Math.floor(s / 60) % 60)}:${two(s % 60)}`;
}

/** Minutes as people say them: hours and minutes. */
export function duration(minutes: number): string {
  const m = Math.round(minutes);
  return m < 60 ? `${m} min` : `${Math.floor(m / 60)} h ${m % 60} min`;
}

/** A sum that is given in minor units. */
export const money = (minor: number, currency: string): string =>
  (minor / 100).toLocaleString(
    navigator.language,
    currency
      ? { style: 'currency', currency }
      : { minimumFractionDigits: 2, maximumFractionDigits: 2 },
  );
