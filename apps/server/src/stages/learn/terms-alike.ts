import { type FactTable, type GrainFound, type GroupSums, grainCode } from '@sprig/core/learn';
import { lookAlikeSignatures, sameSearchClasses } from '@sprig/core/prune';
import type { LanguagePack } from '@sprig/core/text';
import type { Account } from './account.ts';
import { ofSeries } from './imports-of-plan.ts';

/** Of each term the number of those that it is alike, and whether it is fresh. */
type Alikes = { alike: Int32Array; fresh: Uint8Array };

/** Terms that are the same search in other clothes have one number: other forms and orders of their words. O(words). */
export function alikeOf(terms: readonly string[], pack: LanguagePack): Int32Array {
  const written = lookAlikeSignatures(
    { length: terms.length, normOf: (at) => terms[at] ?? '', searchesOf: () => -1 },
    sameSearchClasses,
    pack,
    () => true,
  );
  const known = new Map<string, number>();
  return Int32Array.from(terms, (_, at) => {
    const key = written(at);
    const number = known.get(key) ?? known.size;
    known.set(key, number);
    return number;
  });
}

/** The last day that reports of search terms told of before the last one came; null where there was but one. */
export function toldBefore({ imports, onHand }: Account, { grain }: GrainFound): number | null {
  const code = grainCode(grain);
  const series = onHand.find((one) => grainCode(one.grain) === code)?.series ?? '';
  const lasts = ofSeries(imports, series).map(({ body }) => Math.max(...body.times.map(([, to]) => to)));
  return lasts.length < 2 ? null : Math.max(...lasts.slice(0, -1));
}

/** Which groups no row is of until that day, its own among them. O(rows). */
export function freshSince(
  table: FactTable,
  added: Uint8Array,
  groupOf: Int32Array,
  groups: number,
  before: number,
): Uint8Array {
  const fresh = new Uint8Array(groups).fill(1);
  const isBefore = table.times.map(({ from }) => from <= before);
  for (let row = 0; row < table.rows; row++) {
    const place = table.place[row] as number;
    const time = table.time[row] as number;
    if (!added[time * table.campaigns + (table.campaignOf[place] as number)]) continue;
    if (isBefore[time]) fresh[groupOf[place] as number] = 0;
  }
  return fresh;
}

/** Orders numbers of terms: fresh ones first, look-alikes together, by cost; answers how many of these each has below it. */
export function inAlikes(order: number[], { alike, fresh }: Alikes, sums: GroupSums): number[] {
  const [cost, clicks] = [sums.column('cost'), sums.column('clicks')];
  const costOf = (n: number) => cost[n] || 0;
  const groups = new Map<number, { cost: number; fresh: number; size: number }>();
  for (const n of order) {
    const key = alike[n] as number;
    const group = groups.get(key) ?? { cost: 0, fresh: 0, size: 0 };
    group.cost += costOf(n);
    group.fresh = Math.max(group.fresh, fresh[n] ?? 0);
    group.size++;
    groups.set(key, group);
  }
  order.sort((a, b) => {
    const [keyA, keyB] = [alike[a] as number, alike[b] as number];
    if (keyA === keyB) return costOf(b) - costOf(a) || (clicks[b] || 0) - (clicks[a] || 0) || a - b;
    const [one, other] = [groups.get(keyA), groups.get(keyB)];
    return (other?.fresh ?? 0) - (one?.fresh ?? 0) || (other?.cost ?? 0) - (one?.cost ?? 0) || keyA - keyB;
  });
  return order.map((n, at) => {
    const key = alike[n] as number;
    const isBelow = at > 0 && alike[order[at - 1] as number] === key;
    return isBelow ? -1 : (groups.get(key)?.size ?? 1) - 1;
  });
}
