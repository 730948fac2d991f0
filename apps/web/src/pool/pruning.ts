import type { Facts, Negative, SharedList } from '@sprig/contracts';
import { NegativeIndex, type NegativeKeyword, type NegativeType, negativeBlocks } from '@sprig/core/match';
import {
  byKeywords,
  filterTests,
  judgedShare,
  type LookAlikeClass,
  type LookAlikeGroup,
  lookAlikeClasses,
  lookAlikes,
  type ReadyFilter,
  type Review,
  type ReviewedWord,
  readyFilters,
  reviewWords,
} from '@sprig/core/prune';
import { languagePack, normalise } from '@sprig/core/text';
import type { PoolStore } from './pool-store.ts';

/** A keyword as Prune shows it. */
export type Shown = { id: number; text: string; searches: number | null };

export type AlikeGroup = {
  keeper: Shown;
  others: (Shown & { by: LookAlikeClass })[];
  /** At most: sources often give close variants one shared figure. */
  searches: number;
};

export type AlikeSummary = {
  groups: number;
  keywords: number;
  byClass: Record<LookAlikeClass, number>;
  folded: number;
  apart: number;
};

/** Single words or two-word runs; most searched first, or in most keywords first. */
export type ReviewKind = { kind: 'words' | 'pairs'; order: 'searches' | 'keywords' };

export type ReviewSummary = {
  /** Undecided words or pairs, in the order that was asked for. */
  undecided: ReviewedWord[];
  undecidedCount: number;
  share: number;
  kept: ReviewedWord[];
  blocked: ReviewedWord[];
  keptWeight: number;
  blockedWeight: number;
};

export type BlockEffect = { keywords: number; searches: number; held: number; sample: Shown[] };

export type FilterSummary = Record<ReadyFilter, { keywords: number; searches: number }>;

export type NegativeEffect = {
  /** Keywords that it keeps out of the pool. */
  blocks: number;
  searches: number;
  /** Keywords of the plan's own that it stands against. */
  conflicts: number;
  sample: string[];
};

export type PruneInput = {
  language: string;
  facts: Facts;
  limits: { leastSearches: number; length: number; words: number };
};

const SHOWN_WORDS = 200;
const SAMPLE = 40;
const SHOWN_SIDE = 60;

/** Of what tells which words there are. */
const wordsKey = ({ language, facts }: PruneInput): string => JSON.stringify([language, facts.functionWords]);

/** What Prune asks of the pool; nothing here changes it. */
export class Pruning {
  private alike: { key: string; groups: LookAlikeGroup[]; rows: Uint32Array } | null = null;
  private review: { revision: number; review: Review; byText: Map<string, ReviewedWord> } | null = null;
  private filtered: { key: string; ids: Record<ReadyFilter, number[]>; summary: FilterSummary } | null = null;

  constructor(
    private readonly store: PoolStore,
    private readonly isOrdinary: (word: string) => boolean,
  ) {}

  /** Look-alikes among the keywords that are in and do not stand apart, in all classes that are chosen. */
  lookAlikes(input: PruneInput, classes: readonly LookAlikeClass[]): AlikeSummary {
    const { store } = this;
    const key = `${store.revision}:${classes.join()}:${wordsKey(input)}`;
    if (this.alike?.key !== key) this.alike = { key, ...this.findAlike(input, classes) };
    const byClass = Object.fromEntries(lookAlikeClasses.map((name) => [name, 0])) as AlikeSummary['byClass'];
    let keywords = 0;
    for (const { others } of this.alike.groups) {
      keywords += others.length;
      for (const { by } of others) byClass[by]++;
    }
    let apart = 0;
    for (let row = 0; row < store.length; row++) if (store.isApart(row)) apart++;
    return { groups: this.alike.groups.length, keywords, byClass, folded: store.counts().folded, apart };
  }

  private findAlike(
    { language, facts }: Pick<PruneInput, 'language' | 'facts'>,
    classes: readonly LookAlikeClass[],
  ) {
    const { store } = this;
    const rows = store.inRows().filter((row) => !store.isApart(row));
    const groups = lookAlikes({
      pool: {
        length: rows.length,
        normOf: (at) => store.norm(rows[at] as number),
        searchesOf: (at) => store.searches(rows[at] as number),
      },
      classes,
      pack: languagePack(language, facts.functionWords),
      isOrdinary: this.isOrdinary,
    });
    return { groups, rows };
  }

