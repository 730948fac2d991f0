import { type DecimalMark, guessCurrency, readNumber } from '../gather/index.ts';
import { type MatchType, readNotation } from '../match/index.ts';
import { normalise, tidy, withRoom } from '../text/index.ts';
import { CutLine } from './cut-line.ts';
import { asDay, type Time, timeKey } from './day.ts';
import { type WorkedFigure, workedOut } from './figure-sums.ts';
import { dimensions, isDimension } from './grain.ts';
import { KnownCells } from './known-cells.ts';
import { PlaceKeys, placeKey, type ReportNames } from './place-keys.ts';
import { readDay, readWeek } from './read-day.ts';
import { RepeatedRows } from './repeated-rows.ts';
import type { ReportRole } from './report-columns.ts';
import type { ReportFact } from './report-imports.ts';
import { isAccount, ofTime, type ReportLayout, type ReportRecord } from './report-layout.ts';
import { noneTold, type ToldFigure, type ToldFigures } from './told-figures.ts';
import { TotalsRows } from './totals-rows.ts';

/** `nth`: the how-manieth of the places of its report it is. `key`: its names as one text. */
export type ReadFact = ReportFact & { line: number; names: ReportNames; nth: number; key: string };

type ReadNames = { names: ReportNames; notType: string | null };
/** `notType`: what stands for its match type and is none. */
type Named = ReadNames & { campaign: string; place: string; nth: number; key: string };

const NO_TIME: Time = { from: asDay(0), to: asDay(0) };
const NO_NAMES: Named = { names: {}, notType: null, campaign: '', place: '', nth: -1, key: '' };

/** A row as it is told of, and then used for the next: its names are looked at only by whoever asks for them. */
class RowFact implements ReadFact {
  line = 0;
  nth = -1;
  time: Time = NO_TIME;
  named: Named = NO_NAMES;
  /** The how-manieth different line of its place and time it is. */
  times = 1;
  readonly told: Record<ToldFigure, number | null> = { ...noneTold };

  get key(): string {
    return this.named.key;
  }

  get names(): ReportNames {
    return this.named.names;
  }

  get campaign(): string {
    return this.named.campaign;
  }

  get place(): string {
    // Lines that only a column which is left out tells apart are kept apart, and added by whoever looks.
    return this.times > 1 ? `${this.named.place}#${this.times}` : this.named.place;
  }
}

type ReadTime = { time: Time; nth: number; cells: readonly string[] };

export const reportProblems = [
  'day',
  'week',
  'time',
  'account',
  'figure',
  'currency',
  'hour',
  'match-type',
] as const;
/** What of a line can't be read: its column by its heading, and what stands there. */
export type ReportProblem = {
  line: number;
  code: (typeof reportProblems)[number];
  column: string;
  text: string;
};

/** A figure that the report tells and that its other figures don't make. */
export type ToldOtherwise = { line: number; role: ReportRole; told: number; worked: number };

export type ReportSink = {
  /** What is told is told until the next: who keeps it keeps a copy. */
  fact: (fact: ReadFact) => void;
  problem: (problem: ReportProblem) => void;
  /** Totals: kept as they stand, and no row of anything. */
  setAside: (line: number, fields: readonly string[]) => void;
  /** A line that says to the letter what an earlier one said: counted once. */
  repeated: (line: number) => void;
  otherwise: (told: ToldOtherwise) => void;
  /** A row of another account than `own`, which is read. */
  other: (account: string, own: string) => void;
};

/** In millionths; conversions are too, and have no currency. */
const AMOUNT = 1_000_000;

/** What is read into facts, in what unit (times `unit` makes it whole), and what an empty cell tells. */
const FIGURES: Readonly<Partial<Record<ReportRole, { figure: ToldFigure; unit: number; empty: 0 | null }>>> =
  {
    impressions: { figure: 'impressions', unit: 1, empty: 0 },
    clicks: { figure: 'clicks', unit: 1, empty: 0 },
    cost: { figure: 'cost', unit: AMOUNT, empty: 0 },
    conversions: { figure: 'conversions', unit: 1_000_000, empty: 0 },
    value: { figure: 'value', unit: AMOUNT, empty: 0 },
    position: { figure: 'position', unit: 1_000, empty: null },
    share: { figure: 'share', unit: 10_000, empty: null },
    'lost-budget': { figure: 'lostBudget', unit: 10_000, empty: null },
    'lost-rank': { figure: 'lostRank', unit: 10_000, empty: null },
  };

