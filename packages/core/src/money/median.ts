import { asMicros, type Micros } from './currency.ts';

/** The middle amount; between two the mean, rounded half up. Null of none. Leaves the list as it is. O(n log n). */
export function medianOf(amounts: readonly Micros[]): Micros | null {
  if (amounts.length === 0) return null;
  const sorted = Float64Array.from(amounts).sort();
  const middle = sorted.length >> 1;
  const upper = sorted[middle] as number;
  if (sorted.length % 2 === 1) return asMicros(upper);
  return asMicros(Math.floor(((sorted[middle - 1] as number) + upper + 1) / 2));
}