  /** How many keywords could be folded; what is on the screen stays. */
  foldable(input: Pick<PruneInput, 'language' | 'facts'>, classes: readonly LookAlikeClass[]): number {
    const { groups } = this.findAlike(input, classes);
    return groups.reduce((sum, { others }) => sum + others.length, 0);
  }

  /** The groups at these places, most searched first. */
  alikeGroups(from: number, to: number): AlikeGroup[] {
    const { alike } = this;
    if (!alike) return [];
    const shown = (at: number) => this.shown(alike.rows[at] as number);
    return alike.groups.slice(from, to).map(({ keeper, others, searches }) => ({
      keeper: shown(keeper),
      others: others.map(({ at, by }) => ({ ...shown(at), by })),
      searches,
    }));
  }

  /** What folding every group would do, by keyword ids. */
  allFolds(): { keeper: number; others: number[] }[] {
    const { alike, store } = this;
    if (!alike) return [];
    const id = (at: number) => store.id(alike.rows[at] as number);
    return alike.groups.map(({ keeper, others }) => ({
      keeper: id(keeper),
      others: others.map(({ at }) => id(at)),
    }));
  }

  /** Words or pairs to judge, and those that are judged, by their weight in the pool. */
  reviewSummary(
    input: PruneInput,
    { kind, order }: ReviewKind,
    kept: readonly string[],
    blocking: readonly NegativeKeyword[],
  ): ReviewSummary {
    const { store } = this;
    if (this.review?.revision !== store.revision) {
      const review = reviewWords({ ...this.columns(), isIn: store.isIn });
      const byText = new Map([...review.words, ...review.pairs].map((word) => [word.text, word]));
      this.review = { revision: store.revision, review, byText };
    }
    const { review, byText } = this.review;
    const pack = languagePack(input.language, input.facts.functionWords);
    const keptSet = new Set(kept);
    const blockedSet = new Set(blocking.map(({ norm }) => norm));
    const isJudged = (text: string) =>
      keptSet.has(text) || blockedSet.has(text) || pack.functionWords.has(text);
    const list = kind === 'words' ? review.words : review.pairs;
    const inOrder = order === 'keywords' ? byKeywords : (words: ReviewedWord[]) => words;
    // A pair of words that are both judged says nothing new, nor does one with a function word.
    const isOpen = (text: string) =>
      !isJudged(text) && (kind === 'words' || !text.split(' ').every((word) => isJudged(word)));
    const undecided = inOrder(list.filter(({ text }) => isOpen(text)));
    const keptWords = kept.map((text) => byText.get(text) ?? { text, keywords: 0, searches: 0 });
    const blocked = this.blockedWords(blocking);
    const weight = (words: readonly ReviewedWord[]) => words.reduce((sum, { searches }) => sum + searches, 0);
    return {
      undecided: undecided.slice(0, SHOWN_WORDS),
      undecidedCount: undecided.length,
      share: judgedShare(review, isJudged),
      kept: keptWords.slice(-SHOWN_SIDE).reverse(),
      blocked: blocked.slice(-SHOWN_SIDE).reverse(),
      keptWeight: weight(keptWords),
      blockedWeight: weight(blocked),
    };
  }

  /** Each blocking negative with what it keeps out now. */
  private blockedWords(blocking: readonly NegativeKeyword[]): ReviewedWord[] {
    const { store } = this;
    const sums = new Map<number, ReviewedWord>(
      blocking.map(({ id, norm }) => [id, { text: norm, keywords: 0, searches: 0 }]),
    );
    for (let row = 0; row < store.length; row++) {
      const by = store.blockedBy(row);
      const sum = by === 0 ? undefined : sums.get(by);
      if (!sum) continue;
      sum.keywords++;
      sum.searches += Math.max(0, store.searches(row));
    }
    return [...sums.values()];
  }

  /** What a block would take out of the pool, before it is made. `held` of them carry something set by hand. */
  blockEffect(text: string, type: NegativeType, held: readonly number[]): BlockEffect {
    const negative = { norm: normalise(text), type };
    const heldSet = new Set(held);
    const rows = this.store.inRows().filter((row) => negativeBlocks(negative, this.store.norm(row)));
    return {
      ...this.sums(rows),
      held: rows.filter((row) => heldSet.has(this.store.id(row))).length,
      sample: this.sample(rows),
    };
  }