/** What a report tells though its other figures make it, and in what unit those are worked out. */
const CHECKED: Readonly<Partial<Record<ReportRole, { worked: WorkedFigure; unit: number }>>> = {
  ctr: { worked: 'ctr', unit: 1 },
  cpc: { worked: 'cpc', unit: 1_000_000 },
  cpm: { worked: 'cpm', unit: 1_000_000 },
  rate: { worked: 'rate', unit: 1 },
  'cost-per-conversion': { worked: 'costPerConversion', unit: 1_000_000 },
  return: { worked: 'return', unit: 1 },
};

type Column = { at: number; role: ReportRole; mark: DecimalMark; isPercent: boolean };
type FigureColumn = Column & NonNullable<(typeof FIGURES)[ReportRole]>;
type CheckedColumn = Column & NonNullable<(typeof CHECKED)[ReportRole]>;

/**
 * Reads the rows of a report one after another, each by itself, so that memory does not grow with them but for what tells
 * repeated lines. An empty cell under impressions, clicks, cost, conversions or value is none of them; elsewhere it tells
 * nothing.
 */
export class ReportRows {
  private readonly at: ReadonlyMap<ReportRole, number>;
  private readonly totals: TotalsRows;
  private readonly figures: readonly FigureColumn[];
  private readonly checks: readonly CheckedColumn[];
  private readonly places = new PlaceKeys();
  /** Columns that say neither what a row is of nor when. */
  private readonly rest: readonly number[];
  /** What rows are of by their cells to the letter, and what that is; the how-manieth place it is beside it. */
  private readonly known: KnownCells;
  private readonly named: Named[] = [];
  private nthOf = new Int32Array(1_024);
  private hasNotTypes = false;
  private readonly placeAt = new Map<string, number>();
  private readonly row = new CutLine();
  private readonly own = new RowFact();
  /** The account that is read; null: none was named yet. */
  private account: string | null;
  private readonly timing: readonly number[];
  /** Figures of the row that can't be read: told once it is known that the row is. */
  private readonly unread: { code: 'figure' | 'currency'; role: ReportRole; cell: string }[] = [];
  private lastTime: ReadTime | null = null;
  private readonly times = new Map<string, ReadTime>();
  private readonly timeAt = new Map<string, number>();
  private readonly repeats = new RepeatedRows();

  constructor(
    private readonly layout: ReportLayout,
    private readonly sink: ReportSink,
  ) {
    this.account = layout.account;
    this.at = new Map(layout.roles.map((role, at) => [role, at] as const));
    const columns = layout.roles.map((role, at) => ({
      at,
      role,
      mark: layout.decimals[at] ?? '.',
      isPercent: layout.inPercent[at] === true,
    }));
    this.figures = columns.flatMap((column) => {
      const figure = FIGURES[column.role];
      return figure ? [{ ...column, ...figure }] : [];
    });
    this.checks = columns.flatMap((column) => {
      const checked = CHECKED[column.role];
      return checked ? [{ ...column, ...checked }] : [];
    });
    const columnsThat = (is: (role: ReportRole) => boolean) =>
      layout.roles.flatMap((role, at) => (is(role) ? [at] : []));
    const isNaming = (role: ReportRole) => role === 'match-type' || isDimension(role);
    this.known = new KnownCells(columnsThat(isNaming));
    this.timing = columnsThat((role) => ofTime.has(role));
    this.rest = columnsThat((role) => !isNaming(role) && !ofTime.has(role));
    this.totals = new TotalsRows(
      columnsThat((role) => role === 'day' || role === 'week' || isDimension(role)),
    );
  }

  push({ line, fields }: ReportRecord): void {
    this.row.take(fields);
    this.read(line);
  }

  /** A line that has no quotes in it, as it stands. */
  pushPlain(line: number, text: string, delimiter: string): void {
    this.row.cut(text, delimiter);
    this.read(line);
  }

  private read(line: number): void {
    const { row } = this;
    if (row.isAllBlank) return;
    const told = this.toldBy();
    const isTotal = this.totals.isOne(row, told);
    if (!isTotal && this.isOfOther(line)) return;
    for (const { code, role, cell } of this.unread) this.refuse(line, code, role, cell);
    if (isTotal) {
      this.sink.setAside(line, row.cells);
      return;
    }
    const read = this.timeOf(line);
    const known = this.namedBy(line);
    if (!read || known < 0) return;
    if (this.hasNotTypes) this.refuseType(line, known);
    this.totals.add(told);
    const nth = this.nthOf[known] as number;
    const times = this.repeats.count(read.nth, nth, row.hashOf(this.rest));
    if (times === 0) {
      this.sink.repeated(line);
      return;
    }
    const { own } = this;
    own.line = line;
    own.nth = nth;
    own.time = read.time;
    own.named = this.named[known] as Named;
    own.times = times;
    this.sink.fact(own);
    if (this.checks.length > 0) this.check(line, told);
  }

