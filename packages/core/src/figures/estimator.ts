import { float64At, numberAt, stringAt, uint32At } from '../access/index.ts';
import { languagePack } from '../text/index.ts';
import { type Grounds, groundFor } from './counts.ts';
import { Features } from './features.ts';
import { bandOf } from './learn.ts';
import { type Band, type EstimateModel, type Measure, type MeasureModel, scales } from './model.ts';
import { PairTable } from './pair-table.ts';
import { headOf, KeywordReader, type ReadKeyword, UNKNOWN } from './reader.ts';

const LEAST_OF_HEAD = 3;
const MOST_UNKNOWN = 1;

/** An estimate: the median, the mean for sums, and the range in which nine in ten lie. */
export type Estimate = { value: number; mean: number; low: number; high: number; ground: number; band: Band };

export type Rounded = { searches: number; meanSearches: number; cpc: number; competition: number };

/** A factor of an estimate, with how many told keywords it was learned from; `text` is null for all the rest. */
export type Factor = { text: string | null; times: number; told: number };

/** Why nothing is estimated. */
export type NoEstimate = 'little-told' | 'head-unknown' | 'words-unknown';

/**
 * Estimates by a model. The words of texts are numbered as they come; a text costs what its words cost. The same
 * model, rules and text give the same estimate, whatever was asked before.
 */
export class Estimator {
  private readonly reader: KeywordReader;
  private readonly features: Features;
  private readonly grounds: Grounds;
  private readonly betas: Partial<Record<Measure, Float64Array>> = {};
  private readonly out: number[] = [];

  constructor(readonly model: EstimateModel) {
    const { language, functionWords, signals, places } = model.reading;
    this.reader = new KeywordReader(model.vocabulary, {
      pack: languagePack(language, functionWords),
      signals,
      places,
    });
    const { pairs, toldOf } = model;
    const table = new PairTable(pairs);
    const runs = Int32Array.from(pairs.runs);
    this.features = new Features(
      model.vocabulary.stems.length,
      places.length,
      Uint32Array.from(toldOf),
      { table, runs, turned: Uint8Array.from(pairs.turned) },
      model.runs,
    );
    this.grounds = {
      headOf: Uint32Array.from(model.headOf),
      table,
      grounds: Uint32Array.from(pairs.grounds),
    };
    for (const [measure, learned] of Object.entries(model.measures))
      if (learned) this.betas[measure as Measure] = Float64Array.from(learned.beta);
  }

  /** The number of a word in normal form, for `ofNumbers`. */
  numberOf = (word: string): number => this.reader.numberOf(word);

  /** The estimate of a text in normal form; null where there is too little to tell. */
  of(measure: Measure, norm: string): Estimate | null {
    const learned = this.model.measures[measure];
    return learned && this.estimate(measure, learned, this.reader.read(norm));
  }

  /** Estimates a keyword whose words stand as numbers. */
  ofNumbers(measure: Measure, words: ArrayLike<number>, from: number, to: number): Estimate | null {
    const learned = this.model.measures[measure];
    return learned && this.estimate(measure, learned, this.reader.readNumbers(words, from, to));
  }

  /**
   * The medians of all measures and the mean of searches, rounded for keeping: whole searches, micros, 0 to 100; -1 for
   * none.
   */
  into(norm: string, out: Rounded): void {
    const read = this.reader.read(norm);
    out.searches = out.meanSearches = out.cpc = out.competition = -1;
    if (this.lacks(read) !== null) return;
    const count = this.features.of(read, this.out);
    for (const measure of ALL) {
      const learned = this.model.measures[measure];
      if (!learned) continue;
      const sum = this.sum(measure, learned, count);
      out[measure] = Math.round(scales[measure].to(sum));
      if (measure !== 'searches') continue;
      const { smear } = learned.bands[bandOf(groundFor(read, this.grounds), read.unknown)];
      out.meanSearches = Math.round(scales.searches.to(sum + Math.log(smear)));
    }
  }

  whyNot(measure: Measure, norm: string): NoEstimate | null {
    return this.model.measures[measure] ? this.lacks(this.reader.read(norm)) : 'little-told';
  }

  private lacks(read: ReadKeyword): NoEstimate | null {
    const stem = headOf(read);
    if (stem === UNKNOWN || uint32At(this.grounds.headOf, stem) < LEAST_OF_HEAD) return 'head-unknown';
    return read.unknown > MOST_UNKNOWN ? 'words-unknown' : null;
  }

