import { numberAt, stringAt } from '../access/index.ts';
import type { Words } from './words.ts';

const MOST_JOINED = 4;
const ENDS_IN_DIGIT = /\d$/;
const BEGINS_WITH_DIGIT = /^\d/;

/**
 * Runs of two to four words that also stand joined or hyphenated somewhere in the pool: `paddle board` where
 * `paddleboard` or `paddle-board` is. Both are written taken apart, as most keywords have it, so that word order
 * can be told of the parts. Words are numbers of `parts`.
 */
export class Joins {
  /** Everything that stands as one word, or with hyphens. */
  private readonly joined: ReadonlySet<string>;
  /** Words with which a joined one begins: most words begin none, and need no look-up. */
  private readonly begins: ReadonlySet<number>;
  private readonly runs = new Map<string, Map<string, number>>();
  private apart: ReadonlyMap<number, readonly number[]> | null = null;

  /** `table` has the parts of each of `words`. */
  constructor(
    words: readonly string[],
    table: readonly (readonly number[])[],
    private readonly parts: Words,
  ) {
    const joined = new Set<string>();
    const used = new Map<string, number>();
    table.forEach((list, id) => {
      joined.add(stringAt(words, id));
      joined.add(this.textOf(list));
      for (const part of list) used.set(stringAt(parts.texts, part), part);
    });
    this.joined = joined;
    this.begins = beginnings(joined, used);
    for (const list of table) if (list.length > 1) this.count(list, 0, list.length);
  }

  /** Takes note of the runs of one keyword. */
  read(list: readonly number[]): void {
    for (let at = 0; at < list.length; ) {
      const taken = this.longest(list, at);
      if (taken > 1) this.count(list, at, at + taken);
      at += taken;
    }
  }

  /** Writes every joined word of a keyword in its parts, in place. */
  takeApart(list: number[]): void {
    this.apart ??= this.mostUsual();
    const { apart } = this;
    if (apart.size === 0) return;
    for (let at = 0; at < list.length; ) {
      const taken = this.longest(list, at);
      const whole = taken === 1 ? numberAt(list, at) : this.parts.numberOf(this.textOf(list, at, at + taken));
      const parts = apart.get(whole);
      if (parts) list.splice(at, taken, ...parts);
      else if (taken > 1) list.splice(at, taken, whole);
      at += parts ? parts.length : 1;
    }
  }

  private textOf(list: readonly number[], from = 0, to = list.length): string {
    let text = '';
    for (let at = from; at < to; at++) text += this.parts.texts[numberAt(list, at)];
    return text;
  }

  private count(list: readonly number[], from: number, to: number) {
    const run = this.textOf(list, from, to);
    const name = list
      .slice(from, to)
      .map((part) => this.parts.texts[part])
      .join(' ');
    const counts = this.runs.get(run) ?? new Map<string, number>();
    counts.set(name, (counts.get(name) ?? 0) + 1);
    this.runs.set(run, counts);
  }

  /** How many words from `at` on stand joined, the most that do; 1 where none does. */
  private longest(list: readonly number[], at: number): number {
    if (!this.begins.has(numberAt(list, at))) return 1;
    let taken = 1;
    let run = stringAt(this.parts.texts, numberAt(list, at));
    for (let length = 2; length <= MOST_JOINED && at + length <= list.length; length++) {
      const next = stringAt(this.parts.texts, numberAt(list, at + length - 1));
      // `10 5` is not `105`.
      if (ENDS_IN_DIGIT.test(run) && BEGINS_WITH_DIGIT.test(next)) break;
      run += next;
      if (this.joined.has(run)) taken = length;
    }
    return taken;
  }

  /** The parts in which each joined word stands most often; then the fewest, then the first by code point. */
  private mostUsual(): ReadonlyMap<number, readonly number[]> {
    const apart = new Map<number, number[]>();
    for (const [run, counts] of this.runs) {
      const [best] = [...counts].sort(
        ([a, one], [b, other]) =>
          other - one || a.split(' ').length - b.split(' ').length || (a < b ? -1 : 1),
      );
      if (best)
        apart.set(
          this.parts.numberOf(run),
          best[0].split(' ').map((part) => this.parts.numberOf(part)),
        );
    }
    return apart;
  }
}

function beginnings(joined: ReadonlySet<string>, parts: ReadonlyMap<string, number>): ReadonlySet<number> {
  const begins = new Set<number>();
  for (const word of joined)
    for (let end = 1; end < word.length; end++) {
      const part = parts.get(word.slice(0, end));
      if (part !== undefined) begins.add(part);
    }
  return begins;
}
