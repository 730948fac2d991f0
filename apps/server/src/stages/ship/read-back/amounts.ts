import type { TakeOptions } from '@sprig/contracts';
import { type BasisPoints, type Micros, minorUnit, multiplied } from '@sprig/core/money';

/** Amounts of sheets as they are wanted: taken, scaled, or (null) not taken at all. */
export class Amounts {
  constructor(
    private readonly options: Pick<TakeOptions, 'bids' | 'budgets'>,
    private readonly currency: string,
  ) {}

  bid = (amount: Micros | null): Micros | null => this.wanted(amount, this.options.bids);
  budget = (amount: Micros | null): Micros | null => this.wanted(amount, this.options.budgets);

  private wanted(amount: Micros | null, { mode, scale }: TakeOptions['bids']): Micros | null {
    if (amount === null || amount <= 0 || mode === 'keep') return null;
    if (mode === 'take') return amount;
    const unit = minorUnit(this.currency);
    const scaled = multiplied(amount, [scale as BasisPoints], unit);
    return scaled > 0 ? scaled : unit;
  }
}
