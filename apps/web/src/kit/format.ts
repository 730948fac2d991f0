import { decimalsOf, minorUnit } from '@sprig/core/money';

const whole = new Intl.NumberFormat('en-GB');
const compact = new Intl.NumberFormat('en-GB', { notation: 'compact', maximumFractionDigits: 1 });

/** `6,014`; `–` for no figure. */
export const count = (value: number | null | undefined): string =>
  value === null || value === undefined || value < 0 ? '–' : whole.format(value);

export const short = (value: number): string => compact.format(value);

const formats = new Map<string, Intl.NumberFormat>();

function moneyFormat(currency: string): Intl.NumberFormat {
  const known = formats.get(currency);
  if (known) return known;
  const digits = decimalsOf(currency);
  const made = new Intl.NumberFormat('en-GB', {
    style: 'currency',
    currency,
    minimumFractionDigits: digits,
    maximumFractionDigits: Math.max(digits, 4),
  });
  formats.set(currency, made);
  return made;
}

/** Micros as `£0.58`; `–` for none. */
export const money = (micros: number | null | undefined, currency: string): string =>
  micros === null || micros === undefined || micros < 0
    ? '–'
    : moneyFormat(currency).format(micros / 1_000_000);

/** An amount that is worked out, to the currency's smallest: `£143.79`. */
export const estimate = (micros: number, currency: string): string =>
  money(Math.round(micros / minorUnit(currency)) * minorUnit(currency), currency);

/** Micros as `£643`, without what is less than one. */
export const wholeMoney = (micros: number, currency: string): string =>
  new Intl.NumberFormat('en-GB', { style: 'currency', currency, maximumFractionDigits: 0 }).format(
    micros / 1_000_000,
  );

/** `1 keyword`, `2 keywords`, `1,204 rows`, `2 addresses`, `3 entries`. */
export const counted = (value: number, word: string): string => `${count(value)} ${manyOf(value, word)}`;

function manyOf(value: number, word: string): string {
  if (value === 1) return word;
  return /[^aeiou]y$/.test(word)
    ? `${word.slice(0, -1)}ies`
    : `${word}${/(s|x|ch|sh)$/.test(word) ? 'es' : 's'}`;
}

/** The most that a narrow place shows whole. */
const MOST_WHOLE = 9_999;

/** A number where there is little room: `6,014`, `12.9k`. */
export const tally = (value: number): string => (value <= MOST_WHOLE ? count(value) : short(value));

/** The same with what it counts: `1 keyword`, `12.9k keywords`. */
export const tallied = (value: number, word: string): string => `${tally(value)} ${manyOf(value, word)}`;

export const percent = (basisPoints: number): string => `${basisPoints / 100}%`;

const day = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', year: 'numeric' });
const moment = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  hour: '2-digit',
  minute: '2-digit',
});
export const date = (iso: string): string => day.format(new Date(iso));
export const time = (iso: string): string => moment.format(new Date(iso));

/** `1.2 MB` */
export const bytes = (value: number): string => {
  if (value < 1_000) return `${value} B`;
  if (value < 1_000_000) return `${(value / 1_000).toFixed(0)} kB`;
  return `${(value / 1_000_000).toFixed(1)} MB`;
};
