import {
  bitOf,
  type MatchSet,
  type MatchType,
  matchTypes,
  type NotationProblem,
  readNotation,
} from '../match/index.ts';
import type { Micros } from '../money/index.ts';
import { type NormalText, normalise, tidy } from '../text/index.ts';
import { type ColumnRole, findHeader, isTotals, rolesByHeading, rolesByShape } from './columns.ts';
import {
  type DecimalMark,
  type Figure,
  type FigureRead,
  guessDecimal,
  readAmount,
  readCount,
} from './figure.ts';
import { type Delimiter, guessDelimiter, linesOf, readRecords, type TextRecord } from './records.ts';

/** What the user may decide about a list instead of the guess. */
export type ReadOptions = {
  /** null: one keyword a line. */
  delimiter?: Delimiter | null;
  /** The header's line, counted from 1; null: there is none. */
  headerLine?: number | null;
  roles?: ColumnRole[];
  decimal?: DecimalMark;
  takeOutNotAllowed?: boolean;
  /** The match type of lines that carry no notation. */
  askedAs?: MatchType | null;
};

/** How the list was laid out, guessed or as decided. */
export type ListLayout = {
  delimiter: Delimiter | null;
  headerLine: number | null;
  headings: string[];
  roles: ColumnRole[];
  decimal: DecimalMark;
  samples: string[][];
};

/** One keyword of the list, once however often it stands there. */
export type ReadKeyword = {
  line: number;
  text: string;
  norm: NormalText;
  asked: MatchSet;
  /** Marked words of modified broad, from 0; empty where none was asked for. */
  marks: number[];
  searches: Figure | null;
  cpc: Figure<Micros> | null;
  extra: Record<string, string> | null;
};

export type ReadNegative = { line: number; text: string; norm: NormalText; type: MatchType | null };

export type LineProblem = {
  line: number;
  /** The line as it stands, at most 500 characters of it. */
  raw: string;
  code: NotationProblem['code'] | 'open-quote' | 'text-after-quote' | 'figure' | 'match-word';
  /** Column, from 1. */
  at: number;
  character?: string;
  /** True: the keyword went in all the same, only this cell did not. */
  kept: boolean;
};

export type SetAside = { line: number; raw: string; why: 'title' | 'header' | 'totals' };

export type Reading = {
  layout: ListLayout;
  keywords: ReadKeyword[];
  negatives: ReadNegative[];
  problems: LineProblem[];
  setAside: SetAside[];
  counts: {
    /** Lines that are not blank. */
    lines: number;
    /** Lines that say again what an earlier one said. */
    repeated: number;
    /** Lines whose keyword an earlier one has, asked for in another match type. */
    askedAgain: number;
    /** Lines per notation found; `plain` carried none. */
    byNotation: Record<MatchType | 'plain', number>;
  };
};

const SHOWN = 500;
const UNSHOWABLE = /[^\P{Cc}\t\n]|\p{Cs}/gu;

/** A line as it can be shown and kept: what no screen and no database holds is marked. */
const shown = (raw: string) =>
  (raw.length > SHOWN ? `${raw.slice(0, SHOWN)}…` : raw).replace(UNSHOWABLE, '\ufffd');

/**
 * Reads a pasted or uploaded list: plain lines in any notation, or CSV, TSV or semicolons with or without a
 * header. Nothing is dropped: what is not a keyword or negative is a problem, set aside, or counted as repeated.
 * O(length of the text).
 */
export function readList(text: string, options: ReadOptions = {}): Reading {
  const lines = linesOf(text.startsWith('\ufeff') ? text.slice(1) : text);
  const guess = guessDelimiter(lines);
  const delimiter = options.delimiter === undefined ? guess.delimiter : options.delimiter;
  const columns =
    delimiter === null ? 1 : delimiter === guess.delimiter ? guess.columns : widest(lines, delimiter);
  const { records, problems } =
    delimiter === null
      ? { records: plainRecords(lines), problems: [] }
      : readRecords(lines, delimiter, columns);
  const layout = layoutOf(records, delimiter, columns, options);
  const reader = new ListReader(layout, options);
  for (const problem of problems) reader.problem(problem.line, problem.raw, problem.code, problem.at);
  const header = layout.headerLine;
  for (const record of records) {
    if (header !== null && record.line <= header)
      reader.setAside(record, record.line < header ? 'title' : 'header');
    else reader.read(record);
  }
  return reader.done();
}

