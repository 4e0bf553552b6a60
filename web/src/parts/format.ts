const whole = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 0 });
const tenth = new Intl.NumberFormat('en-GB', { minimumFractionDigits: 1, maximumFractionDigits: 1 });

export const count = (n: number) => whole.format(n);

/** "1 file", "12 files". */
export const many = (n: number, one: string, more = `${one}s`) => `${count(n)} ${n === 1 ? one : more}`;

/** Decimal units, three significant figures at the most. */
export function bytes(n: number | null | undefined): string {
  if (n == null) return 'unknown';
  if (n < 1000) return `${n} B`;
  const steps: [number, string][] = [
    [1e9, 'GB'],
    [1e6, 'MB'],
    [1e3, 'kB'],
  ];
  const [size, unit] = steps.find(([s]) => n >= s) ?? [1e3, 'kB'];
  const value = n / size;
  return `${value >= 100 ? whole.format(value) : tenth.format(value)} ${unit}`;
}

export const pixels = (width: number | null | undefined, height: number | null | undefined) =>
  width == null || height == null ? 'unknown' : `${width} × ${height}`;

const clock = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long' });

/** Time of the day for today, the date otherwise. */
export function when(iso: string, now = new Date()): string {
  const at = new Date(iso);
  return at.toDateString() === now.toDateString() ? clock.format(at) : `${day.format(at)}, ${clock.format(at)}`;
}

/** The heading a row of Arrivals stands under. */
export function dayOf(iso: string, now = new Date()): string {
  const at = new Date(iso);
  const yesterday = new Date(now);
  yesterday.setDate(now.getDate() - 1);
  if (at.toDateString() === now.toDateString()) return 'today';
  if (at.toDateString() === yesterday.toDateString()) return 'yesterday';
  return at.getFullYear() === now.getFullYear() ? day.format(at) : `${day.format(at)} ${at.getFullYear()}`;
}

const words = ['no', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine', 'ten', 'eleven', 'twelve'];

/** Small numbers in words, as the call says them. */
export const inWords = (n: number) => words[n] ?? count(n);

export const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** A difference in tenths; in hundredths where tenths would say that it is the limit that it lies above. */
export const apart = (mean: number, limit: number) =>
  mean.toFixed(mean > limit && mean.toFixed(1) === limit.toFixed(1) ? 2 : 1);

/** A long folder loses its beginning, never the part that tells it from others. */
export function tail(folder: string, most = 26): string {
  if (folder.length <= most) return folder;
  const parts = folder.split('/');
  while (parts.length > 1 && parts.join('/').length > most - 2) parts.shift();
  return `…/${parts.join('/')}`;
}
