import { seeded } from '../text/index.ts';

/** `most` of the numbers from 0 to `count` - 1, rising; the same for the same seed. O(most log most). */
export function sampleOf(count: number, most: number, seed = 1): number[] {
  if (count <= most) return Array.from({ length: count }, (_, at) => at);
  const random = seeded(seed);
  const taken = new Set<number>();
  while (taken.size < most) taken.add(Math.floor(random() * count));
  return [...taken].sort((a, b) => a - b);
}
