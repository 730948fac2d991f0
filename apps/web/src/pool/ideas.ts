import type { Origin, Rounded } from '@sprig/core/figures';
import { around, completions, type GapClass, PoolContexts, whyWords } from '@sprig/core/gather';
import { languagePack, normalise } from '@sprig/core/text';
import type { Measured, PoolStore } from './pool-store.ts';

/** How the plan's words are read, and what is not to be proposed. */
export type IdeasInput = {
  language: string;
  functionWords: string[] | null;
  places: readonly (readonly string[])[];
  dismissed: readonly string[];
};

/** An idea with what is known of it and why it is proposed. */
export type IdeaRow = {
  text: string;
  searches: number | null;
  cpc: number | null;
  competition: number | null;
  from: Record<Measured, Origin | null>;
  why: string;
  /** The theme that would take it in; null for none. */
  joins: string | null;
  /** The class of gaps that it is of; null for others. */
  of: number | null;
  inPool: boolean;
};

export type FoundGaps = { ideas: IdeaRow[]; classes: GapClass[] };

const MOST_GAPS = 3_000;
const MOST_AROUND = 1_500;
const MOST_LISTS = 12;
const MOST_FITTING = 14;
const MOST_COMPLETIONS = 500;

/** A class without members and contexts that are not to be made anything of. */
function without(one: GapClass, isOut: (text: string) => boolean): GapClass {
  const kept = [...one.fillers.keys()].filter((at) => !isOut(one.fillers[at] as string));
  return {
    ...one,
    fillers: kept.map((at) => one.fillers[at] as string),
    contexts: one.contexts
      .filter(({ before, behind }) => !isOut(before) && !isOut(behind))
      .map((context) => {
        const there = Uint8Array.from(kept, (at) => context.there[at] as number);
        return { ...context, there, count: there.reduce((sum, is) => sum + is, 0) };
      }),
  };
}

/** Ideas from the pool's own words, each with its figures by their origin. */
export class Ideas {
  private contexts: { key: string; found: PoolContexts } | null = null;

  constructor(
    private readonly store: PoolStore,
    /** Likely misspellings among what is told: no idea is made of them. */
    private readonly slips: () => Readonly<Record<string, string>>,
  ) {}

  gaps(input: IdeasInput): FoundGaps {
    const dismissed = new Set(input.dismissed);
    const slips = this.slips();
    const isMisspelt = (text: string) => text.split(' ').some((word) => Object.hasOwn(slips, word));
    const { gaps, classes } = this.contextsOf(input).gaps({
      most: MOST_GAPS,
      isDismissed: (text) => dismissed.has(text) || isMisspelt(text),
      searchesOf: (text) => this.figures(text).searches,
    });
    const ideas = gaps.map(({ text, before, behind, there, of, class: one }) =>
      this.row(
        text,
        `“${[before, '…', behind].filter(Boolean).join(' ')}” has ${there} of ${of} like it`,
        one,
      ),
    );
    return { ideas, classes: classes.map((one) => without(one, isMisspelt)) };
  }

  around(words: readonly string[], input: IdeasInput): IdeaRow[] {
    const contexts = this.contextsOf(input);
    const pack = languagePack(input.language, input.functionWords);
    const dismissed = new Set(input.dismissed);
    const places = input.places.flatMap(([name]) => (name ? [normalise(name)] : []));
    const found = new Map<string, IdeaRow>();
    for (const one of words.map(normalise).filter(Boolean))
      for (const suggested of around(one, { contexts, pack, places })) {
        if (found.size >= MOST_AROUND) break;
        if (!dismissed.has(suggested.text) && !found.has(suggested.text))
          found.set(suggested.text, this.row(suggested.text, whyWords(suggested), null));
      }
    return [...found.values()];
  }

  completions(typed: string, input: IdeasInput): IdeaRow[] {
    const norms = Array.from({ length: this.store.length }, (_, row) => this.store.norm(row));
    const dismissed = new Set(input.dismissed);
    return completions(norms, typed.toLowerCase(), MOST_COMPLETIONS)
      .filter((text) => !dismissed.has(text))
      .map((text) => this.row(text, 'Keywords of the pool begin so', null));
  }

  /** Lists that the pool's own words make. */
  lists(input: IdeasInput): string[][] {
    return this.contextsOf(input).classes(MOST_LISTS);
  }

  /** Words that would fit a list. */
  fitting(list: readonly string[], input: IdeasInput): string[] {
    return this.contextsOf(input).fitting(list.map(normalise), MOST_FITTING);
  }

  /** Texts from elsewhere, with why each is proposed. */
  weighed(texts: readonly { text: string; why: string }[]): IdeaRow[] {
    return texts.map(({ text, why }) => this.row(text, why, null));
  }

  private contextsOf({ language, functionWords }: IdeasInput): PoolContexts {
    const key = `${this.store.changes} ${language} ${functionWords}`;
    if (this.contexts?.key !== key) {
      const { store } = this;
      const pool = { length: store.length, normOf: store.norm };
      this.contexts = { key, found: new PoolContexts(pool, languagePack(language, functionWords)) };
    }
    return this.contexts.found;
  }

  private row(text: string, why: string, of: number | null): IdeaRow {
    const { searches, cpc, competition } = this.figures(text);
    const orNull = (value: number) => (value < 0 ? null : value);
    const row = this.rowOf(text);
    const from = (measure: Measured, value: number): Origin | null => {
      if (row !== undefined) return this.store.originOf(row, measure);
      if (value < 0) return null;
      return 'estimated';
    };
    return {
      text,
      searches: orNull(searches),
      cpc: orNull(cpc),
      competition: orNull(competition),
      from: {
        searches: from('searches', searches),
        cpc: from('cpc', cpc),
        competition: from('competition', competition),
      },
      why,
      joins: null,
      of,
      inPool: row !== undefined,
    };
  }

  private figures(text: string): Rounded {
    const { store } = this;
    const row = this.rowOf(text);
    if (row !== undefined)
      return {
        searches: store.shownSearches(row),
        meanSearches: store.meanSearches(row),
        cpc: store.shownCpc(row),
        competition: store.shownCompetition(row),
      };
    const out = { searches: -1, meanSearches: -1, cpc: -1, competition: -1 };
    store.figuresBy().estimator?.into(text, out);
    return out;
  }

  private rows: { changes: number; byNorm: ReadonlyMap<string, number> } | null = null;

  private rowOf(text: string): number | undefined {
    const { store } = this;
    if (this.rows?.changes !== store.changes) {
      const byNorm = new Map<string, number>();
      for (let row = 0; row < store.length; row++) byNorm.set(store.norm(row), row);
      this.rows = { changes: store.changes, byNorm };
    }
    return this.rows.byNorm.get(text);
  }
}
