import { type NewTheme, newThemeOf, placingRules } from '@sprig/contracts';
import { type Placed, type PlacingRules, place, signalsOf, wordsOf } from '@sprig/core/plan';
import {
  asksNothing,
  type Contest,
  childrenOf,
  contestsOf,
  Forms,
  otherWords,
  type Placing,
  type PoolWords,
  type Proposal,
  propose,
  type Sift,
  Sifter,
  type Signals,
  type StageOf,
  type Suggestion,
  suggestionKey,
  suggestionsOf,
  type Theme,
  Tightness,
  UNPLACED,
  Units,
} from '@sprig/core/sort';
import { languagePack } from '@sprig/core/text';
import type { PoolStore } from './pool-store.ts';
import {
  add,
  noShare,
  noStages,
  type ProposalSummary,
  type Scope,
  type SiftAnswer,
  type SortInput,
  type SortSummary,
  stageNames,
  type ThemeSum,
} from './sort-questions.ts';

export type {
  ByStage,
  ProposalSummary,
  Scope,
  Share,
  SiftAnswer,
  SortInput,
  SortSummary,
  ThemeSum,
} from './sort-questions.ts';

const MOST_OTHERS = 10;
const MOST_BRANCHES = 500;

/** What keywords are placed by, as the one pipeline takes it. */
export const rulesOf = ({ language, functionWords, ...rest }: Omit<SortInput, 'seen'>): PlacingRules =>
  placingRules({ language, facts: { functionWords, places: rest.places }, ...rest });

/** What stands where, and why. */
type Sorted = {
  input: SortInput;
  placed: Placed;
  placing: Placing;
  stages: (StageOf | undefined)[];
  children: Map<number | null, Theme[]>;
  held: ReadonlyMap<number, number>;
};

/** The pool sorted by themes, in the worker: placed anew whenever themes or the pool change. */
export class Sorting {
  private index: {
    changes: number;
    language: string;
    words: PoolWords;
    sifter: Sifter;
    forms: Forms;
  } | null = null;
  private speech: { key: string; words: PoolWords; signals: Signals; units: Units | null } | null = null;
  private now: Sorted | null = null;
  private proposed: { key: string; units: Units; rows: Uint32Array; proposal: Proposal } | null = null;

  constructor(private readonly store: PoolStore) {}

  private indexed(input: SortInput) {
    const language = `${input.language}:${input.functionWords?.join() ?? ''}`;
    const { store } = this;
    if (this.index?.changes === store.changes && this.index.language === language) return this.index;
    const words = wordsOf(store.asPlan(), languagePack(input.language, input.functionWords));
    this.index = {
      changes: store.changes,
      language,
      words,
      sifter: new Sifter(words),
      forms: new Forms(words),
    };
    return this.index;
  }

  /** Places every keyword, and sums up. */
  place(input: SortInput): SortSummary {
    return this.summed(input, this.prepare(input));
  }

  /** Places every keyword, for questions about what stands where. */
  prepare(input: SortInput) {
    const { words } = this.indexed(input);
    const { signals } = this.spoken(input);
    const placed = place(this.store.asPlan(), rulesOf(input), words, signals);
    const stages: (StageOf | undefined)[] = Array.from({ length: this.store.length });
    for (let row = 0; row < this.store.length; row++)
      if (this.store.isIn(row)) stages[row] = placed.stageOf(row);
    const children = childrenOf(input.themes);
    this.now = { input, placed, placing: placed.placing, stages, children, held: placed.held };
    return this.now;
  }

  private summed(input: SortInput, { placing, held, stages }: Sorted): SortSummary {
    const { store } = this;
    const sums = new Map<number, ThemeSum>(
      input.themes.map(({ id }) => [
        id,
        { id, own: noShare(), all: noShare(), held: 0, tightness: 1, stages: noStages() },
      ]),
    );
    const rowsOf = new Map<number, number[]>();
    const summary: SortSummary = {
      all: noShare(),
      unplaced: noShare(),
      themes: [...sums.values()],
      stages: noStages(),
      fresh: { keywords: 0, placed: 0, newest: 0 },
    };
    for (let row = 0; row < store.length; row++) {
      const id = store.id(row);
      if (id > summary.fresh.newest) summary.fresh.newest = id;
      if (!store.isIn(row)) continue;
      const searches = Math.max(0, store.searches(row));
      const theme = placing[row] as number;
      const stage = stages[row]?.stage ?? 'none';
      add(summary.all, searches);
      add(summary.stages[stage], searches);
      if (id > input.seen) {
        summary.fresh.keywords++;
        if (theme !== UNPLACED) summary.fresh.placed++;
      }
      const sum = sums.get(theme);
      if (!sum) {
        add(summary.unplaced, searches);
        continue;
      }
      add(sum.own, searches);
      add(sum.stages[stage], searches);
      if (held.has(row)) sum.held++;
      const rows = rowsOf.get(theme);
      if (rows) rows.push(row);
      else rowsOf.set(theme, [row]);
    }
    this.sumUp(null, sums);
    const tightness = new Tightness(this.unitsOf(input));
    for (const [theme, rows] of rowsOf) {
      const sum = sums.get(theme);
      if (sum) sum.tightness = tightness.of(rows);
    }
    return summary;
  }

