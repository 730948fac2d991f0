const MOST_JOINED = 4;
const ENDS_IN_DIGIT = /\d$/;
const BEGINS_WITH_DIGIT = /^\d/;

/**
 * Runs of two to four words that also stand joined or hyphenated somewhere in the pool: `paddle board` where
 * `paddleboard` or `paddle-board` is. Both are written taken apart, as most keywords have it, so that word order
 * can be told of the parts.
 */
export class Joins {
  /** Everything that stands as one word, or with hyphens. */
  private readonly joined: ReadonlySet<string>;
  /** Words with which a joined one begins: most words begin none, and need no look-up. */
  private readonly begins: ReadonlySet<string>;
  private readonly runs = new Map<string, Map<string, number>>();
  private apart: ReadonlyMap<string, string[]> | null = null;

  /** `table` has the parts of each of `words`. */
  constructor(words: readonly string[], table: readonly string[][]) {
    const joined = new Set<string>();
    const parts = new Set<string>();
    table.forEach((list, id) => {
      joined.add(words[id] as string);
      joined.add(list.join(''));
      for (const part of list) parts.add(part);
    });
    this.joined = joined;
    this.begins = beginnings(joined, parts);
    for (const list of table) if (list.length > 1) this.count(list.join(''), list);
  }

  /** Takes note of the runs of one keyword. */
  read(list: readonly string[]): void {
    this.walk(
      list,
      (run, from, to) => this.count(run, list.slice(from, to)),
      () => {},
    );
  }

  private count(run: string, parts: readonly string[]) {
    const name = parts.join(' ');
    const counts = this.runs.get(run) ?? new Map<string, number>();
    counts.set(name, (counts.get(name) ?? 0) + 1);
    this.runs.set(run, counts);
  }

  /** A keyword with every joined word in its parts. */
  takenApart(list: string[]): string[] {
    this.apart ??= mostUsual(this.runs);
    const { apart } = this;
    if (apart.size === 0) return list;
    let changed = false;
    const out: string[] = [];
    const put = (word: string) => {
      const parts = apart.get(word);
      if (!parts) return void out.push(word);
      changed = true;
      out.push(...parts);
    };
    this.walk(list, put, put);
    return changed ? out : list;
  }

  /** Goes along a keyword; the longest run that stands joined is told as one. */
  private walk(
    list: readonly string[],
    onRun: (run: string, from: number, to: number) => void,
    onWord: (word: string) => void,
  ) {
    for (let at = 0; at < list.length; ) {
      const word = list[at] as string;
      const taken = this.begins.has(word) ? this.longest(list, at) : 1;
      if (taken === 1) onWord(word);
      else onRun(list.slice(at, at + taken).join(''), at, at + taken);
      at += taken;
    }
  }

  private longest(list: readonly string[], at: number): number {
    let taken = 1;
    let run = list[at] as string;
    for (let length = 2; length <= MOST_JOINED && at + length <= list.length; length++) {
      const next = list[at + length - 1] as string;
      // `10 5` is not `105`.
      if (ENDS_IN_DIGIT.test(run) && BEGINS_WITH_DIGIT.test(next)) break;
      run += next;
      if (this.joined.has(run)) taken = length;
    }
    return taken;
  }
}

function beginnings(joined: ReadonlySet<string>, parts: ReadonlySet<string>): ReadonlySet<string> {
  const begins = new Set<string>();
  for (const word of joined)
    for (let end = 1; end < word.length; end++) {
      const start = word.slice(0, end);
      if (parts.has(start)) begins.add(start);
    }
  return begins;
}

/** The parts in which each joined word stands most often; then the fewest, then the first by code point. */
function mostUsual(runs: ReadonlyMap<string, ReadonlyMap<string, number>>): ReadonlyMap<string, string[]> {
  const apart = new Map<string, string[]>();
  for (const [run, counts] of runs) {
    const [best] = [...counts].sort(
      ([a, one], [b, other]) => other - one || a.split(' ').length - b.split(' ').length || (a < b ? -1 : 1),
    );
    if (best) apart.set(run, best[0].split(' '));
  }
  return apart;
}
