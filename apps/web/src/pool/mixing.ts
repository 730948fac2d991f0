import {
  type CompiledMix,
  compileMix,
  type DropReason,
  dropReasons,
  entryWeights,
  lookUpAll,
  type Matrix,
  type MatrixView,
  type MixProblem,
  type Mixture,
  matrixOf,
  mix,
  patternAt,
  type Recipe,
  resolveLists,
  type SharedWords,
  sampleOf,
  TextIndex,
  textAt,
  visitMatrix,
  type WordProblem,
} from '@sprig/core/mix';
import { languagePack } from '@sprig/core/text';
import type { PoolStore } from './pool-store.ts';

/** A recipe as it is being edited, with what it is made with. */
export type MixQuestion = {
  recipe: Recipe;
  /** The pool's source that it is; null while it is not in the pool. */
  source: number | null;
  shared: readonly SharedWords[];
  places: readonly (readonly string[])[];
  brands: readonly string[];
  offers: readonly string[];
  language: string;
  functionWords: string[] | null;
  cuts: readonly string[];
  /** Of the outlets that the plan ships to. */
  limits: { words: number; length: number };
};

export type MixSummary = {
  /** Before anything is dropped; in digits, since it may be larger than any number. */
  combinations: string;
  made: number;
  cut: number;
  /** Of those made and not cut: new to the pool, or brought by this recipe alone; and brought by others too. */
  fresh: number;
  elsewhere: number;
  byPattern: { id: number; made: number }[];
  dropped: Record<DropReason, { count: number; sample: string[] }>;
  problems: MixProblem[];
  first: string[];
  random: string[];
  lists: {
    id: number;
    /** The first of them, in their order: what one can be chosen of. */
    entries: string[];
    problems: WordProblem[];
    repeated: number;
    marked: number;
    ownLines: number;
  }[];
};

/** What the market says so far. Where there are too many to ask for each, a sample stands for all. */
export type MixFigures = {
  asked: number;
  of: number;
  isSample: boolean;
  searched: number;
  searches: number;
  /** Micros a month. */
  cost: number;
  /** Micros, the mean over searches. */
  cpc: number | null;
  /** Lists most of whose entries bring next to no searches. */
  idle: { list: number; entries: number; idle: number; sample: string[] }[];
};

export type MixFilter = {
  text: string;
  state: 'all' | 'fresh' | 'elsewhere' | 'cut';
  sort: 'made' | 'searches' | 'text';
  down: boolean;
};

export type Combination = {
  at: number;
  text: string;
  pattern: number;
  isCut: boolean;
  /** Others bring it to the pool too. */
  elsewhere: boolean;
  searches: number | null;
  cpc: number | null;
};

/** What the market told of one text. */
type Told = { searches: number; cpc: number; cost: number };

/** Up to so many combinations each is asked of the market; of more, a sample of that size. */
const MOST_ASKED = 100_000;
const SAMPLED = 20_000;
const BATCH = 4_000;
const SHOWN = 40;
const MOST_CHOICES = 300;
/** So many answers of the market are remembered. */
const MOST_TOLD = 400_000;
/** An entry that brings fewer searches a month than this over all its combinations is idle. */
const IDLE_UNDER = 10;

/** The recipe that is worked on: what it makes, how that lies to the pool, and what the market says of it. */
export class Mixing {
  private mixture: Mixture | null = null;
  private elsewhere = new Uint8Array();
  private cut = new Uint8Array();
  private searches = new Int32Array();
  /** Places in `made` that are asked of the market. */
  private wanted: number[] = [];
  private nextWanted = 0;
  private readonly told = new Map<string, Told>();
  private pool: { revision: number; index: TextIndex } | null = null;

  constructor(private readonly store: PoolStore) {}

  mix(question: MixQuestion): MixSummary {
    const { recipe, shared, places, brands, offers, language, functionWords, limits } = question;
    const compiled = compileMix({
      recipe,
      lists: resolveLists(recipe.lists, {
        shared: new Map(shared.map((list) => [list.id, list])),
        places,
        brands,
        offers,
      }),
      pack: languagePack(language, functionWords),
      limits,
    });
    this.mixture = mix(compiled);
    if (this.told.size > MOST_TOLD) this.told.clear();
    this.compare(question);
    this.plan();
    return this.summary(compiled);
  }

