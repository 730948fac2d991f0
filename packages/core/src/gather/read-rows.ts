import { type MatchType, type NotationProblem, readNotation } from '../match/index.ts';
import { atRate, type Micros } from '../money/index.ts';
import { type NormalText, normalise, tidy } from '../text/index.ts';
import { mayBeTotals } from './columns.ts';
import {
  type DecimalMark,
  type Figure,
  type FigureRead,
  readAmount,
  readCompetition,
  readCount,
} from './figure.ts';
import type { ListLayout, ReadOptions } from './list-layout.ts';
import type { RecordProblem, TextRecord } from './records.ts';

/** What a list says of a keyword beside its text. */
export type SaidFigures = {
  searches: Figure | null;
  cpc: Figure<Micros> | null;
  /** 0 to 100. */
  competition: Figure | null;
  extra: Record<string, string> | null;
};

/** What one line says: a keyword, as often as the list says it. */
export type SaidKeyword = {
  line: number;
  text: string;
  norm: NormalText;
  type: MatchType | null;
  /** Marked words of modified broad, from 0; empty where none was asked for. */
  marks: number[];
} & SaidFigures;

export type ReadNegative = { line: number; text: string; norm: NormalText; type: MatchType | null };

export type LineProblem = {
  line: number;
  /** The line as it stands, at most 500 characters of it. */
  raw: string;
  code: NotationProblem['code'] | RecordProblem['code'] | 'figure' | 'match-word';
  /** Column, from 1. */
  at: number;
  character?: string;
  /** True: the keyword went in all the same, only this cell did not. */
  kept: boolean;
};

export type SetAside = { line: number; raw: string; why: 'title' | 'header' | 'totals' };

/** Where what the lines say goes, in the order of the lines. */
export type RowSink = {
  /** Called only when no line of the list said the same before, or `asks` more: the sink decides. */
  keyword: (said: SaidKeyword) => void;
  negative: (said: ReadNegative) => void;
  problem: (problem: LineProblem) => void;
  setAside: (line: SetAside) => void;
  /** How a line was noted, once for each keyword or negative. */
  noted: (type: MatchType | null) => void;
};

const SHOWN = 500;
/** A total may differ so far from the sum of the rows, for rounding and for rows that can't be read. */
const SUM_SLACK = 0.1;
const UNSHOWABLE = /[^\P{Cc}\t\n]|\p{Cs}/gu;

/** A line as it can be shown and kept: what no screen and no database holds is marked. */
const shown = (raw: string) =>
  (raw.length > SHOWN ? `${raw.slice(0, SHOWN)}…` : raw).replace(UNSHOWABLE, '\ufffd');

/** `Broad match` says what `broad` says. */
const MATCH_WORDS: Readonly<Record<string, MatchType>> = {
  broad: 'broad',
  modified: 'modified',
  'modified broad': 'modified',
  'broad modified': 'modified',
  phrase: 'phrase',
  exact: 'exact',
};
const matchWordOf = (cell: string): MatchType | undefined =>
  MATCH_WORDS[normalise(cell).replace(/ match$/, '')];

/** Reads the records of one list by its layout and tells a sink what each says. */
export class RowReader {
  private readonly keywordColumn: number;
  private readonly searchesColumn: number;
  private readonly cpcColumn: number;
  private readonly competitionColumn: number;
  private readonly matchColumn: number;
  private readonly extraColumns: number[];

  constructor(
    private readonly layout: ListLayout,
    private readonly options: ReadOptions,
    private readonly sink: RowSink,
  ) {
    this.keywordColumn = layout.roles.indexOf('keyword');
    this.searchesColumn = layout.roles.indexOf('searches');
    this.cpcColumn = layout.roles.indexOf('cpc');
    this.competitionColumn = layout.roles.indexOf('competition');
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
    const character_ = character === undefined ? {} : { character };
    this.sink.problem({ line, raw: shown(raw), code, at, kept, ...character_ });
  }

  /** Rows that may be totals: what they are is known only when the next keyword has come, or none. */
  private waiting: TextRecord[] = [];
  private met = 0;
  /** Of the searches of all keywords so far. */
  private sum = 0;
  private largest = 0;
  private isAbout = false;