function widest(lines: readonly string[], delimiter: Delimiter): number {
  return lines.slice(0, 200).reduce((most, line) => Math.max(most, line.split(delimiter).length), 1);
}

function plainRecords(lines: readonly string[]): TextRecord[] {
  const records: TextRecord[] = [];
  lines.forEach((raw, at) => {
    if (raw.trim() !== '') records.push({ line: at + 1, fields: [raw], raw });
  });
  return records;
}

function layoutOf(
  records: readonly TextRecord[],
  delimiter: Delimiter | null,
  columns: number,
  options: ReadOptions,
): ListLayout {
  const found = options.headerLine === undefined ? records[findHeader(records)]?.line : options.headerLine;
  const headerLine = found ?? null;
  const header = records.find((record) => record.line === headerLine);
  const body = headerLine === null ? records : records.filter((record) => record.line > headerLine);
  const width = Math.max(columns, header?.fields.length ?? 0);
  const headings = Array.from({ length: width }, (_, at) => (header?.fields[at] ?? '').trim());
  const guessed = header
    ? rolesByHeading(headings)
    : width === 1
      ? (['keyword'] as ColumnRole[])
      : rolesByShape(body, width);
  const roles = headings.map((_, at) => options.roles?.[at] ?? guessed[at] ?? 'skip');
  const figureColumns = roles.flatMap((role, at) => (role === 'searches' || role === 'cpc' ? [at] : []));
  const decimal =
    options.decimal ??
    guessDecimal(body.slice(0, 500).flatMap((record) => figureColumns.map((at) => record.fields[at] ?? '')));
  const samples = body.slice(0, 5).map((record) => record.fields.map((field) => field.slice(0, 80)));
  return { delimiter, headerLine, headings, roles, decimal, samples };
}

const MATCH_WORDS: Readonly<Record<string, MatchType>> = {
  broad: 'broad',
  modified: 'modified',
  'modified broad': 'modified',
  phrase: 'phrase',
  exact: 'exact',
};

/** Collects what one list says, line by line. */
class ListReader {
  private readonly byNorm = new Map<NormalText, ReadKeyword>();
  private readonly said = new Set<string>();
  private readonly negatives: ReadNegative[] = [];
  private readonly problems: LineProblem[] = [];
  private readonly aside: SetAside[] = [];
  private readonly counts: Reading['counts'] = {
    lines: 0,
    repeated: 0,
    askedAgain: 0,
    byNotation: { plain: 0, broad: 0, modified: 0, phrase: 0, exact: 0 },
  };
  private readonly keywordColumn: number;
  private readonly searchesColumn: number;
  private readonly cpcColumn: number;
  private readonly matchColumn: number;
  private readonly extraColumns: number[];

  constructor(
    private readonly layout: ListLayout,
    private readonly options: ReadOptions,
  ) {
    this.keywordColumn = layout.roles.indexOf('keyword');
    this.searchesColumn = layout.roles.indexOf('searches');
    this.cpcColumn = layout.roles.indexOf('cpc');
    this.matchColumn = layout.roles.indexOf('match-type');
    this.extraColumns = layout.roles.flatMap((role, at) => (role === 'extra' ? [at] : []));
  }

  problem(
    line: number,
    raw: string,
    code: LineProblem['code'],
    at: number,
    character?: string,
    kept = false,
  ) {
    if (!kept) this.counts.lines++;
    this.problems.push({
      line,
      raw: shown(raw),
      code,
      at,
      kept,
      ...(character === undefined ? {} : { character }),
    });
  }

  setAside(record: TextRecord, why: SetAside['why']) {
    this.counts.lines++;
    this.aside.push({ line: record.line, raw: shown(record.raw), why });
  }

