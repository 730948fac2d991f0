import { columnMark, type DecimalMark, guessCurrency, guessScale } from '../gather/index.ts';
import type { MatchType } from '../match/index.ts';
import { normalise } from '../text/index.ts';
import type { Time } from './day.ts';
import { countedFigures } from './figure-sums.ts';
import { type Grain, grainOf, isDimension, type TimeStep } from './grain.ts';
import { type DayOrder, dayOrderOf, rangeIn, readDay } from './read-day.ts';
import { type ReportHeadings, type ReportRole, rolesOf } from './report-columns.ts';

/** A line of a report with its cells, counted from 1. */
export type ReportRecord = { line: number; fields: readonly string[] };

/** What is known of a report, or was decided by its user, instead of what would be guessed. */
export type ReportOptions = {
  /** What the outlet calls the columns of its reports, and its words for match types. */
  headings?: ReportHeadings;
  matchWords?: ReadonlyMap<string, MatchType>;
  roles?: readonly ReportRole[];
  dayOrder?: DayOrder;
  decimal?: DecimalMark;
  /** What time the whole report is of, where no column tells it. */
  range?: Time;
  /** The account whose rows alone are read, by the name that it has in the report; else the first that it names. */
  account?: string;
};

/** What has to be asked before a report goes in. */
export type ReportQuestion = 'day-order' | 'decimal' | 'range';

export type ReportLayout = {
  headerLine: number;
  headings: string[];
  roles: ReportRole[];
  /** Lines above the headings. */
  titles: string[];
  /** The time that the report says it is of, or is said to be of; null where neither tells. */
  range: Time | null;
  dayOrder: DayOrder;
  /** By column: the mark before decimals. */
  decimals: DecimalMark[];
  /** By column: a share is told in hundredths, with or without the sign. */
  inPercent: boolean[];
  /** The currency that its amounts name by sign or code; null where they name none. */
  currency: string | null;
  grain: Grain;
  open: ReportQuestion[];
  matchWords: ReadonlyMap<string, MatchType>;
  /** The one account that is read; null: the first that is named. */
  account: string | null;
  samples: string[][];
};

/** Headings are looked for in so many lines. */
const HEADED = 40;
const SAMPLE = 300;
const SHOWN = 5;

/** What tells when. */
export const ofTime: ReadonlySet<ReportRole> = new Set(['day', 'week', 'from', 'to']);
/** What tells that something happened; a sheet without any of it is no report. */
const COUNTED: ReadonlySet<ReportRole> = new Set(countedFigures);
/** Parts of a whole: none is above one. */
const SHARES: ReadonlySet<ReportRole> = new Set(['share', 'lost-budget', 'lost-rank', 'ctr', 'rate']);

/** The line of the headings among the first; undefined where none has a figure of results and something it is of. */
function headerOf(records: readonly ReportRecord[], own: ReportHeadings = []): ReportRecord | undefined {
  return records.slice(0, HEADED).find(({ fields }) => {
    const roles = rolesOf(fields, own).filter((role) => role !== 'skip');
    return roles.length >= 2 && roles.some((role) => COUNTED.has(role));
  });
}

