import { type Assumptions, CurveMaker, type Origin, usualAssumptions } from '@sprig/core/figures';
import {
  type CompiledMix,
  compileMix,
  dropReasons,
  entryWeights,
  lookUpAll,
  type Matrix,
  type MatrixView,
  type Mixture,
  matrixOf,
  mix,
  patternAt,
  resolveLists,
  sampleOf,
  TextIndex,
  textAt,
  visitMatrix,
} from '@sprig/core/mix';
import { asMicros } from '@sprig/core/money';
import { languagePack } from '@sprig/core/text';
import type { Combination, MixFigures, MixFilter, MixQuestion, MixSummary } from './mix-questions.ts';
import type { PoolStore } from './pool-store.ts';

export type { Combination, MixFigures, MixFilter, MixQuestion, MixSummary } from './mix-questions.ts';

/** What is known of one text; -1 for what is not. `mean` is what its searches add to a sum. */
type Known = { searches: number; mean: number; cpc: number; cost: number; from: Origin | null };

/** Up to so many combinations each is looked at; of more, a sample of that size. */
const MOST_ASKED = 100_000;
const SAMPLED = 20_000;
const BATCH = 2_000;
const SHOWN = 40;
const MOST_CHOICES = 300;
/** The figures of so many texts are remembered. */
const MOST_KNOWN = 400_000;
/** An entry that brings fewer searches a month than this over all its combinations is idle. */
const IDLE_UNDER = 10;

