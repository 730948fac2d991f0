import type { TakeNote, TakeResult } from '@sprig/contracts';

const SAMPLES = 5;

/** What could not be taken in as it stands, and why; a few of each by name. */
export class Notes {
  private readonly byCode = new Map<TakeNote, { count: number; samples: string[] }>();

  add(code: TakeNote, sample = ''): void {
    const there = this.byCode.get(code) ?? { count: 0, samples: [] };
    this.byCode.set(code, there);
    there.count++;
    if (sample !== '' && there.samples.length < SAMPLES && !there.samples.includes(sample))
      there.samples.push(sample.slice(0, 200));
  }

  get all(): TakeResult['notes'] {
    return [...this.byCode].map(([code, { count, samples }]) => ({ code, count, samples }));
  }
}

/** What most have; of those that are alike the first. */
export function mostOf<T>(values: Iterable<T>): T | undefined {
  const counts = new Map<T, number>();
  for (const value of values) counts.set(value, (counts.get(value) ?? 0) + 1);
  let best: T | undefined;
  let most = 0;
  for (const [value, count] of counts)
    if (count > most) {
      best = value;
      most = count;
    }
  return best;
}
