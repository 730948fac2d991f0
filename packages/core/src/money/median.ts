import { float64At } from '../access/index.ts';
import { asMicros, type Micros } from './currency.ts';

/** The middle amount; between two the mean, rounded half up. Null of none. Leaves the list as it is. O(n log n). */
export function medianOf(amounts: readonly Micros[]): Micros | null {
  if (amounts.length === 0) return null;
  const sorted = Float64Array.from(amounts).sort();
  const middle = sorted.length >> 1;
  const upper = float64At(sorted, middle);
  if (sorted.length % 2 === 1) return asMicros(upper);
  return asMicros(Math.floor((float64At(sorted, middle - 1) + upper + 1) / 2));
}
