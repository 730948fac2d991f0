import { MICROS_PER_UNIT, type Micros } from '../money/index.ts';

/** An amount without its currency, as it is said of a row. */
export const unitsOf = (amount: Micros | null): string =>
  amount === null ? '' : String(amount / MICROS_PER_UNIT);
