/**
 * An estimate as it is shown: two figures (`107` as 110, `4,837` as 4,800). For showing alone; sums are made of what
 * was not rounded.
 */
export function twoFigures(value: number): number {
  if (value < 10) return Math.round(value);
  const unit = 10 ** (Math.floor(Math.log10(value)) - 1);
  return Math.round(value / unit) * unit;
}