  private sum(measure: Measure, { mean }: MeasureModel, count: number): number {
    const beta = this.betas[measure] as Float64Array;
    let sum = mean;
    for (let at = 0; at < count; at++) sum += float64At(beta, numberAt(this.out, at));
    return sum;
  }

  private estimate(measure: Measure, learned: MeasureModel, read: ReadKeyword): Estimate | null {
    if (this.lacks(read) !== null) return null;
    const sum = this.sum(measure, learned, this.features.of(read, this.out));
    const ground = groundFor(read, this.grounds);
    const band = bandOf(ground, read.unknown);
    const { low, high, smear } = learned.bands[band];
    const { to } = scales[measure];
    return {
      value: to(sum),
      mean: measure === 'competition' ? to(sum) : to(sum + Math.log(smear)),
      low: to(sum + low),
      high: to(sum + high),
      ground,
      band,
    };
  }

  /**
   * What an estimate of searches or of the CPC is the product of (searches: of searches + 5): the head with the mean
   * first, then words and runs by what they do, last all the rest as one. Null where nothing is estimated.
   */
  factors(measure: Measure, norm: string): Factor[] | null {
    const learned = this.model.measures[measure];
    const read = this.reader.read(norm);
    if (!learned || this.lacks(read) !== null) return null;
    const beta = this.betas[measure] as Float64Array;
    const { stems, count, texts, head } = read;
    const effect = (feature: number) => float64At(beta, feature);
    const told = (stem: number) => numberAt(this.model.toldOf, stem);
    const total = this.sum(measure, learned, this.features.of(read, this.out));
    const headFactor: Factor = {
      text: stringAt(texts, head),
      times: learned.mean + effect(numberAt(stems, head)),
      told: told(numberAt(stems, head)),
    };
    const others: Factor[] = [];
    const runAt = (at: number) =>
      at + 1 < count && stems[at] !== UNKNOWN && stems[at + 1] !== UNKNOWN && stems[at] !== stems[at + 1]
        ? this.features.runOf(numberAt(stems, at), numberAt(stems, at + 1))
        : -1;
    for (let at = 0; at < count; at++) {
      const stem = numberAt(stems, at);
      const next = stems[at + 1] ?? UNKNOWN;
      const run = runAt(at);
      const isNew = stem !== UNKNOWN && stems.indexOf(stem) === at;
      if (run >= 0 && at !== head && at + 1 !== head && isNew && this.areOne(stem, next)) {
        // Words that hardly stand without each other are told as one.
        others.push({
          text: `${texts[at]} ${texts[at + 1]}`,
          times: effect(stem) + effect(next) + effect(run),
          told: told(stem),
        });
        at++;
        continue;
      }
      if (at !== head && isNew)
        others.push({ text: stringAt(texts, at), times: effect(stem), told: told(stem) });
      if (run >= 0)
        others.push({
          text: `${texts[at]} ${texts[at + 1]}`,
          times: effect(run),
          told: Math.max(LEAST_OF_HEAD, this.togetherOf(stem, next)),
        });
    }
    const telling = others
      .filter(({ times }) => Math.abs(times) >= LEAST_TELLING)
      .sort((a, b) => Math.abs(b.times) - Math.abs(a.times))
      .slice(0, MOST_FACTORS);
    const said = [headFactor, ...telling];
    const rest = total - said.reduce((sum, { times }) => sum + times, 0);
    return [...said, { text: null, times: rest, told: learned.told }].map((factor) => ({
      ...factor,
      times: Math.exp(factor.times),
    }));
  }

  private areOne(a: number, b: number): boolean {
    const { toldOf, pairs } = this.features;
    const pair = pairs.table.find(a, b);
    const most = Math.max(uint32At(toldOf, a), uint32At(toldOf, b));
    return pair >= 0 && numberAt(this.model.pairs.told, pair) >= most * MOSTLY;
  }

  private togetherOf(a: number, b: number): number {
    const pair = this.grounds.table.find(a, b);
    return pair < 0 ? 0 : uint32At(this.grounds.grounds, pair);
  }
}

const ALL: readonly Measure[] = ['searches', 'cpc', 'competition'];
const LEAST_TELLING = 0.05;
/** The share of their keywords in which two words that are as one stand together. */
const MOSTLY = 0.8;
const MOST_FACTORS = 4;
