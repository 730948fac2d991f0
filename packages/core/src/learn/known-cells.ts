import { withRoom } from '../text/index.ts';
import type { CutLine } from './cut-line.ts';

/** So many different ones are remembered, and so many of their characters. */
const MOST = 400_000;
const MOST_CODES = 60_000_000;

/**
 * What some columns of rows hold to the letter, numbered as it comes. Reports say the same again for every day, mostly in
 * the same order, so what comes next is mostly known; it is compared where it lies side by side with what came before it,
 * since going after each text by itself takes longer than all else that is done with a row.
 */
export class KnownCells {
  /** By the hash of the cells: of two that share one the later is known, and both are compared. */
  private readonly numbers = new Map<number, number>();
  private count = 0;
  /** Those of lines with quotes, of which no characters are kept. */
  private readonly cells = new Map<number, readonly string[]>();
  /** Of each the characters, run by run, each run behind its length; from where on; -1: not kept so. */
  private codes = new Uint16Array(4_096);
  private used = 0;
  private begin = new Int32Array(1_024);
  /** What came behind each when it last came; -1: nothing yet. */
  private next = new Int32Array(1_024);
  private last = -1;
  /** Columns side by side: the first and the last of each run. */
  private readonly runs: readonly (readonly [number, number])[];

  constructor(private readonly columns: readonly number[]) {
    this.runs = runsOf(columns);
  }

  /** The number that the cells of a row have; -1: they were not here yet. */
  numberOf(row: CutLine): number {
    const { last } = this;
    const next = last < 0 ? -1 : (this.next[last] as number);
    if (next >= 0 && this.is(next, row)) return this.follow(next);
    if (last >= 0 && this.is(last, row)) return last;
    const number = this.numbers.get(row.hashOf(this.columns));
    return number === undefined || !this.is(number, row) ? -1 : this.follow(number);
  }

  /** Gives a number to the cells of a row. Where too many are known already, it is the last one's, and forgotten again. */
  add(row: CutLine): number {
    const number = this.count;
    if (number >= MOST) return MOST;
    this.count++;
    this.numbers.set(row.hashOf(this.columns), number);
    this.begin = withRoom(this.begin, number + 1);
    this.next = withRoom(this.next, number + 1);
    const begin = this.keep(row);
    this.begin[number] = begin;
    if (begin < 0)
      this.cells.set(
        number,
        this.columns.map((at) => row.cell(at)),
      );
    this.next[number] = -1;
    return this.follow(number);
  }

  private follow(number: number): number {
    if (this.last >= 0) this.next[this.last] = number;
    this.last = number;
    return number;
  }

  private is(number: number, row: CutLine): boolean {
    let at = this.begin[number] as number;
    if (at < 0) {
      const cells = this.cells.get(number) as readonly string[];
      return cells.every((cell, n) => row.is(this.columns[n] as number, cell));
    }
    // The same cells in quotes are known by themselves.
    if (!row.isPlain) return false;
    for (const [first, last] of this.runs) {
      const length = this.codes[at] as number;
      if (!row.isStretch(first, last, this.codes, at + 1, length)) return false;
      at += 1 + length;
    }
    return true;
  }

  private keep(row: CutLine): number {
    if (!row.isPlain) return -1;
    const begin = this.used;
    for (const [first, last] of this.runs) {
      const text = row.stretch(first, last);
      if (begin + text.length > MOST_CODES || text.length > 65_535) {
        this.used = begin;
        return -1;
      }
      this.codes = withRoom(this.codes, this.used + text.length + 1);
      this.codes[this.used++] = text.length;
      for (let at = 0; at < text.length; at++) this.codes[this.used++] = text.charCodeAt(at);
    }
    return begin;
  }
}

function runsOf(columns: readonly number[]): [number, number][] {
  const runs: [number, number][] = [];
  for (const at of columns) {
    const last = runs.at(-1);
    if (last && last[1] === at - 1) last[1] = at;
    else runs.push([at, at]);
  }
  return runs;
}
