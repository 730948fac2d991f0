import { daysOf, type Time } from './day.ts';

/** Times that can be added: none shares a day with another. `days`: how many days they cover. */
export type PickedTimes = { times: Time[]; days: number };

/**
 * Of times that were told, those within a range that cover most of its days without two of them sharing one; of equally
 * many days, the fewest times. A day in two of them would be counted twice. O(times × log times).
 *
 * Weighted interval scheduling, by dynamic programming over the times in the order of their last days.
 */
export function pickTimes(told: readonly Time[], range: Time): PickedTimes {
  const within = told
    .filter(({ from, to }) => from >= range.from && to <= range.to)
    .sort((a, b) => a.to - b.to || a.from - b.from);
  const best: { days: number; count: number; before: number; takes: boolean }[] = [
    { days: 0, count: 0, before: 0, takes: false },
  ];
  for (const [at, time] of within.entries()) {
    const before = endedBefore(within, at, time);
    const with_ = (best[before]?.days ?? 0) + daysOf(time);
    const count = (best[before]?.count ?? 0) + 1;
    const { days: without, count: fewer } = best[at] ?? { days: 0, count: 0 };
    const takes = with_ > without || (with_ === without && count < fewer);
    best.push({ days: takes ? with_ : without, count: takes ? count : fewer, before, takes });
  }
  const times: Time[] = [];
  for (let at = within.length; at > 0; ) {
    const { takes, before } = best[at] as (typeof best)[number];
    if (takes) times.unshift(within[at - 1] as Time);
    at = takes ? before : at - 1;
  }
  return { times, days: best[within.length]?.days ?? 0 };
}

/** How many of the times before one, in the order of their last days, end before it begins. */
function endedBefore(times: readonly Time[], at: number, { from }: Time): number {
  let low = 0;
  let high = at;
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((times[middle] as Time).to < from) low = middle + 1;
    else high = middle;
  }
  return low;
}
