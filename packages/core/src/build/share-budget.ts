import { numberAt } from '../access/index.ts';
import { asMicros, type Micros } from '../money/index.ts';

/**
 * Parts of a total by weights, each a whole number of units and at least one, together the total: by largest remainders,
 * the earlier one first where these are alike (Hamilton's method); what would come to less than a unit gets one before.
 * Without any weight all parts are alike. null where there are fewer units than parts. £1.00 among 2 : 1 at a penny is
 * £0.67 and £0.33. O(n log n), but for parts of one unit, which are found in rounds.
 */
export function shareBudget(total: Micros, weights: readonly number[], unit: Micros): Micros[] | null {
  let units = Math.floor(total / unit);
  if (weights.length === 0 || units < weights.length) return null;
  const has = weights.some((weight) => weight > 0);
  const weight = (at: number) => (has ? numberAt(weights, at) : 1);
  const parts = weights.map(() => 1);
  let open = weights.map((_, at) => at);
  let sum = 0;
  for (;;) {
    sum = open.reduce((all, at) => all + weight(at), 0);
    const large = open.filter((at) => units * weight(at) >= sum && weight(at) > 0);
    if (large.length === open.length) break;
    units -= open.length - large.length;
    open = large;
  }
  const share = (at: number) => (units * weight(at)) / sum;
  let left = units;
  for (const at of open) {
    parts[at] = Math.floor(share(at));
    left -= numberAt(parts, at);
  }
  const remainder = (at: number) => share(at) - numberAt(parts, at);
  const order = [...open].sort((a, b) => remainder(b) - remainder(a) || a - b);
  for (const at of order.slice(0, left)) parts[at] = numberAt(parts, at) + 1;
  return parts.map((part) => asMicros(part * unit));
}
