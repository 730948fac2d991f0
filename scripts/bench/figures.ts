import { CurveMaker, Estimator, learn, type ToldKeywords, usualAssumptions } from '@sprig/core/figures';
import { PoolContexts } from '@sprig/core/gather';
import { asMicros } from '@sprig/core/money';
import { english } from '@sprig/core/text';
import { figuresOf, manyKeywords } from '@sprig/market';
import { seekingGaps } from './browser.ts';
import { median } from './measure.ts';
import type { Measured } from './measured-apart.ts';
import { siteFigure } from './site.ts';

const RUNS = 3;
const FLOOR = 'split every text and count its words once';
const TIMES = 10;

/** What is learned from told figures, estimated, forecast, and found missing, each in one thread. */
export async function figuresMeasured(): Promise<Measured> {
  const norms = manyKeywords(100_000).map(({ text }) => text);
  const figures = norms.map((norm) => figuresOf(norm, 9));
  const told: ToldKeywords = {
    norms,
    searches: figures.map(({ searches }) => searches),
    searchesAbout: [],
    cpc: figures.map(({ cpc }) => cpc),
    cpcAbout: [],
    competition: figures.map(({ competition }) => competition),
  };
  const rules = { pack: english, signals: english.signalWords, places: [], isOrdinary: () => false };
  const countWords = () => {
    const counts = new Map<string, number>();
    for (const norm of norms)
      for (const word of norm.split(' ')) counts.set(word, (counts.get(word) ?? 0) + 1);
    return counts;
  };
  const floorMs = await median(RUNS, countWords);
  const learned = await median(RUNS, () => learn(told, rules));
  const estimator = new Estimator(learn(told, rules));
  const out = { searches: -1, meanSearches: -1, cpc: -1, competition: -1 };
  const million = (work: (norm: string, at: number) => unknown) => {
    for (let times = 0; times < TIMES; times++) norms.forEach(work);
  };
  const numbers = norms.map((norm) => Uint32Array.from(norm.split(' '), estimator.numberOf));
  const byIds = await median(RUNS, () =>
    million((_, at) => {
      const words = numbers[at] as Uint32Array;
      return estimator.ofNumbers('searches', words, 0, words.length);
    }),
  );
  const byTexts = await median(RUNS, () => million((norm) => estimator.into(norm, out)));
  const gaps = await median(RUNS, () =>
    new PoolContexts({ length: norms.length, normOf: (row) => norms[row] as string }, english).gaps(),
  );
  const curves = new CurveMaker(usualAssumptions);
  const forecast = await median(RUNS, () => {
    const sum = { clicks: 0, cost: 0, impressions: 0 };
    for (let type = 0; type < 3; type++)
      for (const { searches, cpc, competition } of figures)
        curves.add({ searches, cpc, competition }, asMicros(cpc * (0.8 + type / 5)), sum);
    return sum;
  });
  const sums = await median(RUNS, () => {
    let sum = 0;
    for (let type = 0; type < 3; type++) for (const { searches, cpc } of figures) sum += searches * cpc;
    return sum;
  });
  return {
    entries: [
      {
        name: 'estimates learned from 100,000 told keywords, three measures',
        ms: learned,
        floor: FLOOR,
        floorMs,
      },
      {
        name: '1,000,000 texts estimated in searches, as word numbers',
        ms: byIds,
        floor: FLOOR,
        floorMs: floorMs * TIMES,
      },
      {
        name: '1,000,000 texts estimated in three measures, as texts',
        ms: byTexts,
        floor: FLOOR,
        floorMs: floorMs * TIMES,
      },
      { name: 'gaps of 100,000 keywords', ms: gaps, floor: FLOOR, floorMs },
      {
        name: '300,000 rows forecast at their bids',
        ms: forecast,
        floor: 'multiply searches and CPC and add them up',
        floorMs: sums,
      },
    ],
    figures: [await siteFigure(), await seekingGaps()],
  };
}