/** The recipe that is worked on: what it makes, how that lies to the pool, and what is known of it. */
export class Mixing {
  private mixture: Mixture | null = null;
  private elsewhere = new Uint8Array();
  private cut = new Uint8Array();
  /** The pool's row of each combination; -1 where it lacks it. */
  private rows: Int32Array = new Int32Array();
  private searches = new Int32Array();
  /** Places in `made` that are looked at, and how many have been. */
  private wanted: number[] = [];
  private nextWanted = 0;
  private readonly known = new Map<string, Known>();
  private knownOf = '';
  private curves = new CurveMaker(usualAssumptions);
  private assumptions: Assumptions = usualAssumptions;
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
    this.assumptions = question.assumptions;
    this.compare(question);
    this.plan();
    return this.summary(compiled);
  }

  /** Marks what the pool has by others, and what is cut. */
  private compare({ source, cuts }: MixQuestion) {
    const mixture = this.mixture as Mixture;
    this.rows = lookUpAll(mixture, this.poolIndex());
    const { rows } = this;
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

  /** Which combinations are looked at; what was known of one before still is, unless the plan's figures are others. */
  private plan() {
    const { made } = this.mixture as Mixture;
    const { changes, figuresChanges } = this.store;
    const of = `${changes} ${figuresChanges} ${JSON.stringify(this.assumptions)}`;
    if (this.knownOf !== of || this.known.size > MOST_KNOWN) {
      this.known.clear();
      this.knownOf = of;
      this.curves = new CurveMaker(this.assumptions);
    }
    this.searches = new Int32Array(made.length).fill(-1);
    this.wanted =
      made.length <= MOST_ASKED
        ? Array.from({ length: made.length }, (_, at) => at)
        : sampleOf(made.length, SAMPLED);
    this.nextWanted = 0;
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

  /** Looks at the next combinations, at most so many; those that were known before cost next to nothing. */
  lookAtNext(most = BATCH): void {
    for (let fresh = 0; this.nextWanted < this.wanted.length && fresh < most; this.nextWanted++) {
      const at = this.wanted[this.nextWanted] as number;
      const before = this.known.size;
      this.searches[at] = this.figuresOf(at).searches;
      if (this.known.size > before) fresh++;
    }
  }

  /** Of the pool's keyword of that text, else by estimate. */
  private figuresOf(at: number): Known {
    const text = this.text(at);
    const there = this.known.get(text);
    if (there) return there;
    const made = this.look(text, this.rows[at] as number);
    this.known.set(text, made);
    return made;
  }

  private look(text: string, row: number): Known {
    const { store } = this;
    const found =
      row >= 0
        ? {
            searches: store.shownSearches(row),
            mean: store.meanSearches(row),
            cpc: store.shownCpc(row),
            competition: store.shownCompetition(row),
            from: store.originOf(row, 'searches'),
          }
        : this.estimated(text);
    const sum = { clicks: 0, cost: 0, impressions: 0 };
    const orNull = (value: number) => (value < 0 ? null : value);
    const keyword = {
      searches: orNull(found.mean),
      cpc: orNull(found.cpc),
      competition: orNull(found.competition),
    };
    const isForecast = this.curves.add(keyword, asMicros(Math.max(0, found.cpc)), sum);
    return { ...found, cost: isForecast ? sum.cost : -1 };
  }

  private estimated(text: string) {
    const { estimator } = this.store.figuresBy();
    if (!estimator) return { searches: -1, mean: -1, cpc: -1, competition: -1, from: null };
    estimator.into(text, OUT);
    const { searches, meanSearches, cpc, competition } = OUT;
    return {
      searches,
      mean: meanSearches,
      cpc,
      competition,
      from: searches < 0 ? null : ('estimated' as const),
    };
  }

  figures(): MixFigures {
    const sum = {
      asked: 0,
      known: 0,
      estimated: 0,
      searched: 0,
      searches: 0,
      cost: 0,
      weighed: 0,
      priced: 0,
    };
    const from = { estimated: 0, 'made-up': 0 };
    let left = 0;
    this.wanted.forEach((at, place) => {
      if (this.cut[at] === 1) return;
      left++;
      if (place >= this.nextWanted) return;
      sum.asked++;
      const { searches, mean, cpc, cost, from: origin } = this.figuresOf(at);
      if (searches < 0) return;
      sum.known++;
      if (origin !== 'told' && origin !== 'hand') sum.estimated++;
      if (origin === 'estimated' || origin === 'made-up') from[origin] += mean;
      if (searches > 0) sum.searched++;
      sum.searches += mean;
      if (cost >= 0) sum.cost += cost;
      if (cpc < 0) return;
      sum.weighed += mean * cpc;
      sum.priced += mean;
    });
    const isSample = this.wanted.length < this.searches.length;
    const kept = this.cut.reduce((count, one) => count + 1 - one, 0);
    const scale = isSample && left > 0 ? kept / left : 1;
    return {
      asked: sum.asked,
      of: left,
      isSample,
      known: Math.round(sum.known * scale),
      estimated: Math.round(sum.estimated * scale),
      searched: Math.round(sum.searched * scale),
      searches: Math.round(sum.searches * scale),
      estimatedSearches: Math.round(from.estimated * scale),
      madeUpSearches: Math.round(from['made-up'] * scale),
      cost: Math.round(sum.cost * scale),
      cpc: sum.priced > 0 ? Math.round(sum.weighed / sum.priced) : null,
      idle: sum.asked < left || isSample ? [] : this.idleLists(),
    };
  }

  private idleLists(): MixFigures['idle'] {
    const mixture = this.mixture as Mixture;
    return entryWeights(
      mixture,
      // Of what is not known nobody can say that it is idle.
      (at) => ((this.searches[at] as number) < 0 ? IDLE_UNDER : (this.searches[at] as number)),
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
      (at) => {
        const { from } = this.figuresOf(at);
        return from === 'told' || from === 'hand';
      },
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

  /**
   * Combinations that are searched less than that, by what is told alone, or by estimates too; those without a figure
   * are never among them. `more` are those that only estimates would add.
   */
  under(searches: number, byEstimates: boolean): { texts: string[]; searches: number; more: number } {
    const texts: string[] = [];
    let sum = 0;
    let more = 0;
    for (const at of this.wanted.slice(0, this.nextWanted)) {
      const value = this.searches[at] as number;
      if (value < 0 || value >= searches || this.cut[at] === 1) continue;
      const { from } = this.figuresOf(at);
      const isTold = from === 'told' || from === 'hand';
      if (!isTold) more++;
      if (!isTold && !byEstimates) continue;
      texts.push(this.text(at));
      sum += value;
    }
    return { texts, searches: sum, more };
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
      const { searches, cpc, from } = this.figuresOf(at);
      const pattern = mixture.compiled.patterns[patternAt(mixture, mixture.made[at] as number)];
      return {
        at,
        text,
        pattern: pattern?.id ?? 0,
        isCut: this.cut[at] === 1,
        elsewhere: this.elsewhere[at] === 1,
        searches: searches < 0 ? null : searches,
        cpc: cpc < 0 ? null : cpc,
        from,
      };
    });
  }

  texts(places: readonly number[]): string[] {
    return places.filter(this.isThere).map(this.text);
  }
}

const OUT = { searches: -1, meanSearches: -1, cpc: -1, competition: -1 };
