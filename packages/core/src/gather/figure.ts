import { asMicros, currencies, type Micros, microsFromDecimal } from '../money/index.ts';

export type DecimalMark = '.' | ',';

/** A figure as read. `approximate` where the source gave a range or a bound. */
export type Figure<T = number> = { value: T; approximate: boolean };

export type FigureRead<T> =
  | { status: 'figure'; figure: Figure<T> }
  | { status: 'none' }
  | { status: 'unreadable' };

const NONE = /^(?:-+|–|—|n\/?a|none|null)?$/i;
const RANGE = /^(.*\d[\s\p{L}\p{Sc}]*?)\s*(?:-|–|—|\bto\b)\s*(\D{0,4}\d.*)$/u;
const DECORATION = /[A-Z]{0,3}\p{Sc}|[%\s'’\u00a0\u202f]|(?:^[A-Z]{3}\b)|(?:\b[A-Z]{3}$)/gu;
const SUFFIXES: Record<string, number> = { k: 1_000, m: 1_000_000 };

/**
 * A cell's figure in plain decimals: `1,300`, `1.300,5`, `1 300`, `£0.40`, `0,40 €`, `1K – 10K` (the geometric
 * mean, approximate), `~300` (300, approximate), `< 10` (5, approximate), `10,000+` (10,000, approximate), `1,30,000` (130,000). `--` and an empty
 * cell are no figure, never zero; nor is `≈ 110`, which is how estimates are copied out.
 */
function readFigure<T extends number>(
  cell: string,
  decimal: DecimalMark,
  toValue: (decimal: string) => T | undefined,
): FigureRead<T> {
  const text = cell.trim();
  if (NONE.test(text)) return { status: 'none' };
  const exact = plainDecimal(text, decimal);
  if (exact !== undefined) return found(toValue(exact), false);
  const atLeast = text.endsWith('+') ? plainDecimal(text.slice(0, -1), decimal) : undefined;
  if (atLeast !== undefined) return found(toValue(atLeast), true);
  // What is copied out of a plan as an estimate is told by nobody when it comes back.
  if (text.startsWith('≈')) return { status: 'none' };
  const bound = /^([<>~])\s*(.+)$/.exec(text);
  if (bound) {
    const limit = plainDecimal(bound[2] ?? '', decimal);
    const value = limit === undefined ? undefined : toValue(limit);
    return found(value !== undefined && bound[1] === '<' ? (Math.round(value / 2) as T) : value, true);
  }
  const range = RANGE.exec(text);
  const low = range && plainDecimal(range[1] ?? '', decimal);
  const high = range && plainDecimal(range[2] ?? '', decimal);
  if (!low || !high) return { status: 'unreadable' };
  const [from, to] = [toValue(low), toValue(high)];
  if (from === undefined || to === undefined) return { status: 'unreadable' };
  return found(Math.round(Math.sqrt(from * to)) as T, true);
}

function found<T>(value: T | undefined, approximate: boolean): FigureRead<T> {
  return value === undefined
    ? { status: 'unreadable' }
    : { status: 'figure', figure: { value, approximate } };
}

/** Thousands in threes, or in the Indian way: `1,30,000`. */
const WITH_POINT = /^(\d+|\d{1,3}(?:,\d{3})+|\d{1,2}(?:,\d{2})+,\d{3})?(?:\.(\d+))?$/;
const WITH_COMMA = /^(\d+|\d{1,3}(?:\.\d{3})+)?(?:,(\d+))?$/;

/** `£1,300.50` as `1300.50`; `2.4K` as `2400`. Undefined where the separators make no number. */
function plainDecimal(text: string, decimal: DecimalMark): string | undefined {
  const bare = text.replace(DECORATION, '');
  const suffix = /[kmKM]$/.test(bare) ? bare.slice(-1).toLowerCase() : '';
  const digits = suffix ? bare.slice(0, -1) : bare;
  const parts = (decimal === '.' ? WITH_POINT : WITH_COMMA).exec(digits);
  if (!parts || digits === '') return undefined;
  const whole = (parts[1] ?? '0').replace(/[.,]/g, '');
  const fraction = parts[2] ?? '';
  if (!suffix) return fraction ? `${whole}.${fraction}` : whole;
  return String(Math.round(Number(`${whole}.${fraction || '0'}`) * (SUFFIXES[suffix] ?? 1)));
}

const MOST_SEARCHES = 2_000_000_000;

function wholeNumber(decimal: string): number | undefined {
  const value = Math.round(Number(decimal));
  return value <= MOST_SEARCHES ? value : undefined;
}

/** What is no whole number was not counted: the nearest one is told as approximate. */
function nearest(read: FigureRead<number>, decimal: DecimalMark, cell: string): FigureRead<number> {
  if (read.status !== 'figure') return read;
  const exact = plainDecimal(cell.trim(), decimal);
  const isWhole = exact === undefined || Number.isInteger(Number(exact));
  return isWhole ? read : found(read.figure.value, true);
}

const MOST_MONEY = 1_000_000_000_000;

function money(decimal: string): Micros | undefined {
  const amount = microsFromDecimal(decimal);
  return amount !== undefined && amount <= MOST_MONEY ? amount : undefined;
}

/** Monthly searches, a whole number. */
export const readCount = (cell: string, decimal: DecimalMark): FigureRead<number> =>
  nearest(readFigure(cell, decimal, wholeNumber), decimal, cell);

/** Any number, with its decimals: `4.2%` is 4.2, `£1,300.50` is 1,300.5. */
export const readNumber = (cell: string, decimal: DecimalMark): FigureRead<number> =>
  /^-\d/.test(cell.trim())
    ? negated(readNumber(cell.trim().slice(1), decimal))
    : readFigure(cell, decimal, Number);

const negated = (read: FigureRead<number>): FigureRead<number> =>
  read.status === 'figure' ? found(-read.figure.value, read.figure.approximate) : read;

/** An amount of the plan's currency. */
export const readAmount = (cell: string, decimal: DecimalMark): FigureRead<Micros> =>
  readFigure(cell, decimal, (text) => {
    const amount = money(text);
    return amount === undefined ? undefined : asMicros(amount);
  });

/** What one cell tells of the decimal mark; `open` names the mark that may part thousands or decimals. */
type MarkTold = { sure: DecimalMark } | { open: DecimalMark } | null;

const otherMark = (mark: DecimalMark): DecimalMark => (mark === '.' ? ',' : '.');

function markTold(cell: string): MarkTold {
  const text = cell.replace(DECORATION, '').replace(/[+kmKM]$/, '');
  if (/\.\d{3},\d+$|^\d{1,3}(?:\.\d{3}){2,}$|^\d*,(?:\d{1,2}|\d{4,})$|^0,\d+$/.test(text))
    return { sure: ',' };
  if (/,\d{3}\.\d+$|^\d{1,3}(?:,\d{3}){2,}$|^\d*\.(?:\d{1,2}|\d{4,})$|^0\.\d+$/.test(text))
    return { sure: '.' };
  if (/^\d{1,2}(?:,\d{2})+,\d{3}$/.test(text)) return { sure: '.' };
  const [, mark] = /^\d{1,3}([.,])\d{3}$/.exec(text) ?? [];
  return mark ? { open: mark as DecimalMark } : null;
}

/** What a column's figures tell of their decimal mark. `open`: both readings of `mark` stand, and which is meant is to be asked. */
export type ColumnMark = { decimal: DecimalMark; open: boolean } | null;

/**
 * Which mark stands before the decimals of one column, by all its cells: by those that can be read one way only; else,
 * where the figures are whole numbers, `1.300` and `22.400` are thousands. null: no cell has a mark.
 */
export function columnMark(cells: Iterable<string>, areWhole: boolean): ColumnMark {
  const sure = { '.': 0, ',': 0 };
  const open = { '.': 0, ',': 0 };
  for (const cell of cells)
    for (const part of cell.split(/\s*[-–—]\s*/)) {
      const told = markTold(part);
      if (told && 'sure' in told) sure[told.sure]++;
      else if (told) open[told.open]++;
    }
  if (sure['.'] + sure[','] > 0) return { decimal: sure[','] > sure['.'] ? ',' : '.', open: false };
  if (open['.'] + open[','] === 0) return null;
  const mark = open['.'] > open[','] ? '.' : ',';
  const isMixed = open['.'] > 0 && open[','] > 0;
  return { decimal: otherMark(mark), open: isMixed || !areWhole };
}

const COMPETITION_WORDS: Readonly<Record<string, number>> = { low: 17, medium: 50, high: 83 };

/**
 * Competition as a whole number of 0 to 100. `scale` is what the column counts to: 1 for `0.45`, 100 for `45` or
 * `45%`. The words low, medium and high stand for the middle of their thirds, approximately.
 */
export function readCompetition(cell: string, decimal: DecimalMark, scale: 1 | 100): FigureRead<number> {
  const word = COMPETITION_WORDS[cell.trim().toLowerCase()];
  if (word !== undefined) return found(word, true);
  const times = scale === 1 && !cell.includes('%') ? 100 : 1;
  return readFigure(cell, decimal, (text) => {
    const value = Math.round(Number(text) * times);
    return value >= 0 && value <= 100 ? value : undefined;
  });
}

/** Whether a column of competition counts to 1 or to 100. */
export function guessScale(cells: Iterable<string>): 1 | 100 {
  for (const cell of cells) {
    const number = Number(cell.replace(DECORATION, '').replace(',', '.'));
    if (cell.includes('%') || number > 1) return 100;
  }
  return 1;
}

const SIGNS: Readonly<Record<string, string>> = {
  '£': 'GBP',
  '€': 'EUR',
  $: 'USD',
  '¥': 'JPY',
  '₩': 'KRW',
  '₹': 'INR',
  '₫': 'VND',
};

/** The currency that amounts name by sign or code, in their cells or in the heading; null where none does. */
export function guessCurrency(heading: string, cells: Iterable<string>): string | null {
  for (const text of [heading, ...cells]) {
    const code = /\b[A-Z]{3}\b/.exec(text.replace(/\bCPC\b/g, ''))?.[0];
    if (code && code in currencies) return code;
    const sign = /\p{Sc}/u.exec(text)?.[0];
    if (sign && SIGNS[sign]) return SIGNS[sign];
  }
  return null;
}
