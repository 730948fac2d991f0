import { MOST_COMBINATIONS, type Pattern, type Slot } from './recipe.ts';

/** How many forms a list has. */
export type SizeOf = (list: number) => number;

export type MixCount = { byPattern: bigint[]; total: bigint };

const optionsOf = (slot: Slot, sizeOf: SizeOf): bigint =>
  slot.kind === 'word'
    ? slot.text.trim() === ''
      ? 0n
      : 1n
    : BigInt(sizeOf(slot.list)) + (slot.optional ? 1n : 0n);

/** The combinations of a pattern before anything is dropped: by multiplication, exact, however many. */
export function countPattern({ slots, flip }: Pick<Pattern, 'slots' | 'flip'>, sizeOf: SizeOf): bigint {
  if (slots.length === 0) return 0n;
  const once = slots.reduce((product, slot) => product * optionsOf(slot, sizeOf), 1n);
  return flip && slots.length > 1 ? once * 2n : once;
}

/** The combinations of every pattern, and in all. */
export function countMix(patterns: readonly Pattern[], sizeOf: SizeOf): MixCount {
  const byPattern = patterns.map((pattern) => countPattern(pattern, sizeOf));
  return { byPattern, total: byPattern.reduce((sum, count) => sum + count, 0n) };
}

/** The list to shorten, and to how many forms; null: even one form is too many, so others must be shorter too. */
export type Shorten = { list: number; from: number; to: number | null };

/**
 * What brings the count down to the cap: the longest list of the pattern that makes most, to the most forms that fit.
 * Null where the count is within the cap.
 */
export function shortenTo(
  patterns: readonly Pattern[],
  sizeOf: SizeOf,
  cap = MOST_COMBINATIONS,
): Shorten | null {
  const { byPattern, total } = countMix(patterns, sizeOf);
  if (total <= BigInt(cap)) return null;
  const largest = byPattern.reduce((best, count, at) => (count > (byPattern[best] ?? 0n) ? at : best), 0);
  const lists = (patterns[largest]?.slots ?? []).flatMap((slot) => (slot.kind === 'list' ? [slot.list] : []));
  const list = lists.sort((a, b) => sizeOf(b) - sizeOf(a))[0] ?? 0;
  const fits = (size: number) =>
    countMix(patterns, (id) => (id === list ? size : sizeOf(id))).total <= BigInt(cap);
  let low = 0;
  let high = sizeOf(list);
  while (high - low > 1) {
    const middle = (low + high) >> 1;
    if (fits(middle)) low = middle;
    else high = middle;
  }
  return { list, from: sizeOf(list), to: low > 0 ? low : null };
}
