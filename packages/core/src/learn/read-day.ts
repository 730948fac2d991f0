import { asDay, type Day, dayOf, type Time } from './day.ts';

/** In which order a day's date and month stand; a year before them is told by its four figures. */
export type DayOrder = 'day-first' | 'month-first';

/** How the days of a column are to be read. `open`: both orders can be read in all cells, and they are not the same days. */
export type DayOrderFound = { order: DayOrder; open: boolean };

const LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pt', 'pl'];

/** Months by their names, long and short, in the languages whose headings are read, without marks and points. */
const monthNames = (): ReadonlyMap<string, number> =>
  new Map(
    LANGUAGES.flatMap((language) =>
      (['long', 'short'] as const).flatMap((month) => {
        const parts = new Intl.DateTimeFormat(language, { day: 'numeric', month, timeZone: 'UTC' });
        return Array.from({ length: 12 }, (_, at) => {
          const name = parts.formatToParts(Date.UTC(2026, at, 15)).find(({ type }) => type === 'month');
          return [plainName(name?.value ?? ''), at + 1] as const;
        });
      }),
    ),
  );
/** Made when a day with a name in it is first read. */
let months: ReadonlyMap<string, number> | null = null;

function plainName(name: string): string {
  return name
    .normalize('NFD')
    .replace(/\p{M}|\./gu, '')
    .toLowerCase();
}

const YEAR_FIRST = /^(\d{4})[-/.](\d{1,2})[-/.](\d{1,2})(?:[ T]0?0:00(?::00)?)?$/;
const COMPACT = /^(\d{4})(\d{2})(\d{2})$/;
const YEAR_LAST = /^(\d{1,2})[-/.](\d{1,2})[-/.](\d{4}|\d{2})$/;
const NAMED =
  /^(?:\p{L}+\.?,?\s+)?(\d{1,2})(?:\.|st|nd|rd|th)?[\s-]+(?:de\s+)?(\p{L}+)\.?,?[\s-]+(?:de\s+)?(\d{4})$/u;
const MONTH_NAMED = /^(\p{L}+)\.?\s+(\d{1,2})(?:st|nd|rd|th)?,?\s+(\d{4})$/u;

const fullYear = (year: string): number => (year.length === 2 ? 2_000 : 0) + Number(year);

/** A day as sheets write it: `2026-11-28`, `28.11.2026`, `11/28/26`, `20261128`, `28 Nov 2026`, `Nov 28, 2026`. */
export function readDay(cell: string, order: DayOrder): Day | undefined {
  const text = cell.trim();
  const first = YEAR_FIRST.exec(text) ?? COMPACT.exec(text);
  if (first) return dayOf(Number(first[1]), Number(first[2]), Number(first[3]));
  const last = YEAR_LAST.exec(text);
  if (last) {
    const [a, b] = [Number(last[1]), Number(last[2])];
    const [date, month] = order === 'day-first' ? [a, b] : [b, a];
    return dayOf(fullYear(last[3] ?? ''), month, date);
  }
  const named = NAMED.exec(text);
  if (named) return ofNamed(named[3], named[2], named[1]);
  const monthFirst = MONTH_NAMED.exec(text);
  return monthFirst ? ofNamed(monthFirst[3], monthFirst[1], monthFirst[2]) : undefined;
}

function ofNamed(year?: string, name?: string, date?: string): Day | undefined {
  months ??= monthNames();
  const month = months.get(plainName(name ?? ''));
  return month === undefined ? undefined : dayOf(Number(year), month, Number(date));
}

/** A week by the day that it begins with, or as `2026-W48`, which begins on a Monday (ISO 8601). */
export function readWeek(cell: string, order: DayOrder): Time | undefined {
  const iso = /^(\d{4})-?W(\d{1,2})$/.exec(cell.trim());
  const from = iso ? isoWeek(Number(iso[1]), Number(iso[2])) : readDay(cell, order);
  return from === undefined ? undefined : { from, to: asDay(from + 6) };
}

function isoWeek(year: number, week: number): Day | undefined {
  // 4 January is always in the first week.
  const fourth = dayOf(year, 1, 4);
  if (fourth === undefined || week < 1 || week > 53) return undefined;
  const monday = fourth - ((fourth + 3) % 7);
  const from = asDay(monday + (week - 1) * 7);
  // A 53rd week that lies in the next year is its first.
  const next = dayOf(year + 1, 1, 4) as Day;
  return from >= next - ((next + 3) % 7) ? undefined : from;
}

/**
 * Whether the date or the month stands first in the days of one column: by those that can be read one way only; else by
 * the order in which three or more of them lie close together, as the days of a report do. Points part days where the
 * date stands first.
 */
export function dayOrderOf(cells: Iterable<string>): DayOrderFound {
  const sure = { 'day-first': 0, 'month-first': 0 };
  const both = new Set<string>();
  for (const cell of cells) {
    const text = cell.trim();
    const found = YEAR_LAST.exec(text);
    if (!found) continue;
    if (text.includes('.') || Number(found[1]) > 12) sure['day-first']++;
    else if (Number(found[2]) > 12) sure['month-first']++;
    else if (found[1] !== found[2]) both.add(text);
  }
  if (sure['day-first'] + sure['month-first'] > 0)
    return {
      order: sure['month-first'] > sure['day-first'] ? 'month-first' : 'day-first',
      open: sure['day-first'] > 0 && sure['month-first'] > 0,
    };
  const spans = { 'day-first': spanOf(both, 'day-first'), 'month-first': spanOf(both, 'month-first') };
  const order = spans['month-first'] < spans['day-first'] ? 'month-first' : 'day-first';
  const other = order === 'day-first' ? 'month-first' : 'day-first';
  return { order, open: both.size > 0 && !(both.size >= 3 && spans[order] * RUN <= spans[other]) };
}

/** A run of days read in the wrong order is spread over months: so many times as long. */
const RUN = 4;

function spanOf(cells: Iterable<string>, order: DayOrder): number {
  const days = [...cells].flatMap((cell) => readDay(cell, order) ?? []);
  return days.length === 0
    ? 0
    : days.reduce((a, b) => Math.max(a, b), 0) - days.reduce((a, b) => Math.min(a, b), 1e9);
}

/** What may be a day within a line of words. */
const WITHIN = [
  /\d{4}[-/.]\d{1,2}[-/.]\d{1,2}/g,
  /\d{1,2}[-/.]\d{1,2}[-/.]\d{4}/g,
  /\d{1,2}(?:\.|st|nd|rd|th)?\s+(?:de\s+)?\p{L}+\.?\s+(?:de\s+)?\d{4}/gu,
  /\p{L}+\.?\s+\d{1,2}(?:st|nd|rd|th)?,?\s+\d{4}/gu,
];

/** The range that a title line tells by its only two days, or by a day that stands alone in it. */
export function rangeIn(line: string): Time | null {
  for (const shape of WITHIN) {
    const cells = line.match(shape) ?? [];
    const { order, open } = dayOrderOf(cells);
    const days = cells.map((cell) => readDay(cell, order));
    const [from, to = from] = days;
    // A lone day among words may be the one that the sheet was made on.
    const isTold = days.length === 2 || (days.length === 1 && line.trim() === cells[0]);
    if (open || !isTold || from === undefined || to === undefined || to < from) continue;
    return { from, to };
  }
  return null;
}