  /** What is read is of one account: rows of another are told, and not read. */
  private isOfOther(line: number): boolean {
    const at = this.at.get('account');
    if (at === undefined) return false;
    const account = tidy(this.row.cell(at));
    if (account === '') {
      // Among rows of several accounts it may be of any.
      if (this.layout.account !== null) this.refuse(line, 'account', 'account', '');
      return this.layout.account !== null;
    }
    this.account ??= account;
    if (isAccount(account, this.account)) return false;
    this.sink.other(account, this.account);
    return true;
  }

  /** The number of what a row is of, by its cells; -1 where one of them can't be read. */
  private namedBy(line: number): number {
    const there = this.known.numberOf(this.row);
    if (there >= 0) return there;
    const read = this.namesOf(line);
    if (!read) return -1;
    const campaign = this.places.campaign(read.names);
    const place = this.places.within(read.names);
    const key = placeKey(campaign, place);
    const nth = this.placeAt.get(key) ?? this.placeAt.size;
    this.placeAt.set(key, nth);
    const number = this.known.add(this.row);
    this.named[number] = { ...read, campaign, place, nth, key };
    this.nthOf = withRoom(this.nthOf, number + 1);
    this.nthOf[number] = nth;
    if (read.notType !== null) this.hasNotTypes = true;
    return number;
  }

  private refuseType(line: number, known: number): void {
    const notType = this.named[known]?.notType ?? null;
    if (notType !== null) this.refuse(line, 'match-type', 'match-type', notType);
  }

  private cell(role: ReportRole): string | undefined {
    const at = this.at.get(role);
    return at === undefined ? undefined : this.row.cell(at).trim();
  }

  private refuse(line: number, code: ReportProblem['code'], role: ReportRole, text: string): null {
    this.sink.problem({ line, code, column: this.layout.headings[this.at.get(role) ?? -1] ?? role, text });
    return null;
  }

  private timeOf(line: number): ReadTime | null {
    const { lastTime } = this;
    if (lastTime && this.isOf(lastTime)) return lastTime;
    const own = this.timing.map((at) => this.row.cell(at));
    const cells = own.join('\u0000');
    const there = this.times.get(cells);
    if (there) {
      this.lastTime = there;
      return there;
    }
    const time = this.readTime(line);
    if (!time) return null;
    const nth = this.timeAt.get(timeKey(time)) ?? this.timeAt.size;
    this.timeAt.set(timeKey(time), nth);
    const read = { time, nth, cells: own };
    this.lastTime = read;
    if (this.times.size < MOST_REMEMBERED) this.times.set(cells, read);
    return read;
  }

  private isOf({ cells }: ReadTime): boolean {
    for (let n = 0; n < cells.length; n++)
      if (!this.row.is(this.timing[n] as number, cells[n] as string)) return false;
    return true;
  }

  private readTime(line: number): Time | null {
    const { dayOrder, range } = this.layout;
    const day = this.cell('day');
    if (day !== undefined) {
      const found = readDay(day, dayOrder);
      return found === undefined ? this.refuse(line, 'day', 'day', day) : { from: found, to: found };
    }
    const week = this.cell('week');
    if (week !== undefined) return readWeek(week, dayOrder) ?? this.refuse(line, 'week', 'week', week);
    const [first, last] = [this.cell('from'), this.cell('to')];
    if (first === undefined || last === undefined) return range;
    const [from, to] = [readDay(first, dayOrder), readDay(last, dayOrder)];
    if (from === undefined) return this.refuse(line, 'day', 'from', first);
    if (to === undefined) return this.refuse(line, 'day', 'to', last);
    return to < from ? this.refuse(line, 'time', 'to', `${first} – ${last}`) : { from, to };
  }

  private namesOf(line: number): ReadNames | null {
    const names: ReportNames = {};
    for (const one of dimensions) {
      const cell = this.cell(one);
      if (cell !== undefined) names[one] = tidy(cell);
    }
    if (names.hour !== undefined) {
      const hour = hourOf(names.hour);
      if (hour === undefined) return this.refuse(line, 'hour', 'hour', names.hour);
      names.hour = String(hour);
    }
    if (names.keyword !== undefined) return this.withMatch(names, names.keyword);
    return { names, notType: null };
  }

