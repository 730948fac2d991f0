import { daysOf, type Time, timeKey } from './day.ts';
import { type Dimension, dimensionsOf, type Grain, grainCode, type TimeStep, timeSteps } from './grain.ts';
import { pickTimes } from './pick-times.ts';

/** What an account has of one grain: the times that were told, by campaign. */
export type GrainOnHand = { grain: Grain; times: ReadonlyMap<string, readonly Time[]> };

/** What a look asks: what its rows are told apart and kept by, how finely in time, and its range. */
export type Asked = {
  dimensions: ReadonlySet<Dimension>;
  /** Whether it shows days, or goes by weekdays. */
  byDay: boolean;
  range: Time;
};

/** The one grain that a look reads, and of each campaign the times that it adds. `days` and `of`: how much of the range is told. */
export type GrainFound = {
  grain: Grain;
  times: ReadonlyMap<string, readonly Time[]>;
  /** Days of the range that the campaign with the fewest and the one with the most have. */
  days: { least: number; most: number; of: number };
};

/** Why nothing answers: no report tells one of these, none tells days, or none is of a time within the range. */
export type NoGrain = { none: 'dimension'; missing: Dimension[] } | { none: 'days' } | { none: 'time' };

/**
 * The grain that answers a look: of those that tell all it asks, the one that covers most of the range; among these the
 * coarsest, since what is split finer may leave something out; then by days, by weeks, by ranges. Grains are never added.
 */
export function grainFor(asked: Asked, onHand: readonly GrainOnHand[]): GrainFound | NoGrain {
  const wanted = [...asked.dimensions];
  const telling = onHand.filter(({ grain }) => {
    const told = dimensionsOf(grain);
    return wanted.every((one) => told.has(one));
  });
  if (telling.length === 0) {
    const told = new Set(onHand.flatMap(({ grain }) => [...dimensionsOf(grain)]));
    return { none: 'dimension', missing: wanted.filter((one) => !told.has(one)) };
  }
  const fine = asked.byDay ? telling.filter(({ grain }) => grain.step === 'day') : telling;
  if (fine.length === 0) return { none: 'days' };
  const [best] = fine
    .map((one) => coverage(one, asked.range))
    .filter(({ covered }) => covered > 0)
    .sort((a, b) => b.covered - a.covered || rankOf(a.found.grain) - rankOf(b.found.grain));
  return best?.found ?? { none: 'time' };
}

function coverage({ grain, times }: GrainOnHand, range: Time): { found: GrainFound; covered: number } {
  const picked = [...times].map(([campaign, told]) => [campaign, pickTimes(told, range)] as const);
  const days = picked.map(([, { days: own }]) => own);
  return {
    found: {
      grain,
      times: new Map(picked.map(([campaign, { times: own }]) => [campaign, own])),
      days: { least: Math.min(...days), most: Math.max(...days), of: daysOf(range) },
    },
    covered: days.reduce((sum, own) => sum + own, 0) / Math.max(1, days.length),
  };
}

const STEPS: Readonly<Record<TimeStep, number>> = { day: 0, week: 1, range: 2 };

/** Coarse before fine, then days before weeks before ranges. */
const rankOf = (grain: Grain): number => dimensionsOf(grain).size * timeSteps.length + STEPS[grain.step];

/** Whether a look that reads this adds a row of this campaign and time. */
export const adds = (found: GrainFound, grain: string, campaign: string, time: Time): boolean =>
  grainCode(found.grain) === grain &&
  (found.times.get(campaign) ?? []).some((one) => timeKey(one) === timeKey(time));
