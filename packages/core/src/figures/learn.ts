import { countAt, float64At, numberAt, stringAt, uint32At } from '../access/index.ts';
import { lookAlikeSignatures } from '../prune/index.ts';
import { grown, hashOf } from '../text/index.ts';
import { Counts, type Grounds, groundFor } from './counts.ts';
import type { Features } from './features.ts';
import {
  type Band,
  type BandErrors,
  bands,
  type EstimateModel,
  type Measure,
  type MeasureModel,
  measures,
  scales,
} from './model.ts';
import { qualityOf, quantile, sorted } from './quality.ts';
import { KeywordReader, type ReadingRules, type ReadKeyword, UNKNOWN, vocabularyOf } from './reader.ts';
import { ChosenRows, Ridge, type Rows, type Told } from './ridge.ts';

/** Keywords with the figures that hand or lists told of them; -1 for none. `about`: told as a range or a bound. */
export type ToldKeywords = {
  norms: readonly string[];
  searches: ArrayLike<number>;
  searchesAbout: ArrayLike<boolean | number>;
  cpc: ArrayLike<number>;
  cpcAbout: ArrayLike<boolean | number>;
  competition: ArrayLike<number>;
};

export type LearnRules = ReadingRules & {
  /** Ordinary words, which are never taken for misspellings. */
  isOrdinary: (word: string) => boolean;
};

/** Nothing is estimated from fewer told keywords. */
export const LEAST_TOLD = 30;
/** Of more told keywords so many are learned from, whichever their hashes name: more tell next to nothing new. */
const MOST_LEARNED = 250_000;
const FOLDS = 5;
/** Keywords that penalties are chosen on, and that are kept aside in turn to see how good estimates are. */
const MOST_CHOSEN_ON = 2_000;
const MOST_KEPT_ASIDE = 6_000;
const LEAST_OF_BAND = 50;
const HALF = 0.5;

const STEPS = [0.25, 0.5, 1, 2, 4, 8, 16, 32];
const START = [0.5, 2, 4];

/**
 * Learns what the told figures of a plan say of its words (the README of estimates is docs/figures.md). The sum of a
 * keyword's effects is the logarithm of its figure. O(total words) but for the search of penalties, which looks at
 * 2,000 keywords at most. The same keywords in any order give the same model.
 */
export function learn(told: ToldKeywords, rules: LearnRules): EstimateModel {
  const keywords = toldOnly(told);
  const vocabulary = vocabularyOf(keywords.norms, keywords.searches, rules.pack, rules.isOrdinary);
  const reader = new KeywordReader(vocabulary, rules);
  const counts = new Counts(vocabulary.stems.length);
  const { tokens, ends } = numbered(keywords.norms, reader);
  for (let row = 0; row < keywords.norms.length; row++)
    counts.add(reader.readNumbers(tokens, uint32At(ends, row), uint32At(ends, row + 1)));
  const features = counts.features(rules.places.length);
  const { rows, groundOf } = rowsOf({ tokens, ends }, reader, features, counts.groundsSoFar());
  const kinds = features.kinds();
  const data = { kinds, dealtFor: dealer(rows, kinds, keywords.norms, rules), groundOf };
  const learned = Object.fromEntries(
    measures.map((measure) => [measure, learnMeasure(measure, keywords, data)]),
  ) as EstimateModel['measures'];
  const { table, runs, turned } = features.pairs;
  return {
    reading: {
      language: rules.pack.code,
      functionWords: [...rules.pack.functionWords],
      signals: [...rules.signals],
      places: rules.places.map((names) => [...names]),
    },
    vocabulary,
    toldOf: [...counts.toldOf],
    pairs: {
      firsts: table.firsts,
      seconds: table.seconds,
      told: counts.inRun,
      runs: Array.from(runs),
      turned: Array.from(turned),
      grounds: counts.grounds,
    },
    runs: features.count - features.runs,
    headOf: [...counts.headOf],
    measures: learned,
  };
}

type Keywords = {
  norms: string[];
  searches: number[];
  cpc: number[];
  competition: number[];
  weights: Record<Measure, number[]>;
};