  /** Adds what sub-themes have to what they are in; answers the sum of those below. */
  private sumUp(parent: number | null, sums: ReadonlyMap<number, ThemeSum>): void {
    for (const { id: child } of this.now?.children.get(parent) ?? []) {
      const sum = sums.get(child);
      if (!sum) continue;
      this.sumUp(child, sums);
      sum.all = { ...sum.own };
      for (const { id: below } of this.now?.children.get(child) ?? []) {
        const part = sums.get(below);
        if (!part) continue;
        sum.all.keywords += part.all.keywords;
        sum.all.searches += part.all.searches;
        for (const stage of stageNames) {
          sum.stages[stage].keywords += part.stages[stage].keywords;
          sum.stages[stage].searches += part.stages[stage].searches;
        }
      }
    }
  }

  /** The signals of the pool; and its units, which only tightness and proposals need, once they are asked for. */
  private spoken(input: SortInput) {
    const { words } = this.indexed(input);
    const key = JSON.stringify([input.settings.signals, input.places]);
    if (this.speech?.words === words && this.speech.key === key) return this.speech;
    const signals = signalsOf(words, rulesOf(input));
    this.speech = { key, words, signals, units: null };
    return this.speech;
  }

  private unitsOf(input: SortInput): Units {
    const speech = this.spoken(input);
    speech.units ??= new Units(speech.words, speech.signals);
    return speech.units;
  }

  /** The rows of a scope, in the pool's order. */
  private rowsIn(scope: Scope): Uint32Array {
    const { now, store } = this;
    if (!now) return new Uint32Array();
    const wanted = scope.kind === 'theme' ? this.themesIn(scope) : null;
    const rows = new Uint32Array(store.length);
    let length = 0;
    for (let row = 0; row < store.length; row++) {
      if (!store.isIn(row)) continue;
      const theme = now.placing[row] as number;
      if (scope.kind === 'unplaced' ? theme === UNPLACED : wanted === null || wanted.has(theme))
        rows[length++] = row;
    }
    return rows.subarray(0, length);
  }

  private themesIn({ theme, own }: { theme: number; own: boolean }): Set<number> {
    const themes = new Set([theme]);
    // A set grows while it is gone through.
    if (!own)
      for (const one of themes) for (const { id } of this.now?.children.get(one) ?? []) themes.add(id);
    return themes;
  }

  /** What a sift picks in a scope; `typing` is the term that is being typed, whose other forms are offered. */
  sift(sift: Sift, scope: Scope, typing: string): SiftAnswer {
    const { now } = this;
    if (!now) return { ...noShare(), others: [], forms: [], byTheme: [], ids: new Uint32Array() };
    const { sifter, words, forms } = this.indexed(now.input);
    const stageOf = (row: number) => now.stages[row]?.stage ?? null;
    const within = scope.kind === 'all' ? undefined : this.rowsIn(scope);
    const matches = sifter.matches(sift, { stageOf, ...(within && { within }) });
    const byTheme = new Map<number, number>();
    for (const row of matches.rows) {
      const theme = now.placing[row] as number;
      byTheme.set(theme, (byTheme.get(theme) ?? 0) + 1);
    }
    return {
      keywords: matches.rows.length,
      searches: matches.searches,
      others: asksNothing(sift) ? [] : otherWords(words, matches, sift, MOST_OTHERS),
      forms: typing === '' ? [] : forms.of(typing),
      byTheme: [...byTheme],
      ids: this.idsBySearches(matches.rows),
    };
  }

  /** The keywords of a scope by id, the most searched first. */
  ids(scope: Scope): Uint32Array {
    return this.idsBySearches(this.rowsIn(scope));
  }

  private idsBySearches(rows: Uint32Array): Uint32Array {
    const { store } = this;
    return rows
      .slice()
      .sort((a, b) => store.searches(b) - store.searches(a) || a - b)
      .map((row) => store.id(row));
  }