  /** Marks what the pool has by others, and what is cut. */
  private compare({ source, cuts }: MixQuestion) {
    const mixture = this.mixture as Mixture;
    const rows = lookUpAll(mixture, this.poolIndex());
    this.elsewhere = Uint8Array.from(rows, (row) =>
      row >= 0 && this.store.sources(row).some((one) => one !== source) ? 1 : 0,
    );
    const marks = cuts.length === 0 ? null : lookUpAll(mixture, new TextIndex(cuts));
    this.cut = marks ? Uint8Array.from(marks, (at) => (at >= 0 ? 1 : 0)) : new Uint8Array(rows.length);
  }

  private poolIndex(): TextIndex {
    const { revision, length } = this.store;
    if (this.pool?.revision !== revision)
      this.pool = {
        revision,
        index: new TextIndex(Array.from({ length }, (_, row) => this.store.norm(row))),
      };
    return this.pool.index;
  }

  /** Which combinations are asked of the market; what it told before is still known. */
  private plan() {
    const { made } = this.mixture as Mixture;
    this.searches = new Int32Array(made.length).fill(-1);
    this.wanted =
      made.length <= MOST_ASKED
        ? Array.from({ length: made.length }, (_, at) => at)
        : sampleOf(made.length, SAMPLED);
    this.nextWanted = 0;
    for (const at of this.wanted) {
      const known = this.told.get(this.text(at));
      if (known) this.searches[at] = known.searches;
    }
  }

  private summary(compiled: CompiledMix): MixSummary {
    const mixture = this.mixture as Mixture;
    const length = mixture.made.length;
    let cut = 0;
    let elsewhere = 0;
    for (let at = 0; at < length; at++)
      if (this.cut[at] === 1) cut++;
      else if (this.elsewhere[at] === 1) elsewhere++;
    return {
      combinations: compiled.count.total.toString(),
      made: length,
      cut,
      fresh: length - cut - elsewhere,
      elsewhere,
      byPattern: compiled.patterns.map(({ id }, at) => ({ id, made: mixture.madeBy[at] as number })),
      dropped: Object.fromEntries(
        dropReasons.map((reason) => [
          reason,
          {
            count: mixture.dropped[reason],
            sample: mixture.listed[reason].slice(0, 200).map((place) => textAt(mixture, place)),
          },
        ]),
      ) as MixSummary['dropped'],
      problems: compiled.problems,
      first: Array.from({ length: Math.min(SHOWN, length) }, (_, at) => this.text(at)),
      random: sampleOf(length, SHOWN, 7).map((at) => this.text(at)),
      lists: compiled.lists.map(({ id, words, ownLines }) => ({
        id,
        ownLines,
        entries: words.entries.slice(0, MOST_CHOICES),
        problems: words.problems.slice(0, 100),
        repeated: words.repeated,
        marked: words.marked,
      })),
    };
  }

  private text = (at: number): string => {
    const mixture = this.mixture as Mixture;
    return textAt(mixture, mixture.made[at] as number);
  };

  /** A place that was asked for may be gone by now. */
  private isThere = (at: number): boolean => at < (this.mixture?.made.length ?? 0);

  /** The next texts that the market is to be asked about; none when it has told all. */
  wanting(): string[] {
    const texts: string[] = [];
    for (; this.nextWanted < this.wanted.length && texts.length < BATCH; this.nextWanted++) {
      const at = this.wanted[this.nextWanted] as number;
      if ((this.searches[at] as number) < 0) texts.push(this.text(at));
    }
    return texts;
  }

  /** Takes what the market told of those texts. */
  tell(texts: readonly string[], told: { searches: number[]; cpc: number[]; cost: number[] }): void {
    texts.forEach((text, at) => {
      this.told.set(text, {
        searches: told.searches[at] as number,
        cpc: told.cpc[at] as number,
        cost: told.cost[at] as number,
      });
    });
    for (const at of this.wanted)
      if ((this.searches[at] as number) < 0) {
        const known = this.told.get(this.text(at));
        if (known) this.searches[at] = known.searches;
      }
  }

  figures(): MixFigures {
    const sum = { asked: 0, searched: 0, searches: 0, cost: 0, weighed: 0, kept: 0 };
    let left = 0;
    for (const at of this.wanted) {
      if (this.cut[at] === 1) continue;
      left++;
      if ((this.searches[at] as number) < 0) continue;
      const { searches, cpc, cost } = this.told.get(this.text(at)) as Told;
      sum.asked++;
      if (searches > 0) sum.searched++;
      sum.searches += searches;
      sum.cost += cost;
      sum.weighed += searches * cpc;
    }
    const isSample = this.wanted.length < this.searches.length;
    const kept = this.cut.reduce((count, one) => count + 1 - one, 0);
    const scale = isSample && left > 0 ? kept / left : 1;
    return {
      asked: sum.asked,
      of: left,
      isSample,
      searched: Math.round(sum.searched * scale),
      searches: Math.round(sum.searches * scale),
      cost: Math.round(sum.cost * scale),
      cpc: sum.searches > 0 ? Math.round(sum.weighed / sum.searches) : null,
      idle: sum.asked < left || isSample ? [] : this.idleLists(),
    };
  }