/** How a report is to be read, by its first records; null where it has no headings of a report. O(cells of the sample). */
export function reportLayout(
  records: readonly ReportRecord[],
  options: ReportOptions = {},
): ReportLayout | null {
  const header = headerOf(records, options.headings);
  if (!header) return null;
  const headings = header.fields.map((field) => field.trim());
  const guessed = rolesOf(headings, options.headings);
  const roles = headings.map((_, at) => options.roles?.[at] ?? guessed[at] ?? 'skip');
  const accountAt = roles.indexOf('account');
  const isRead = ({ line, fields }: ReportRecord) =>
    line > header.line &&
    (options.account === undefined || isAccount(fields[accountAt] ?? '', options.account));
  const body = records.filter(isRead).slice(0, SAMPLE);
  const cellsAt = (at: number) => body.map(({ fields }) => fields[at] ?? '');
  const cellsOf = (is: (role: ReportRole) => boolean) =>
    roles.flatMap((role, at) => (is(role) ? cellsAt(at) : []));
  const titles = records
    .filter(({ line }) => line < header.line)
    .map(({ fields }) => fields.join(' ').replace(/\s+/g, ' ').trim())
    .filter((title) => title !== '');
  const range = options.range ?? titles.map(rangeIn).find((found) => found !== null) ?? null;
  const days = dayOrderOf(cellsOf((role) => ofTime.has(role)));
  const dayOrder = options.dayOrder ?? days.order;
  const marks = marksOf(roles, cellsAt, options.decimal);
  const step = stepOf(roles, cellsAt, dayOrder, range);
  const open: ReportQuestion[] = [];
  if (days.open && options.dayOrder === undefined) open.push('day-order');
  if (marks.open) open.push('decimal');
  if (step === null) open.push('range');
  return {
    headerLine: header.line,
    headings,
    roles,
    titles,
    range,
    dayOrder,
    decimals: marks.decimals,
    inPercent: roles.map((role, at) => isPercent(role, cellsAt(at))),
    currency: currencyOf(headings, roles, cellsAt),
    grain: grainOf(new Set(roles.filter(isDimension)), step ?? 'range'),
    open,
    matchWords: options.matchWords ?? new Map(),
    account: options.account ?? null,
    samples: body.slice(0, SHOWN).map(({ fields }) => fields.map((field) => field.slice(0, 80))),
  };
}

/** Whether two names are of one account, whatever their case. */
export const isAccount = (a: string, b: string): boolean => a === b || normalise(a) === normalise(b);

const AMOUNTS: ReadonlySet<ReportRole> = new Set(['cost', 'value', 'cpc', 'cpm', 'cost-per-conversion']);

function currencyOf(
  headings: readonly string[],
  roles: readonly ReportRole[],
  cellsAt: (at: number) => string[],
): string | null {
  for (const [at, role] of roles.entries()) {
    // A heading in capitals is no code: CPA, CTR.
    const inBrackets = /\(([^)]*)\)/.exec(headings[at] ?? '')?.[1] ?? '';
    const found = AMOUNTS.has(role) ? guessCurrency(inBrackets, cellsAt(at)) : null;
    if (found !== null) return found;
  }
  return null;
}

/** By columns, else by what the report says of itself; null where neither tells. */
function stepOf(
  roles: readonly ReportRole[],
  cellsAt: (at: number) => string[],
  order: DayOrder,
  range: Time | null,
): TimeStep | null {
  if (roles.includes('day')) return 'day';
  if (roles.includes('week')) return 'week';
  const [from, to] = [roles.indexOf('from'), roles.indexOf('to')];
  if (from >= 0 && to >= 0) {
    const ends = cellsAt(to);
    const areDays = cellsAt(from).every(
      (cell, at) => readDay(cell, order) === readDay(ends[at] ?? '', order),
    );
    return areDays ? 'day' : 'range';
  }
  if (range === null) return null;
  return range.from === range.to ? 'day' : 'range';
}

const isText = (role: ReportRole) =>
  role === 'skip' || ofTime.has(role) || role === 'match-type' || isDimension(role);
/** Counts are whole numbers: a mark before three figures parts thousands. */
const WHOLE: ReadonlySet<ReportRole> = new Set(['impressions', 'clicks']);

/** Decimal marks by column. One that leaves it open follows one that tells; where none does, it is to be asked. */
function marksOf(
  roles: readonly ReportRole[],
  cellsAt: (at: number) => string[],
  decided: DecimalMark | undefined,
): { decimals: DecimalMark[]; open: boolean } {
  const marks = roles.map((role, at) => (isText(role) ? null : columnMark(cellsAt(at), WHOLE.has(role))));
  const sure = marks.find((mark) => mark !== null && !mark.open);
  const all = decided ?? sure?.decimal ?? marks.find((mark) => mark !== null)?.decimal ?? '.';
  return {
    decimals: marks.map((mark) => (mark && !mark.open ? mark.decimal : all)),
    open: decided === undefined && sure === undefined && marks.some((mark) => mark?.open),
  };
}

/** Whether a column is told in hundredths: by their sign; a share also by figures above one. A return may well be 4. */
const isPercent = (role: ReportRole, cells: readonly string[]): boolean =>
  role === 'return'
    ? cells.some((cell) => cell.includes('%'))
    : SHARES.has(role) && guessScale(cells) === 100;
