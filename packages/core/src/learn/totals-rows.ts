import { mayBeTotals } from '../gather/index.ts';
import type { CutLine } from './cut-line.ts';
import type { ToldFigures } from './told-figures.ts';

const ADDED = ['impressions', 'clicks', 'cost'] as const;
/** A totals row is rounded by itself, and its report may have been cut. */
const NEAR = 0.005;

/**
 * Tells totals from rows as they come. Where nothing names a row, it is a total. Where the word for a total stands alone
 * among what names rows, it is one if it stands first, or if what stands above it adds up to it: so a campaign that is
 * called Total stays a campaign.
 */
export class TotalsRows {
  private readonly sums = { impressions: 0, clicks: 0, cost: 0 };
  private rows = 0;

  /** @param naming the columns that name rows */
  constructor(private readonly naming: readonly number[]) {}

  isOne(row: CutLine, told: ToldFigures): boolean {
    let named = 0;
    let only = this.naming[0] ?? 0;
    for (const at of this.naming) {
      if (row.isBlank(at)) continue;
      if (++named > 1) return false;
      only = at;
    }
    if (!mayBeTotals(row.cells, only)) return false;
    if (named === 0) return this.naming.length > 0;
    return this.rows === 0 || this.isSum(told);
  }

  add(told: ToldFigures): void {
    this.rows++;
    for (const name of ADDED) this.sums[name] += told[name] ?? 0;
  }

  private isSum(told: ToldFigures): boolean {
    const said = ADDED.filter((name) => told[name] !== null);
    return (
      this.rows > 1 &&
      said.every((name) => Math.abs((told[name] ?? 0) - this.sums[name]) <= 1 + this.sums[name] * NEAR)
    );
  }
}
