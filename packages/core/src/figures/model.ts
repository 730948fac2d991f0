import type { SignalWord } from '../text/index.ts';
import type { Quality } from './quality.ts';
import type { Vocabulary } from './reader.ts';

export const measures = ['searches', 'cpc', 'competition'] as const;
/** What is told of a keyword: searches a month, micros a click, 0 to 100. */
export type Measure = (typeof measures)[number];

/** The bands of ground in which errors are alike: one stem is unknown; under 10 keywords; 10 to 29; 30 and more. */
export const bands = ['unknown', 'few', 'some', 'many'] as const;
export type Band = (typeof bands)[number];

/** How keywords kept aside in a band departed from their estimates, in logarithms. */
export type BandErrors = {
  /** Nine in ten lie between. */
  low: number;
  high: number;
  /** What the median is to be multiplied by for the mean (Duan's smearing factor). */
  smear: number;
  /** Standard deviation. */
  spread: number;
  quality: Quality;
};

/** What was learned of one measure; `beta` by the places of `Features`. */
export type MeasureModel = {
  mean: number;
  beta: number[];
  penalties: number[];
  bands: Record<Band, BandErrors>;
  quality: Quality;
  /** Told keywords that it was learned from. */
  told: number;
};

/** What was learned of a plan's told figures; plain data. */
export type EstimateModel = {
  /** How keywords were read: estimates are read alike, whatever the plan says by now. */
  reading: {
    language: string;
    functionWords: string[];
    signals: SignalWord[];
    places: string[][];
  };
  vocabulary: Vocabulary;
  toldOf: number[];
  /**
   * Pairs of stems: both numbers, how many told keywords have the run, its place among the features (-1 none), whether
   * it mostly stands the other way round, and its ground.
   */
  pairs: {
    firsts: number[];
    seconds: number[];
    told: number[];
    runs: number[];
    turned: number[];
    grounds: number[];
  };
  runs: number;
  /** In how many told keywords each stem is the head. */
  headOf: number[];
  measures: Record<Measure, MeasureModel | null>;
};

/** Searches are estimated as ln(searches + 5), so that a few more or less of a rare one say little. */
const OFFSET = 5;
const MOST = 100;

/** A told figure as the model adds it up, and back. */
export const scales: Record<Measure, { from: (value: number) => number; to: (sum: number) => number }> = {
  searches: { from: (value) => Math.log(value + OFFSET), to: (sum) => Math.max(0, Math.exp(sum) - OFFSET) },
  cpc: { from: Math.log, to: Math.exp },
  competition: {
    from: (value) => Math.log((value + 0.5) / (MOST + 0.5 - value)),
    to: (sum) => Math.min(MOST, Math.max(0, ((MOST + 1) * Math.exp(sum)) / (1 + Math.exp(sum)) - 0.5)),
  },
};