/** Those with any figure, by code point, so that the order in which they came says nothing. */
function toldOnly({ norms, searches, searchesAbout, cpc, cpcAbout, competition }: ToldKeywords): Keywords {
  const all = [...norms.keys()].filter(
    (at) => countAt(searches, at) >= 0 || countAt(cpc, at) > 0 || countAt(competition, at) >= 0,
  );
  const order = fewest(all, norms).sort((a, b) => (stringAt(norms, a) < stringAt(norms, b) ? -1 : 1));
  const weight = (about: ArrayLike<boolean | number>) => order.map((at) => (about[at] ? HALF : 1));
  return {
    norms: order.map((at) => stringAt(norms, at)),
    searches: order.map((at) => countAt(searches, at)),
    cpc: order.map((at) => (countAt(cpc, at) > 0 ? countAt(cpc, at) : -1)),
    competition: order.map((at) => countAt(competition, at)),
    weights: { searches: weight(searchesAbout), cpc: weight(cpcAbout), competition: order.map(() => 1) },
  };
}

export const bandOf = (ground: number, unknown: number): Band =>
  unknown > 0 ? 'unknown' : ground < 10 ? 'few' : ground < 30 ? 'some' : 'many';

type Numbered = { tokens: Uint32Array; ends: Uint32Array };

/** The words of texts as the reader numbers them, so that they are split once. */
function numbered(norms: readonly string[], reader: KeywordReader): Numbered {
  const ends = new Uint32Array(norms.length + 1);
  let tokens = new Uint32Array(Math.max(64, norms.length * 6));
  let end = 0;
  norms.forEach((norm, row) => {
    for (let from = 0; from <= norm.length; ) {
      const space = norm.indexOf(' ', from);
      const to = space < 0 ? norm.length : space;
      if (end === tokens.length) tokens = grown(tokens);
      tokens[end++] = reader.numberOf(norm.slice(from, to));
      from = to + 1;
    }
    ends[row + 1] = end;
  });
  return { tokens, ends };
}

function rowsOf({ tokens, ends }: Numbered, reader: KeywordReader, features: Features, grounds: Grounds) {
  const length = ends.length - 1;
  const starts = new Uint32Array(length + 1);
  let list = new Uint32Array(Math.max(64, length * 12));
  const groundOf = new Uint32Array(length);
  const out: number[] = [];
  for (let row = 0; row < length; row++) {
    const read = reader.readNumbers(tokens, uint32At(ends, row), uint32At(ends, row + 1));
    const count = features.of(read, out);
    const from = uint32At(starts, row);
    if (from + count > list.length) list = grown(list);
    for (let at = 0; at < count; at++) list[from + at] = numberAt(out, at);
    starts[row + 1] = from + count;
    // Without itself, as if it had never been told; a stem that only it has is unknown to the others.
    const isAlone = hasLone(read, features.toldOf);
    groundOf[row] = isAlone ? ALONE : Math.max(0, groundFor(read, grounds) - 1);
  }
  return { rows: { starts, features: list } satisfies Rows, groundOf };
}

/** Whether a stem of it is in no other told keyword. */
function hasLone({ stems, count }: ReadKeyword, toldOf: ArrayLike<number>): boolean {
  for (let at = 0; at < count; at++) {
    const stem = numberAt(stems, at);
    if (stem !== UNKNOWN && countAt(toldOf, stem) < 2) return true;
  }
  return false;
}

const ALONE = 0xffffffff;

type Data = {
  kinds: Uint8Array;
  dealtFor: (known: readonly number[]) => Dealt;
  groundOf: Uint32Array;
};