  read(record: TextRecord) {
    const { line, fields, raw } = record;
    const isTaken = this.options.taken?.includes(line) === true;
    const header = this.layout.headerLine;
    if (header !== null && line <= header && !isTaken)
      return this.sink.setAside({ line, raw: shown(raw), why: line < header ? 'title' : 'header' });
    const delimited = this.layout.delimiter !== null;
    if (delimited && !isTaken && mayBeTotals(fields, this.keywordColumn)) {
      // Above the first keyword it can be nothing else.
      if (this.met === 0) return this.sink.setAside({ line, raw: shown(raw), why: 'totals' });
      this.waiting.push(record);
      return;
    }
    this.readWaiting();
    this.readKeyword(record);
  }

  /** What stood last may be the totals. */
  end() {
    const rows = this.waiting;
    this.waiting = [];
    for (const record of rows) {
      if (this.isSum(record))
        this.sink.setAside({ line: record.line, raw: shown(record.raw), why: 'totals' });
      else this.readKeyword(record);
    }
  }

  /** A keyword has come behind them: they are none. */
  private readWaiting() {
    for (const record of this.waiting) this.readKeyword(record);
    this.waiting = [];
  }

  /**
   * Whether a last row's searches are those of all rows before: about their sum, or more where the sheet told of more
   * rows; where some are only about right, no less than the largest. Without searches it has no other place.
   */
  private isSum({ fields }: TextRecord): boolean {
    const cell = this.searchesColumn < 0 ? '' : (fields[this.searchesColumn] ?? '');
    const read = readCount(cell, this.decimalOf(this.searchesColumn));
    if (read.status !== 'figure' || normalise(fields[this.keywordColumn] ?? '') === '') return true;
    return read.figure.value >= (this.isAbout ? this.largest : this.sum * (1 - SUM_SLACK));
  }

  private readKeyword(record: TextRecord) {
    const { line, fields, raw } = record;
    const noted = readNotation(fields[this.keywordColumn] ?? '', this.options);
    if (noted.status === 'problem') return this.problem(line, raw, noted.code, noted.at, noted.character);
    this.met++;
    this.sink.noted(noted.type);
    const type = noted.type ?? this.matchWord(record) ?? this.options.askedAs ?? null;
    const norm = normalise(noted.text);
    if (noted.negative) return this.sink.negative({ line, text: noted.text, norm, type });
    const figures = this.figures(record);
    this.add(figures.searches);
    this.sink.keyword({ line, text: noted.text, norm, type, marks: noted.marks, ...figures });
  }

  private add(searches: Figure | null) {
    if (searches === null) return;
    this.sum += searches.value;
    if (searches.approximate) this.isAbout = true;
    else this.largest = Math.max(this.largest, searches.value);
  }

  private decimalOf(column: number): DecimalMark {
    return this.layout.decimals[column] ?? this.layout.decimal;
  }

  private matchWord({ line, fields, raw }: TextRecord): MatchType | null {
    const cell = this.matchColumn < 0 ? '' : (fields[this.matchColumn] ?? '').trim();
    if (cell === '') return null;
    const type = matchWordOf(cell);
    if (!type) this.problem(line, raw, 'match-word', 1, cell.slice(0, 40), true);
    return type ?? null;
  }

  private figures(record: TextRecord): SaidFigures {
    return {
      searches: this.figure(record, this.searchesColumn, readCount),
      cpc: this.atRate(this.figure(record, this.cpcColumn, readAmount)),
      competition: this.figure(record, this.competitionColumn, (cell, decimal) =>
        readCompetition(cell, decimal, this.layout.scale),
      ),
      extra: this.extra(record),
    };
  }

  private atRate(amount: Figure<Micros> | null): Figure<Micros> | null {
    const { rate } = this.options;
    return amount === null || rate === undefined ? amount : { ...amount, value: atRate(amount.value, rate) };
  }

  private figure<T>(
    { line, fields, raw }: TextRecord,
    column: number,
    read: (cell: string, decimal: DecimalMark) => FigureRead<T>,
  ): Figure<T> | null {
    if (column < 0) return null;
    const cell = fields[column] ?? '';
    const result = read(cell, this.decimalOf(column));
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
}