  /** The keyword without its notation, and its match type by its column or else by its notation. */
  private withMatch(names: ReportNames, keyword: string): ReadNames {
    const read = readNotation(keyword);
    const said = this.cell('match-type');
    const match = said === undefined || said === '' ? undefined : matchOf(said, this.layout.matchWords);
    const notType = said !== undefined && said !== '' && match === undefined ? said : null;
    // What the outlet lists though nobody bid on it is no keyword of the plan; it is kept by its name.
    if (read.status === 'problem') return { names: { ...names, keyword, match: match ?? null }, notType };
    return { names: { ...names, keyword: read.text, match: match ?? read.type }, notType };
  }

  private toldBy(): ToldFigures {
    this.unread.length = 0;
    const { told } = this.own;
    for (const { figure } of this.figures) told[figure] = null;
    for (const { at, role, figure, unit, empty, mark, isPercent } of this.figures) {
      // Most cells of a report are plain counts and amounts.
      const plain = this.row.plainNumber(at, mark);
      const cell = plain < 0 ? this.row.cell(at).trim() : '';
      const read = plain < 0 ? numberOf(cell, mark) : plain;
      if (read === undefined) this.unread.push({ code: 'figure', role, cell });
      // Amounts of two currencies are not added to each other.
      else if (plain < 0 && unit === AMOUNT && this.isOtherCurrency(cell))
        this.unread.push({ code: 'currency', role, cell });
      else told[figure] = read === null ? empty : Math.round((isPercent ? read / 100 : read) * unit);
    }
    return told;
  }

  private isOtherCurrency(cell: string): boolean {
    if (this.layout.currency === null || /^[\d.,\s-]*$/.test(cell)) return false;
    const own = guessCurrency('', [cell]);
    return own !== null && own !== this.layout.currency;
  }

  private check(line: number, told: ToldFigures): void {
    for (const { at, role, worked: figure, unit, mark, isPercent } of this.checks) {
      const cell = this.row.cell(at).trim();
      const number = numberOf(cell, mark);
      const made = workedOut(figure, told);
      if (number === null || number === undefined || made === null || BOUND.test(cell)) continue;
      const worked = made / unit;
      const said = isPercent ? number / 100 : number;
      const place = lastPlace(cell, mark) / (isPercent ? 100 : 1);
      if (Math.abs(said - worked) > place * 0.51 + Math.abs(worked) * 1e-9)
        this.sink.otherwise({ line, role, told: said, worked });
    }
  }
}

/** So many different times are remembered. */
const MOST_REMEMBERED = 400_000;

/** `< 10%` is a bound, and no figure to check. */
const BOUND = /^[<>~]/;

/** Null: the cell tells nothing. Undefined: it can't be read. */
function numberOf(cell: string, decimal: DecimalMark): number | null | undefined {
  const read = readNumber(cell, decimal);
  if (read.status === 'none') return null;
  return read.status === 'figure' ? read.figure.value : undefined;
}

/** What one step of the last decimal of a number is: 0.01 of `2.40`. */
function lastPlace(cell: string, decimal: DecimalMark): number {
  let places = 0;
  for (let at = cell.lastIndexOf(decimal) + 1; at > 0 && at < cell.length; at++) {
    const code = cell.charCodeAt(at);
    if (code < 48 || code > 57) break;
    places++;
  }
  return 10 ** -places;
}

const TYPES: readonly (readonly [RegExp, MatchType])[] = [
  [/^(?:broad (?:match )?modifi|modified)/, 'modified'],
  [/^broad/, 'broad'],
  [/^phrase/, 'phrase'],
  [/^exact/, 'exact'],
];

/** A match type by the outlet's own word, or by the trade's: `Exact match (close variant)` was answered by exact. */
function matchOf(said: string, own: ReadonlyMap<string, MatchType>): MatchType | undefined {
  const text = normalise(said);
  return own.get(text) ?? TYPES.find(([shape]) => shape.test(text))?.[1];
}

/** `14`, `14:00`, `2 PM` as 14; `14–15` by its beginning. */
function hourOf(cell: string): number | undefined {
  const found = /^(\d{1,2})(?:[:.]\d{2})?\s*(am|pm|h|uhr)?(?:\s*[-–].*)?$/i.exec(cell.trim());
  if (!found) return undefined;
  const said = Number(found[1]);
  const half = found[2]?.toLowerCase();
  if (half !== 'am' && half !== 'pm') return said <= 23 ? said : undefined;
  if (said < 1 || said > 12) return undefined;
  return (said % 12) + (half === 'pm' ? 12 : 0);
}