  /** Keywords that are in and hold a word or a run of words, most searched first. */
  context(text: string): { keywords: number; searches: number; sample: Shown[] } {
    const run = ` ${text} `;
    const rows = this.store.inRows().filter((row) => ` ${this.store.norm(row)} `.includes(run));
    return { ...this.sums(rows), sample: this.sample(rows) };
  }

  private sums(rows: Uint32Array) {
    let searches = 0;
    for (const row of rows) searches += Math.max(0, this.store.searches(row));
    return { keywords: rows.length, searches };
  }

  private sample(rows: Uint32Array): Shown[] {
    return Array.from(rows)
      .sort((a, b) => this.store.searches(b) - this.store.searches(a) || a - b)
      .slice(0, SAMPLE)
      .map((row) => this.shown(row));
  }

  /** How many keywords that are in meet each ready filter. */
  filters(input: PruneInput): FilterSummary {
    const { facts, limits, language } = input;
    const key = `${this.store.revision}:${JSON.stringify([limits, facts.rivals])}:${wordsKey(input)}`;
    if (this.filtered?.key === key) return this.filtered.summary;
    const tests = filterTests({
      pack: languagePack(language, facts.functionWords),
      limits,
      rivals: facts.rivals,
      isOrdinary: this.isOrdinary,
    });
    const ids = Object.fromEntries(readyFilters.map((name) => [name, [] as number[]])) as Record<
      ReadyFilter,
      number[]
    >;
    const summary = Object.fromEntries(
      readyFilters.map((name) => [name, { keywords: 0, searches: 0 }]),
    ) as FilterSummary;
    for (const row of this.store.inRows()) {
      const [norm, searches] = [this.store.norm(row), this.store.searches(row)];
      for (const name of readyFilters) {
        if (!tests[name](norm, searches)) continue;
        ids[name].push(this.store.id(row));
        summary[name].keywords++;
        summary[name].searches += Math.max(0, searches);
      }
    }
    this.filtered = { key, ids, summary };
    return summary;
  }

  /** The keywords that a filter takes out, most searched first. */
  filterIds(input: PruneInput, name: ReadyFilter): number[] {
    this.filters(input);
    const searches = (id: number) => this.store.searches(this.store.rowById(id) ?? 0);
    return (this.filtered?.ids[name] ?? []).slice().sort((a, b) => searches(b) - searches(a) || a - b);
  }

  /** What each negative does: those that block keep keywords out, the others may stand against the plan's own. */
  negativeEffects(negatives: readonly Negative[]): Record<number, NegativeEffect> {
    const effects = new Map<number, NegativeEffect>(
      negatives.map(({ id }) => [id, { blocks: 0, searches: 0, conflicts: 0, sample: [] }]),
    );
    const standing = negatives.filter(({ reason }) => reason === 'hand');
    const index = new NegativeIndex(standing);
    for (let row = 0; row < this.store.length; row++) {
      const by = effects.get(this.store.blockedBy(row));
      const state = this.store.stateOf(row);
      if (by && state === 'blocked') {
        by.blocks++;
        by.searches += Math.max(0, this.store.searches(row));
        if (by.sample.length < 5) by.sample.push(this.store.text(row));
      }
      const norm = this.store.norm(row);
      if (state !== 'in' || standing.length === 0 || index.blocking(norm) === undefined) continue;
      for (const id of index.allBlocking(norm)) {
        const effect = effects.get(id);
        if (!effect) continue;
        effect.conflicts++;
        if (effect.sample.length < 5) effect.sample.push(this.store.text(row));
      }
    }
    return Object.fromEntries(effects);
  }

  /** What attaching a shared list would take out of the pool. */
  listEffect({ negatives }: Pick<SharedList, 'negatives'>): {
    keywords: number;
    searches: number;
    sample: Shown[];
  } {
    const index = new NegativeIndex(negatives);
    const rows = this.store.inRows().filter((row) => index.blocking(this.store.norm(row)) !== undefined);
    return { ...this.sums(rows), sample: this.sample(rows) };
  }

  private columns() {
    const { store } = this;
    return { length: store.length, normOf: store.norm, searchesOf: store.searches };
  }

  private shown(row: number): Shown {
    const searches = this.store.searches(row);
    return { id: this.store.id(row), text: this.store.text(row), searches: searches < 0 ? null : searches };
  }
}