  read(record: TextRecord) {
    const { line, fields, raw } = record;
    const delimited = this.layout.delimiter !== null;
    if (delimited && isTotals(fields, this.keywordColumn)) return this.setAside(record, 'totals');
    const noted = readNotation(fields[this.keywordColumn] ?? '', this.options);
    if (noted.status === 'problem') return this.problem(line, raw, noted.code, noted.at, noted.character);
    this.counts.lines++;
    this.counts.byNotation[noted.type ?? 'plain']++;
    const type = noted.type ?? this.matchWord(record) ?? this.options.askedAs ?? null;
    if (noted.negative) return this.addNegative(line, noted.text, type);
    this.addKeyword(record, noted.text, type, noted.marks);
  }

  private matchWord({ line, fields, raw }: TextRecord): MatchType | null {
    const cell = this.matchColumn < 0 ? '' : (fields[this.matchColumn] ?? '').trim();
    if (cell === '') return null;
    const type = MATCH_WORDS[normalise(cell)];
    if (!type) this.problem(line, raw, 'match-word', 1, cell.slice(0, 40), true);
    return type ?? null;
  }

  private addNegative(line: number, text: string, type: MatchType | null) {
    const norm = normalise(text);
    const key = `-${type ?? ''}:${norm}`;
    if (this.said.has(key)) this.counts.repeated++;
    else this.negatives.push({ line, text, norm, type });
    this.said.add(key);
  }

  private addKeyword(record: TextRecord, text: string, type: MatchType | null, marks: number[]) {
    const norm = normalise(text);
    const earlier = this.byNorm.get(norm);
    if (!earlier) {
      this.byNorm.set(norm, this.newKeyword(record, text, norm, type, marks));
      return;
    }
    const bit = type ? bitOf(type) : 0;
    const asksMore = (bit & ~earlier.asked) !== 0;
    if (asksMore) this.counts.askedAgain++;
    else this.counts.repeated++;
    earlier.asked |= bit;
    if (marks.length > 0) earlier.marks = [...new Set([...earlier.marks, ...marks])].sort((a, b) => a - b);
    earlier.searches ??= this.searches(record);
    earlier.cpc ??= this.cpc(record);
    earlier.extra ??= this.extra(record);
  }

  private newKeyword(
    record: TextRecord,
    text: string,
    norm: NormalText,
    type: MatchType | null,
    marks: number[],
  ): ReadKeyword {
    const asked = type ? bitOf(type) : 0;
    const figures = { searches: this.searches(record), cpc: this.cpc(record), extra: this.extra(record) };
    return { line: record.line, text, norm, asked, marks, ...figures };
  }

  private searches(record: TextRecord) {
    return this.figure(record, this.searchesColumn, readCount);
  }

  private cpc(record: TextRecord) {
    return this.figure(record, this.cpcColumn, readAmount);
  }

  private figure<T>(
    { line, fields, raw }: TextRecord,
    column: number,
    read: (cell: string, decimal: DecimalMark) => FigureRead<T>,
  ): Figure<T> | null {
    if (column < 0) return null;
    const cell = fields[column] ?? '';
    const result = read(cell, this.layout.decimal);
    if (result.status === 'figure') return result.figure;
    if (result.status === 'unreadable') this.problem(line, raw, 'figure', 1, cell.trim().slice(0, 40), true);
    return null;
  }

  private extra({ fields }: TextRecord): Record<string, string> | null {
    let extra: Record<string, string> | null = null;
    for (const column of this.extraColumns) {
      const value = tidy(fields[column] ?? '');
      if (value === '') continue;
      extra ??= {};
      extra[tidy(this.layout.headings[column] ?? '') || `Column ${column + 1}`] = value.slice(0, SHOWN);
    }
    return extra;
  }

  done(): Reading {
    const problems = this.problems.sort((a, b) => a.line - b.line);
    const keywords = [...this.byNorm.values()];
    return {
      layout: this.layout,
      keywords,
      negatives: this.negatives,
      problems,
      setAside: this.aside,
      counts: this.counts,
    };
  }
}

/** A set of match types as one would read it, `plain` for none. */
export const notationCounts = (reading: Reading): [MatchType | 'plain', number][] =>
  (['plain', ...matchTypes] as const).flatMap((name) =>
    reading.counts.byNotation[name] > 0 ? [[name, reading.counts.byNotation[name]]] : [],
  );
