import { countAt, float64At, stringAt, uint32At } from '../access/index.ts';
import type { FunnelStage } from '../text/index.ts';
import type { PoolWords } from './pool-words.ts';
import type { Sift } from './sift.ts';
import { readTerm, type SiftTerm } from './sift-term.ts';

/** Rows that a sift picks, in order, with the sum of their searches. */
export type Matches = { rows: Uint32Array; searches: number };

/** What a sift needs beyond words: which rows count at all, and the stage of each. */
export type Sifting = {
  /** Rows out of which to pick: all that are in, where it is left out. */
  within?: ArrayLike<number>;
  stageOf?: (row: number) => FunnelStage | null;
};

/**
 * The rows of the pool that a sift picks, by the words' own lists of rows: O(rows that hold one of its words). Where
 * fewer rows are to be picked from than that, each of them is read instead.
 */
export class Sifter {
  /** How many conditions each row has met; 0 for all between two sifts. */
  private readonly met: Uint16Array;

  constructor(private readonly words: PoolWords) {
    this.met = new Uint16Array(words.pool.length);
  }

  matches(sift: Sift, sifting: Sifting = {}): Matches {
    const { pool } = this.words;
    const read = readSift(this.words, sift);
    const fits = figureTest(sift, this.words, sifting.stageOf);
    const { within } = sifting;
    const isThere = stateTest(pool, sift);
    const isShort = within !== undefined && within.length * READING < costOf(this.words, read);
    const test = isShort ? rowTest(this.words, read) : this.raised(read);
    const most = within ? within.length : pool.length;
    const rows = new Uint32Array(most);
    let length = 0;
    let searches = 0;
    for (let at = 0; at < most; at++) {
      const row = within ? countAt(within, at) : at;
      if (!test(row) || !isThere(row) || !(fits === null || fits(row))) continue;
      rows[length++] = row;
      searches += Math.max(0, pool.searchesOf(row));
    }
    if (!isShort) this.lower(read);
    return { rows: rows.slice(0, length), searches };
  }

  /** Counts the conditions that each row meets, one after another. */
  private raised({ has, not }: ReadSift): (row: number) => boolean {
    const { met, words } = this;
    has.forEach((terms, condition) => {
      for (const term of terms)
        eachRow(words, term, (row) => {
          if (met[row] === condition) met[row] = condition + 1;
        });
    });
    for (const term of not)
      eachRow(words, term, (row) => {
        met[row] = OUT;
      });
    const wanted = has.length;
    return (row) => met[row] === wanted;
  }

  private lower({ has, not }: ReadSift) {
    const { met, words } = this;
    for (const term of [...has.flat(), ...not])
      eachRow(words, term, (row) => {
        met[row] = 0;
      });
  }
}

/** Keywords that are in, unless the sift asks for others. */
function stateTest({ isIn, stateOf }: PoolWords['pool'], { state }: Sift): (row: number) => boolean {
  return state && state !== 'in' && stateOf ? (row) => stateOf(row) === state : isIn;
}

const OUT = 0xffff;
/** Reading a row costs about as much as going through so many rows of a list. */
const READING = 4;

/** A term by numbers: any of these words, or these in a row. */
type ReadTerm =
  | { any: readonly number[] }
  | { run: readonly number[]; exact: boolean; rarest: readonly number[] };
type ReadSift = { has: ReadTerm[][]; not: ReadTerm[] };

function readSift(words: PoolWords, { has, not }: Sift): ReadSift {
  const read = (terms: readonly string[]) => terms.flatMap((typed) => numbersOf(words, typed));
  return { has: has.map(read), not: read(not) };
}

/** Nothing where the pool lacks a word of the term: no row meets it. */
function numbersOf(words: PoolWords, typed: string): ReadTerm[] {
  const term = readTerm(typed);
  if ('problem' in term) return [];
  if (term.words.length === 1) return [{ any: wordsOfTerm(words, term) }];
  const { exact } = term;
  const run = term.words.map((word) => (exact ? words.wordNumber(word) : words.foldNumber(word)));
  if (run.some((word) => word === undefined)) return [];
  const lists = (run as number[]).map((word) => (exact ? [word] : (words.wordsOfFold[word] ?? [])));
  const rarest = lists.reduce((best, list) =>
    rowsOfAny(words, list) < rowsOfAny(words, best) ? list : best,
  );
  return [{ run: run as number[], exact, rarest }];
}

const rowsOfAny = (words: PoolWords, list: readonly number[]): number =>
  list.reduce((sum, word) => sum + words.countOf(word), 0);

const costOf = (words: PoolWords, { has, not }: ReadSift): number =>
  [...has.flat(), ...not].reduce(
    (sum, term) =>
      sum + ('any' in term ? rowsOfAny(words, term.any) : READING * rowsOfAny(words, term.rarest)),
    0,
  );

function eachRow(words: PoolWords, term: ReadTerm, visit: (row: number) => void) {
  const isRun = 'run' in term;
  for (const word of isRun ? term.rarest : term.any)
    for (const row of words.rowsOf(word)) if (!isRun || hasTerm(words, term, row)) visit(row);
}

function hasTerm({ tokens, starts, foldOf }: PoolWords, term: ReadTerm, row: number): boolean {
  const from = uint32At(starts, row);
  const to = uint32At(starts, row + 1);
  if ('any' in term) {
    for (let at = from; at < to; at++) if (term.any.includes(uint32At(tokens, at))) return true;
    return false;
  }
  const { run, exact } = term;
  next: for (let at = from; at <= to - run.length; at++) {
    for (let place = 0; place < run.length; place++) {
      const token = uint32At(tokens, at + place);
      if ((exact ? token : foldOf[token]) !== run[place]) continue next;
    }
    return true;
  }
  return false;
}