  private idleLists(): MixFigures['idle'] {
    const mixture = this.mixture as Mixture;
    return entryWeights(
      mixture,
      (at) => this.searches[at] as number,
      (at) => this.cut[at] === 1,
    ).flatMap(({ list, combinations, searches }) => {
      const used = Array.from(combinations.keys()).filter((entry) => (combinations[entry] as number) > 0);
      const idle = used.filter((entry) => (searches[entry] as number) < IDLE_UNDER);
      if (used.length < 2 || idle.length * 2 <= used.length) return [];
      const names = mixture.compiled.lists.find(({ id }) => id === list)?.words.entries ?? [];
      const sample = idle.slice(0, 5).map((entry) => names[entry] as string);
      return [{ list, entries: used.length, idle: idle.length, sample }];
    });
  }

  matrix(view: MatrixView): Matrix {
    return matrixOf(
      this.mixture as Mixture,
      view,
      (at) => this.searches[at] as number,
      (at) => this.cut[at] === 1,
    );
  }

  /** The texts of a row, a column or a cell of a matrix: those that are cut, or those that are not. */
  inMatrix(view: MatrixView, row: number | null, column: number | null, isCut: boolean): string[] {
    const texts: string[] = [];
    visitMatrix(this.mixture as Mixture, view, (at, ofRow, ofColumn) => {
      if ((row === null || row === ofRow) && (column === null || column === ofColumn))
        if ((this.cut[at] === 1) === isCut) texts.push(this.text(at));
    });
    return texts;
  }

  /** Combinations that are searched less than that; of which the market has not told yet are not among them. */
  under(searches: number): { texts: string[]; searches: number } {
    const texts: string[] = [];
    let sum = 0;
    for (const at of this.wanted) {
      const told = this.searches[at] as number;
      if (told < 0 || told >= searches || this.cut[at] === 1) continue;
      texts.push(this.text(at));
      sum += told;
    }
    return { texts, searches: sum };
  }

  /** The places of the combinations that a filter leaves, in its order. */
  list({ text, state, sort, down }: MixFilter): Uint32Array {
    const length = this.mixture?.made.length ?? 0;
    const words = text.toLowerCase().split(/\s+/).filter(Boolean);
    const places: number[] = [];
    for (let at = 0; at < length; at++) {
      const isCut = this.cut[at] === 1;
      if (state === 'cut' && !isCut) continue;
      if (state === 'fresh' && (isCut || this.elsewhere[at] === 1)) continue;
      if (state === 'elsewhere' && (isCut || this.elsewhere[at] === 0)) continue;
      if (words.length > 0) {
        const own = this.text(at);
        if (!words.every((word) => own.includes(word))) continue;
      }
      places.push(at);
    }
    if (sort === 'searches') {
      const value = (at: number) => this.searches[at] as number;
      places.sort((a, b) => (down ? value(b) - value(a) : value(a) - value(b)) || a - b);
    } else if (sort === 'text') {
      const texts = new Map(places.map((at) => [at, this.text(at)]));
      places.sort((a, b) => ((texts.get(a) as string) < (texts.get(b) as string) ? -1 : 1) * (down ? -1 : 1));
    } else if (down) places.reverse();
    return Uint32Array.from(places);
  }

  page(places: readonly number[]): Combination[] {
    const mixture = this.mixture as Mixture;
    return places.filter(this.isThere).map((at) => {
      const text = this.text(at);
      const told = this.told.get(text);
      const pattern = mixture.compiled.patterns[patternAt(mixture, mixture.made[at] as number)];
      return {
        at,
        text,
        pattern: pattern?.id ?? 0,
        isCut: this.cut[at] === 1,
        elsewhere: this.elsewhere[at] === 1,
        searches: told?.searches ?? null,
        cpc: told?.cpc ?? null,
      };
    });
  }

  texts(places: readonly number[]): string[] {
    return places.filter(this.isThere).map(this.text);
  }
}