function learnMeasure(measure: Measure, keywords: Keywords, data: Data): MeasureModel | null {
  const values = keywords[measure];
  const known = [...values.keys()].filter((at) => numberAt(values, at) >= 0);
  if (known.length < LEAST_TOLD) return null;
  const told: Told = {
    y: Float64Array.from(values, (value) => (value < 0 ? 0 : scales[measure].from(value))),
    weights: Float64Array.from(keywords.weights[measure]),
  };
  const dealt = data.dealtFor(known);
  const chosen = penaltiesFor(dealt.chosenOn, told);
  const aside = keptAside(dealt.folds, told, chosen, data.groundOf);
  const whole = new Ridge(dealt.whole, told);
  whole.beginWith(aside.ridges);
  whole.solve(chosen.penalties, STEPS_TO_LEARN, ENOUGH);
  const { errors } = aside;
  return {
    mean: whole.mean,
    beta: Array.from(data.kinds, (_, feature) => Math.round(whole.effectOf(feature) * 1e6) / 1e6),
    penalties: [...chosen.penalties],
    bands: bandsOf(errors),
    quality: qualityOf(
      errors.map(({ error }) => error),
      errors.map(({ estimated }) => estimated),
    ),
    told: known.length,
  };
}

type Folded = { row: number; fold: number };

function fewest(rows: number[], norms: readonly string[]): number[] {
  if (rows.length <= MOST_LEARNED) return rows;
  const hashes = Float64Array.from(norms, hashOf);
  return rows.sort((a, b) => float64At(hashes, a) - float64At(hashes, b) || a - b).slice(0, MOST_LEARNED);
}

/** A fold: the rows that are learned from, and those that are kept aside. */
type Fold = { learned: ChosenRows; aside: readonly number[] };
/** Rows dealt out: all, those kept aside in turn, and the fewer that penalties are chosen on. */
type Dealt = { whole: ChosenRows; folds: Fold[]; chosenOn: Fold[] };

/** Deals rows out; most lists tell all measures of the same keywords, so that once is enough. */
function dealer(rows: Rows, kinds: Uint8Array, norms: readonly string[], rules: LearnRules) {
  const hashes = Float64Array.from(norms, hashOf);
  let last: { known: readonly number[]; dealt: Dealt } | null = null;
  const foldsIn = (folded: readonly Folded[]): Fold[] =>
    Array.from({ length: FOLDS }, (_, aside) => ({
      learned: new ChosenRows(
        rows,
        kinds,
        Uint32Array.from(
          folded.filter(({ fold }) => fold !== aside),
          ({ row }) => row,
        ),
      ),
      aside: folded.filter(({ fold }) => fold === aside).map(({ row }) => row),
    }));
  return (known: readonly number[]): Dealt => {
    if (last?.known.length === known.length && known.every((row, at) => row === last?.known[at]))
      return last.dealt;
    const folded = foldsOf(sampleOf(known, hashes), norms, rules);
    const dealt = {
      whole: new ChosenRows(rows, kinds, Uint32Array.from(known)),
      folds: foldsIn(folded),
      chosenOn: foldsIn(everyNth(folded, MOST_CHOSEN_ON)),
    };
    last = { known, dealt };
    return dealt;
  };
}

/** As many as are kept aside at most, whichever their hashes name. */
function sampleOf(known: readonly number[], hashes: Float64Array): number[] {
  if (known.length <= MOST_KEPT_ASIDE) return [...known];
  const limit = float64At(Float64Array.from(known, (row) => float64At(hashes, row)).sort(), MOST_KEPT_ASIDE);
  return known.filter((row) => float64At(hashes, row) < limit);
}

/** Look-alikes, which sources often give one shared figure, are kept aside together. */
function foldsOf(sample: readonly number[], norms: readonly string[], rules: LearnRules): Folded[] {
  const signature = lookAlikeSignatures(
    { length: sample.length, normOf: (at) => stringAt(norms, numberAt(sample, at)), searchesOf: () => -1 },
    ['text', 'joined', 'number', 'order', 'function'],
    rules.pack,
    rules.isOrdinary,
  );
  return sample.map((row, at) => ({ row, fold: hashOf(signature(at)) % FOLDS }));
}

/** At most so many, evenly from all. */
function everyNth<T>(list: readonly T[], most: number): T[] {
  const step = Math.max(1, Math.ceil(list.length / most));
  return list.filter((_, at) => at % step === 0);
}

type Chosen = { penalties: number[]; ridges: Ridge[] };