  /** The theme and the stage of keywords, as the table shows them. */
  places(ids: readonly number[]): { id: number; theme: number; stage: StageOf }[] {
    return ids.flatMap((id) => {
      const row = this.store.rowById(id);
      if (row === undefined || !this.now) return [];
      return [{ id, theme: this.now.placing[row] as number, stage: this.now.stages[row] ?? null }];
    });
  }

  /** What siblings want of one another. */
  contests(): (Omit<Contest, 'rows'> & { keywords: number; examples: string[] })[] {
    const { now, store } = this;
    if (!now) return [];
    const { words } = this.indexed(now.input);
    const stageOf = (row: number) => now.stages[row]?.stage ?? null;
    return contestsOf(words, { themes: now.input.themes, held: now.held, stageOf })
      .slice(0, MOST_BRANCHES)
      .map(({ theme, wonBy, rows }) => ({
        theme,
        wonBy,
        keywords: rows.length,
        examples: rows.slice(0, 3).map((row) => store.norm(row)),
      }));
  }

  /** The whole plan at once for a scope; the same again as long as nothing changes. */
  private proposalFor(scope: Scope): { rows: Uint32Array; proposal: Proposal } | null {
    const { now } = this;
    if (!now) return null;
    const { target, least, floor } = now.input.settings;
    const rows = this.rowsIn(scope);
    // Other units where the pool, the language, the signals or the places are others.
    const units = this.unitsOf(now.input);
    const key = JSON.stringify([scope, target, least, floor, rows.length]);
    const last = this.proposed;
    if (last?.key === key && last.units === units && last.rows.every((row, at) => row === rows[at]))
      return last;
    const inside = scope.kind === 'theme';
    const proposal = propose(units, rows, { target, least, floor, inside });
    this.proposed = { key, units, rows, proposal };
    return this.proposed;
  }

  suggestions(scope: Scope, inside: number | null): Suggestion[] {
    const made = this.proposalFor(scope);
    if (!made || !this.now) return [];
    const dismissed = new Set(this.now.input.settings.dismissed);
    return suggestionsOf(made.proposal, inside, made.rows, this.unitsOf(this.now.input), dismissed);
  }

  /** How a suggestion is remembered when it is dismissed. */
  sentenceOfSuggestion(scope: Scope, at: number): string {
    const made = this.proposalFor(scope);
    return made ? suggestionKey(made.proposal.themes, at) : '';
  }

  wholePlan(scope: Scope): ProposalSummary | null {
    const made = this.proposalFor(scope);
    if (!made) return null;
    const { themes, unplaced } = made.proposal;
    const searches = (rows: ArrayLike<number>) =>
      Array.from(rows).reduce((sum, row) => sum + Math.max(0, this.store.searches(row)), 0);
    const groups = themes.filter(({ rows }) => rows.length > 0);
    const all = { keywords: made.rows.length, searches: searches(made.rows) };
    const counts = this.branchSizes(made.proposal);
    return {
      themes: themes.length,
      groups: groups.length,
      all,
      placed: {
        keywords: all.keywords - unplaced.length,
        searches: all.searches - searches(unplaced),
      },
      tightness:
        groups.length === 0 ? 1 : groups.reduce((sum, { tightness }) => sum + tightness, 0) / groups.length,
      branches: themes
        .flatMap(({ parent, name, keywords, searches: sum }, at) =>
          parent === null ? [{ at, name, themes: counts[at] ?? 1, keywords, searches: sum }] : [],
        )
        .sort((a, b) => b.searches - a.searches || a.at - b.at)
        .slice(0, MOST_BRANCHES),
    };
  }

  private branchSizes({ themes }: Proposal): number[] {
    const sizes = themes.map(() => 1);
    for (let at = themes.length - 1; at >= 0; at--) {
      const parent = themes[at]?.parent ?? null;
      if (parent !== null) sizes[parent] = (sizes[parent] ?? 1) + (sizes[at] ?? 1);
    }
    return sizes;
  }

  /** The themes of these branches of the whole plan, to be made. */
  branchThemes(scope: Scope, branches: readonly number[]): NewTheme[] {
    const made = this.proposalFor(scope);
    if (!made) return [];
    const wanted = new Set(branches);
    const placeOf = new Map<number, number>();
    const themes: NewTheme[] = [];
    made.proposal.themes.forEach(({ parent, name, sift }, at) => {
      const within = parent === null ? null : placeOf.get(parent);
      if (within === undefined || (parent === null && !wanted.has(at))) return;
      placeOf.set(at, themes.length);
      themes.push(newThemeOf(name, sift, within));
    });
    return themes;
  }
}