/** A sift made ready for asking about single rows. */
export type PreparedSift = {
  /** Rows that its narrowest condition lets through, some twice; null where no word narrows it. */
  candidates: ((visit: (row: number) => void) => void) | null;
  /** How many those are. */
  cost: number;
  test: (row: number) => boolean;
};

export function prepareSift(words: PoolWords, sift: Sift, stageOf?: Sifting['stageOf']): PreparedSift {
  const read = readSift(words, sift);
  const costs = read.has.map((terms) => costOf(words, { has: [terms], not: [] }));
  const cost = Math.min(Number.POSITIVE_INFINITY, ...costs);
  const narrowest = read.has[costs.indexOf(cost)];
  const fits = figureTest(sift, words, stageOf);
  const isThere = stateTest(words.pool, sift);
  const meets = rowTest(words, read);
  const test = (row: number) => meets(row) && isThere(row);
  return {
    candidates: narrowest
      ? (visit) => {
          for (const term of narrowest) eachRow(words, term, visit);
        }
      : null,
    cost,
    test: fits ? (row) => test(row) && fits(row) : test,
  };
}

/** Tests one row by its own words. */
function rowTest(words: PoolWords, { has, not }: ReadSift): (row: number) => boolean {
  const any = (terms: readonly ReadTerm[], row: number) => terms.some((term) => hasTerm(words, term, row));
  return (row) => has.every((terms) => any(terms, row)) && !any(not, row);
}

/** The words of the pool that a term of one word means. */
function wordsOfTerm(words: PoolWords, { words: [text = ''], exact, prefix }: SiftTerm): readonly number[] {
  if (prefix) return words.beginningWith(text);
  if (exact) {
    const word = words.wordNumber(text);
    return word === undefined ? [] : [word];
  }
  const fold = words.foldNumber(text);
  return fold === undefined ? [] : (words.wordsOfFold[fold] ?? []);
}

function figureTest(
  sift: Sift,
  { pool }: PoolWords,
  stageOf: Sifting['stageOf'],
): ((row: number) => boolean) | null {
  const tests: ((row: number) => boolean)[] = [];
  const range = (
    from: number | null | undefined,
    to: number | null | undefined,
    of: (row: number) => number,
  ) => {
    const least = from ?? null;
    const most = to ?? null;
    if (least === null && most === null) return;
    tests.push((row) => {
      const value = of(row);
      return value >= 0 && (least === null || value >= least) && (most === null || value <= most);
    });
  };
  range(sift.searchesFrom, sift.searchesTo, pool.searchesOf);
  range(sift.cpcFrom, sift.cpcTo, (row) => pool.cpcOf?.(row) ?? -1);
  const source = sift.source ?? null;
  if (source !== null) tests.push((row) => pool.sourcesOf?.(row).includes(source) ?? false);
  const stage = sift.stage ?? null;
  if (stage !== null) tests.push((row) => stageOf?.(row) === stage);
  return tests.length === 0 ? null : (row) => tests.every((test) => test(row));
}

/** A word that stands in the matches beside what the sift asks for. */
export type OtherWord = { text: string; keywords: number; searches: number };

/** The most frequent other words of the matches: the next ones to narrow by. Function words and the sift's own stay out. */
export function otherWords(
  words: PoolWords,
  { rows }: Pick<Matches, 'rows'>,
  sift: Sift,
  most: number,
): OtherWord[] {
  const { foldOf, tokens, starts, foldTexts, pool, pack } = words;
  const keywords = new Uint32Array(foldTexts.length);
  const searches = new Float64Array(foldTexts.length);
  const last = new Int32Array(foldTexts.length).fill(-1);
  for (const row of rows) {
    const count = Math.max(0, pool.searchesOf(row));
    for (let at = uint32At(starts, row); at < uint32At(starts, row + 1); at++) {
      const fold = uint32At(foldOf, uint32At(tokens, at));
      if (last[fold] === row) continue;
      last[fold] = row;
      keywords[fold] = uint32At(keywords, fold) + 1;
      searches[fold] = float64At(searches, fold) + count;
    }
  }
  const asked = new Set(
    sift.has.flat().flatMap((typed) => {
      const term = readTerm(typed);
      return 'problem' in term
        ? []
        : term.words.length > 1
          ? term.words.map((word) => words.foldNumber(word))
          : wordsOfTerm(words, term).map((word) => foldOf[word]);
    }),
  );
  const found: number[] = [];
  for (let fold = 0; fold < keywords.length; fold++)
    if (
      uint32At(keywords, fold) > 0 &&
      !asked.has(fold) &&
      !pack.functionWords.has(stringAt(foldTexts, fold))
    )
      found.push(fold);
  const at = (fold: number, list: ArrayLike<number>) => countAt(list, fold);
  return found
    .sort(
      (a, b) =>
        at(b, searches) - at(a, searches) ||
        at(b, keywords) - at(a, keywords) ||
        (stringAt(foldTexts, a) < stringAt(foldTexts, b) ? -1 : 1),
    )
    .slice(0, most)
    .map((fold) => ({
      text: words.usualWord(fold),
      keywords: at(fold, keywords),
      searches: at(fold, searches),
    }));
}
