import { bitOf, eachType, type MatchSet, type MatchType, matchTypes } from '../match/index.ts';
import type { NormalText } from '../text/index.ts';
import type { ListLayout, ReadOptions } from './list-layout.ts';
import { ListStream } from './list-stream.ts';
import type { LineProblem, ReadNegative, RowSink, SaidFigures, SaidKeyword, SetAside } from './read-rows.ts';

/** One keyword of the list, once however often it stands there. */
export type ReadKeyword = {
  line: number;
  text: string;
  norm: NormalText;
  asked: MatchSet;
  /** Marked words of modified broad, from 0; empty where none was asked for. */
  marks: number[];
} & SaidFigures;

export type ListCounts = {
  /** Lines that are not blank. */
  lines: number;
  /** Lines that say again what an earlier one said. */
  repeated: number;
  /** Lines whose keyword an earlier one has, asked for in another match type. */
  askedAgain: number;
  /** Lines per notation found; `plain` carried none. */
  byNotation: Record<MatchType | 'plain', number>;
};

export type Reading = {
  layout: ListLayout;
  keywords: ReadKeyword[];
  negatives: ReadNegative[];
  problems: LineProblem[];
  setAside: SetAside[];
  counts: ListCounts;
};

/**
 * Reads a pasted or uploaded list: plain lines in any notation, or CSV, TSV or semicolons with or without a
 * header. Nothing is dropped: what is not a keyword or negative is a problem, set aside, or counted as repeated.
 * O(length of the text).
 */
export function readList(text: string, options: ReadOptions = {}): Reading {
  const fold = new ListFold();
  const stream = new ListStream(options, fold);
  stream.push(text);
  return fold.reading(stream.end());
}

/** A keyword that a list said for the first time. */
export const firstSaid = ({ type, ...said }: SaidKeyword): ReadKeyword => ({
  ...said,
  asked: type ? bitOf(type) : 0,
});

/**
 * Adds what a later line says of a keyword to what earlier lines said: match types and marks are everyone's, each
 * figure is the first that there is. Answers whether it asks for another match type.
 */
export function saidAgain(earlier: ReadKeyword, said: SaidKeyword): boolean {
  const bit = said.type ? bitOf(said.type) : 0;
  const asksMore = (bit & ~earlier.asked) !== 0;
  earlier.asked |= bit;
  if (said.marks.length > 0)
    earlier.marks = [...new Set([...earlier.marks, ...said.marks])].sort((a, b) => a - b);
  earlier.searches ??= said.searches;
  earlier.cpc ??= said.cpc;
  earlier.competition ??= said.competition;
  earlier.extra ??= said.extra;
  return asksMore;
}

export const noCounts = (): ListCounts => ({
  lines: 0,
  repeated: 0,
  askedAgain: 0,
  byNotation: { plain: 0, ...eachType(() => 0) },
});

/** Collects what a whole list says, each keyword once. */
class ListFold implements RowSink {
  private readonly byNorm = new Map<NormalText, ReadKeyword>();
  private readonly saidNegatives = new Set<string>();
  private readonly negatives: ReadNegative[] = [];
  private readonly problems: LineProblem[] = [];
  private readonly aside: SetAside[] = [];
  private readonly counts = noCounts();

  keyword(said: SaidKeyword) {
    const earlier = this.byNorm.get(said.norm);
    if (!earlier) this.byNorm.set(said.norm, firstSaid(said));
    else if (saidAgain(earlier, said)) this.counts.askedAgain++;
    else this.counts.repeated++;
  }

  negative(said: ReadNegative) {
    const key = `${said.type ?? ''}:${said.norm}`;
    if (this.saidNegatives.has(key)) this.counts.repeated++;
    else this.negatives.push(said);
    this.saidNegatives.add(key);
  }

  problem(problem: LineProblem) {
    if (!problem.kept) this.counts.lines++;
    this.problems.push(problem);
  }

  setAside(line: SetAside) {
    this.counts.lines++;
    this.aside.push(line);
  }

  noted(type: MatchType | null) {
    this.counts.lines++;
    this.counts.byNotation[type ?? 'plain']++;
  }

  reading(layout: ListLayout): Reading {
    return {
      layout,
      keywords: [...this.byNorm.values()],
      negatives: this.negatives,
      problems: this.problems.sort((a, b) => a.line - b.line),
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