/** The penalties of stems, runs and the rest that err least on keywords kept aside, one after another. */
function penaltiesFor(folds: readonly Fold[], told: Told): Chosen {
  const fits = folds.map(({ learned, aside }) => ({ ridge: new Ridge(learned, told), aside }));
  const known = new Map<string, number>();
  const lossOf = (penalties: readonly number[]): number => {
    const name = penalties.join();
    const before = known.get(name);
    if (before !== undefined) return before;
    let loss = 0;
    for (const { ridge, aside } of fits) {
      ridge.solve(penalties, STEPS_TO_CHOOSE, 0.03);
      for (const row of aside) loss += float64At(told.weights, row) * ridge.errorOf(row) ** 2;
    }
    known.set(name, loss);
    return loss;
  };
  let best = [...START];
  let least = lossOf(best);
  for (const kind of [0, 1, 2])
    for (const direction of [-1, 1])
      for (
        let at = STEPS.indexOf(numberAt(best, kind)) + direction;
        STEPS[at] !== undefined;
        at += direction
      ) {
        const tried = best.map((value, n) => (n === kind ? numberAt(STEPS, at) : value));
        const loss = lossOf(tried);
        if (loss >= least) break;
        best = tried;
        least = loss;
      }
  return { penalties: best, ridges: fits.map(({ ridge }) => ridge) };
}

const STEPS_TO_CHOOSE = 6;
const STEPS_TO_LEARN = 40;
/** An effect may be wrong by a hundredth of how figures differ. */
const ENOUGH = 0.01;

type Aside = { error: number; estimated: number; band: Band };

function keptAside(folds: readonly Fold[], told: Told, { penalties, ridges }: Chosen, groundOf: Uint32Array) {
  const learned: Ridge[] = [];
  const errors = folds.flatMap(({ learned: rows, aside }, fold): Aside[] => {
    const ridge = new Ridge(rows, told);
    // Only what has not seen those that are kept aside.
    ridge.beginWith(ridges.slice(fold, fold + 1));
    ridge.solve(penalties, STEPS_TO_LEARN, ENOUGH);
    learned.push(ridge);
    return aside.map((row) => {
      const error = ridge.errorOf(row);
      const ground = uint32At(groundOf, row);
      const band = ground === ALONE ? 'unknown' : bandOf(ground, 0);
      return { error, estimated: float64At(told.y, row) - error, band };
    });
  });
  return { errors, ridges: learned };
}

/** A band with too few kept aside goes with the next, the last with the one before. */
function bandsOf(errors: readonly Aside[]): Record<Band, BandErrors> {
  const pools: { bands: Band[]; errors: Aside[] }[] = [];
  for (const band of bands) {
    const own = errors.filter((one) => one.band === band);
    const open = pools.at(-1);
    if (open && open.errors.length < LEAST_OF_BAND) {
      open.bands.push(band);
      open.errors.push(...own);
    } else pools.push({ bands: [band], errors: own });
  }
  const last = pools.at(-1);
  const before = pools.at(-2);
  if (last && before && last.errors.length < LEAST_OF_BAND) {
    before.bands.push(...last.bands);
    before.errors.push(...last.errors);
    pools.pop();
  }
  return Object.fromEntries(
    pools.flatMap((pool) => {
      const found = errorsOf(pool.errors);
      return pool.bands.map((band) => [band, found]);
    }),
  ) as Record<Band, BandErrors>;
}

function errorsOf(pool: readonly Aside[]): BandErrors {
  const all = pool.map(({ error }) => error);
  const inOrder = sorted(all);
  const mean = (values: readonly number[]) =>
    values.reduce((sum, value) => sum + value, 0) / Math.max(1, values.length);
  const centre = mean(all);
  return {
    low: quantile(inOrder, 0.05),
    high: quantile(inOrder, 0.95),
    smear: all.length === 0 ? 1 : mean(all.map(Math.exp)),
    spread: Math.sqrt(mean(all.map((error) => (error - centre) ** 2))),
    quality: qualityOf(
      all,
      pool.map(({ estimated }) => estimated),
    ),
  };
}
