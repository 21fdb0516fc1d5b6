/** Figures as they stand on screen: always with their unit, a thin space between, a true minus sign. */

const THIN = '\u2009';

// Made once: a list of stacks says hundreds of figures, and making one of these takes longer than all it says.
const COUNT = new Intl.NumberFormat('en');
const MOMENT = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  hour: '2-digit',
  minute: '2-digit',
  timeZoneName: 'short',
});
const MINUTE = new Intl.DateTimeFormat('en-GB', { hour: '2-digit', minute: '2-digit' });
const SECOND = new Intl.DateTimeFormat('en-GB', { timeStyle: 'medium' });
const WEEKDAY = new Intl.DateTimeFormat('en-GB', { weekday: 'long' });
const DAY = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long' });
const DAY_OF_YEAR = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'long', year: 'numeric' });

export function figure(value: number, decimals: number, unit = ''): string {
  const digits = Math.abs(value).toFixed(decimals);
  const sign = value < 0 && Number(digits) !== 0 ? '−' : '';
  const tight = unit === '°' || unit === '%';
  return unit ? `${sign}${digits}${tight ? '' : THIN}${unit}` : `${sign}${digits}`;
}

/** Bytes in decimal units, as file managers and archives count them. */
export function bytes(count: number): string {
  if (count < 1000) return figure(count, 0, 'B');
  if (count < 1_000_000) return figure(count / 1000, count < 9950 ? 1 : 0, 'kB');
  if (count < 1_000_000_000) return figure(count / 1_000_000, 1, 'MB');
  return figure(count / 1_000_000_000, 2, 'GB');
}

/** How many there are. */
export function count(of: number): string {
  return COUNT.format(of);
}

export function counted(of: number, one: string, many = `${one}s`): string {
  return `${count(of)} ${of === 1 ? one : many}`;
}

const SOME = 12;

/** Which pages, by their numbers: the first of them where they are many. */
export function numbers(pages: readonly { number: number }[]): string {
  const first = pages.slice(0, SOME).map(({ number }) => number);
  return pages.length > SOME ? `${first.join(', ')} and ${count(pages.length - SOME)} more` : first.join(', ');
}

export function size(px: readonly number[] | null | undefined): string {
  return px ? `${px[0]} × ${px[1]}${THIN}px` : '–';
}

/** Day and time with the zone in which it is told. */
export function when(iso: string): string {
  return MOMENT.format(new Date(iso));
}

/** A day as people say it, as long as that is clear: today, yesterday, a weekday, then the date. */
export function day(iso: string, now = new Date()): string {
  const then = new Date(iso);
  const midnight = (date: Date) => new Date(date.getFullYear(), date.getMonth(), date.getDate()).getTime();
  const days = Math.round((midnight(now) - midnight(then)) / 86_400_000);
  if (days === 0) return `today, ${MINUTE.format(then)}`;
  if (days === 1) return 'yesterday';
  if (days > 1 && days < 7) return WEEKDAY.format(then);
  return (then.getFullYear() === now.getFullYear() ? DAY : DAY_OF_YEAR).format(then);
}

/** The time of day, to the second: what is waited for comes soon. */
export function time(iso: string): string {
  return SECOND.format(new Date(iso));
}
