/**
 * Which of many tests to believe so that of those believed at most this share is wrong, on the average. O(n log n).
 *
 * Source: Y. Benjamini and Y. Hochberg, Controlling the false discovery rate, Journal of the Royal Statistical Society B 57,
 * 1995; its example of 15 tests (section 4.1) believes 4 at 5%.
 *
 * @param chances how often chance alone would show as much, by test
 */
export function believed(chances: readonly number[], share: number): boolean[] {
  const order = chances.map((_, at) => at).sort((a, b) => (chances[a] as number) - (chances[b] as number));
  let last = -1;
  for (const [rank, at] of order.entries())
    if ((chances[at] as number) <= ((rank + 1) / chances.length) * share) last = rank;
  const isBelieved = chances.map(() => false);
  for (let rank = 0; rank <= last; rank++) isBelieved[order[rank] as number] = true;
  return isBelieved;
}
