import { uint32At } from '../access/index.ts';
import type { FunnelStage } from '../text/index.ts';
import type { PoolWords } from './pool-words.ts';
import type { Sift } from './sift.ts';
import { prepareSift } from './sifting.ts';
import { childrenOf, type Theme } from './theme.ts';

/** No theme: also what a keyword is held at that no rule is to take. */
export const UNPLACED = 0;

export type PlacingInput = {
  themes: readonly Theme[];
  /** The theme that a keyword is held in by hand, by row; `UNPLACED` keeps it out of all. */
  held?: ReadonlyMap<number, number>;
  stageOf?: (row: number) => FunnelStage | null;
};

/** Keywords that a theme would have had, had another sibling not been before it. */
export type Contest = { theme: number; wonBy: number; rows: number[] };

/** The theme of each row; `UNPLACED` where it has none or is not in. */
export type Placing = Uint32Array;

/**
 * Gives each keyword that is in its theme: held ones theirs; every other the first among siblings whose rule it meets,
 * and within it again, until no sub-theme's rule is met. A theme without a rule has by rule what its sub-themes have.
 * Placing twice is placing once. O(themes × rows that hold one of their words, or of their parent).
 */
export function placeKeywords(words: PoolWords, input: PlacingInput): Placing {
  return new Placer(words, input, null).placed();
}

/** What siblings want of one another when keywords are placed, the most wanted first. */
export function contestsOf(words: PoolWords, input: PlacingInput): Contest[] {
  const contests = new Map<string, Contest>();
  new Placer(words, input, contests).placed();
  return [...contests.values()].sort(
    (a, b) => b.rows.length - a.rows.length || a.theme - b.theme || a.wonBy - b.wonBy,
  );
}

class Placer {
  private readonly children: Map<number | null, Theme[]>;
  /** Where each row has got to: a theme, or `UNPLACED`. */
  private readonly at: Uint32Array;
  /** The theme whose rows are being dealt out, for those that are. */
  private readonly scope: Uint32Array;

  constructor(
    private readonly words: PoolWords,
    private readonly input: PlacingInput,
    private readonly contests: Map<string, Contest> | null,
  ) {
    this.children = childrenOf(input.themes);
    this.at = new Uint32Array(words.pool.length);
    this.scope = new Uint32Array(words.pool.length).fill(NOWHERE);
  }

  placed(): Uint32Array {
    const { at, words, input } = this;
    const { pool } = words;
    const held = input.held ?? new Map<number, number>();
    const free: number[] = [];
    for (let row = 0; row < pool.length; row++) if (pool.isIn(row) && !held.has(row)) free.push(row);
    this.deal(UNPLACED, free);
    const known = new Set(input.themes.map(({ id }) => id));
    for (const [row, theme] of held) if (pool.isIn(row) && known.has(theme)) at[row] = theme;
    return at;
  }

  /** Deals the rows of a theme out to those below it, and within them again. */
  private deal(theme: number, rows: readonly number[]) {
    if (!this.children.has(theme === UNPLACED ? null : theme)) return;
    for (const row of rows) this.scope[row] = theme;
    for (const [child, taken] of this.taken(theme, theme === UNPLACED ? null : theme, rows))
      this.deal(child, taken);
  }

  /** What each sibling takes of the rows that are still with `from`; one without a rule stands for those below it. */
  private taken(from: number, parent: number | null, rows: readonly number[]): [number, number[]][] {
    return (this.children.get(parent) ?? []).flatMap((theme) =>
      theme.sift
        ? [[theme.id, this.take(theme.id, theme.sift, from, rows)]]
        : this.taken(from, theme.id, rows),
    );
  }

  private take(theme: number, sift: Sift, from: number, rows: readonly number[]): number[] {
    const { at, scope } = this;
    const { candidates, cost, test } = prepareSift(this.words, sift, this.input.stageOf);
    const own: number[] = [];
    const visit = (row: number) => {
      if (scope[row] !== from || (at[row] !== from && !this.contests) || !test(row)) return;
      if (at[row] === from) {
        at[row] = theme;
        own.push(row);
      } else if (at[row] !== theme) this.contest(theme, uint32At(at, row), row);
    };
    if (candidates && cost < rows.length) candidates(visit);
    else for (const row of rows) visit(row);
    return own.sort((a, b) => a - b);
  }

  private contest(theme: number, wonBy: number, row: number) {
    const key = `${theme}:${wonBy}`;
    const known = this.contests?.get(key);
    if (!known) this.contests?.set(key, { theme, wonBy, rows: [row] });
    else if (known.rows.at(-1) !== row) known.rows.push(row);
  }
}

const NOWHERE = 0xffffffff;
