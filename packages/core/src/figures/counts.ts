import { numberAt, uint32At } from '../access/index.ts';
import { Features, isBefore, type Pairs } from './features.ts';
import { PairTable } from './pair-table.ts';
import { headOf, type ReadKeyword, UNKNOWN } from './reader.ts';

/** A run is a feature of its own where so many told keywords have it. */
const LEAST_OF_RUN = 3;

/** How often stems, runs of two and heads with another stem stand in the told keywords. */
export class Counts {
  /** Told keywords that hold each stem, and of which it is the head. */
  readonly toldOf: Uint32Array;
  readonly headOf: Uint32Array;
  readonly table = new PairTable();
  /** By pair: told keywords with the run, those of them that have the later stem first, and those with both, one as the head. */
  readonly inRun: number[] = [];
  private readonly turned: number[] = [];
  readonly grounds: number[] = [];

  constructor(stems: number) {
    this.toldOf = new Uint32Array(stems);
    this.headOf = new Uint32Array(stems);
  }

  add(read: ReadKeyword): void {
    const { stems, count, line, lineCount } = read;
    const head = headOf(read);
    if (head !== UNKNOWN) this.headOf[head] = uint32At(this.headOf, head) + 1;
    for (let at = 0; at < count; at++) {
      const stem = numberAt(stems, at);
      if (stem === UNKNOWN) continue;
      const isFirst = !isBefore(stems, at, stem);
      if (isFirst) this.toldOf[stem] = uint32At(this.toldOf, stem) + 1;
      if (isFirst && head !== UNKNOWN && stem !== head) {
        const pair = this.pairOf(stem, head);
        this.grounds[pair] = numberAt(this.grounds, pair) + 1;
      }
    }
    for (let at = 0; at + 1 < lineCount; at++) {
      const stem = numberAt(line, at);
      const next = numberAt(line, at + 1);
      if (stem === UNKNOWN || next === UNKNOWN || next === stem) continue;
      const pair = this.pairOf(stem, next);
      this.inRun[pair] = numberAt(this.inRun, pair) + 1;
      if (stem > next) this.turned[pair] = numberAt(this.turned, pair) + 1;
    }
  }

  private pairOf(a: number, b: number): number {
    const pair = this.table.add(a, b);
    if (pair === this.grounds.length) {
      this.grounds.push(0);
      this.inRun.push(0);
      this.turned.push(0);
    }
    return pair;
  }

  /** What grounds are found by, once all are counted. */
  groundsSoFar(): Grounds {
    return { headOf: this.headOf, table: this.table, grounds: Uint32Array.from(this.grounds) };
  }

  features(places: number): Features {
    let runs = 0;
    const pairs: Pairs = {
      table: this.table,
      runs: Int32Array.from(this.inRun, (told) => (told >= LEAST_OF_RUN ? runs++ : -1)),
      turned: Uint8Array.from(this.turned, (turned, pair) =>
        turned * 2 > numberAt(this.inRun, pair) ? 1 : 0,
      ),
    };
    return new Features(this.toldOf.length, places, this.toldOf, pairs, runs);
  }
}

/** What the ground of a keyword is found by. */
export type Grounds = { headOf: Uint32Array; table: PairTable; grounds: Uint32Array };

/** How many told keywords share the head and one more of the stems: that of the stem that most of them share. */
export function groundFor(read: ReadKeyword, { headOf: heads, table, grounds }: Grounds): number {
  const head = headOf(read);
  if (head === UNKNOWN) return 0;
  const { stems, count } = read;
  if (count === 1) return uint32At(heads, head);
  let most = 0;
  for (let at = 0; at < count; at++) {
    const stem = numberAt(stems, at);
    if (stem === UNKNOWN || stem === head) continue;
    const pair = table.find(head, stem);
    const shared = pair < 0 ? 0 : uint32At(grounds, pair);
    if (shared > most) most = shared;
  }
  return most;
}
