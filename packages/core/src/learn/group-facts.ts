import { normalise } from '../text/index.ts';
import { isoDay, weekdayOf } from './day.ts';
import { type CountedFigure, countedFigures, FigureSums } from './figure-sums.ts';
import type { Dimension } from './grain.ts';
import type { ReadFact } from './report-rows.ts';

/** What rows of a look may be told apart by; `match` is the match type of the keyword that answered. */
export type GroupedBy = Dimension | 'match' | 'day' | 'weekday';

/** A row of a look. `name`: as its first row has it; empty where the report does not name it. */
export type FactGroup = { key: string; name: string; sums: FigureSums };

/**
 * What rows of one grain tell, told apart by one thing, in the order in which it comes. Names are the same whatever their
 * case; days and weekdays (1 is Monday) are those of the row's first day. O(rows).
 */
export function groupFacts(facts: Iterable<ReadFact>, by: GroupedBy): FactGroup[] {
  const groups = new Map<string, FactGroup>();
  for (const fact of facts) {
    const name = nameBy(fact, by);
    const key = normalise(name);
    const group = groups.get(key) ?? { key, name, sums: new FigureSums() };
    groups.set(key, group);
    group.sums.add(fact.told);
  }
  return [...groups.values()];
}

function nameBy({ names, time }: ReadFact, by: GroupedBy): string {
  if (by === 'day') return isoDay(time.from);
  if (by === 'weekday') return String(weekdayOf(time.from));
  return (by === 'match' ? names.match : names[by]) ?? '';
}

type Told = Pick<FigureSums, 'figure'>;

/**
 * What a campaign's own rows have beyond the rows that break it down, as terms that the outlet keeps to itself; null where
 * one of them does not tell it. Less than nothing where the rows of the finer grain tell more.
 */
export function notBrokenDown(whole: Told, parts: Told): Record<CountedFigure, number | null> {
  const rest = (name: CountedFigure) => {
    const [all, broken] = [whole.figure(name), parts.figure(name)];
    return all === null || broken === null ? null : all - broken;
  };
  return Object.fromEntries(countedFigures.map((name) => [name, rest(name)])) as Record<
    CountedFigure,
    number | null
  >;
}
