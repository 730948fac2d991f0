import type { BasisPoints, Micros } from './currency.ts';
import { asMicros } from './currency.ts';

/**
 * `base × steps`, rounded half up to `increment`, once. Exact: goes through big integers where the product
 * passes 2^53. £0.40 × 125% × 115% at a 1p increment is £0.58.
 */
export function multiplied(base: Micros, steps: readonly BasisPoints[], increment: Micros): Micros {
  let product: number = base;
  let scale = 1;
  for (const step of steps) {
    product *= step;
    scale *= 10_000;
  }
  const unit = scale * increment;
  if (product * 2 + unit <= Number.MAX_SAFE_INTEGER)
    return asMicros(Math.floor((product * 2 + unit) / (unit * 2)) * increment);
  return exactly(base, steps, increment);
}

function exactly(base: Micros, steps: readonly BasisPoints[], increment: Micros): Micros {
  let product = BigInt(base);
  let unit = BigInt(increment);
  for (const step of steps) {
    product *= BigInt(step);
    unit *= 10_000n;
  }
  return asMicros(Number((product * 2n + unit) / (unit * 2n)) * increment);
}

export const between = (amount: Micros, floor: Micros, ceiling: Micros): Micros =>
  amount < floor ? floor : amount > ceiling ? ceiling : amount;

/** An amount at a rate in millionths, rounded half up once: €1.00 at 860,000 is £0.86. */
export function atRate(amount: Micros, millionths: number): Micros {
  if (millionths === 1_000_000) return amount;
  return asMicros(Number((BigInt(amount) * BigInt(millionths) * 2n + 1_000_000n) / 2_000_000n));
}
