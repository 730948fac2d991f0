import type { FunnelStage } from './funnel-stages.ts';

/** A word or a run of words that tells the stage. */
export type SignalWord = { text: string; stage: FunnelStage };

const listed = (stage: FunnelStage, list: string): SignalWord[] =>
  list
    .trim()
    .split(/\s*,\s*/)
    .map((text) => ({ text, stage }));

/** What English searchers give away of themselves; the first in the list that a keyword holds tells its stage. */
export const englishSignals: readonly SignalWord[] = [
  ...listed(
    'early',
    `how to, how much, how many, how long, how do, how does, how, what size, what is, what are, what, why, when, can you,
     should i, do i need, guide, tutorial, ideas, tips, advice, meaning, for beginners, diy`,
  ),
  ...listed(
    'comparing',
    `best, review, vs, versus, compare, comparison, difference between, difference, which, alternative to, alternative,
     top 10, top 5, top rated, rating, recommended, pros and cons`,
  ),
  ...listed(
    'ready',
    `buy, for sale, sale, price, cost, hire, rental, rent, near me, nearby, order, quote, online, cheap, cheapest,
     affordable, discount, deal, offer, delivery, next day, in stock, supplier, open now`,
  ),
];
