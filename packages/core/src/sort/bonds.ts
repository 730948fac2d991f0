import { countAt, numberAt, uint32At } from '../access/index.ts';
import type { Units } from './units.ts';

/** How much units say, and how much they belong together. */
export class Bonds {
  private readonly pairs = new Map<number, number>();

  constructor(
    private readonly units: Units,
    private readonly rows: ArrayLike<number>,
    private readonly frequency: Uint32Array,
  ) {
    for (let at = 0; at < rows.length; at++) {
      const content = units.contentOf(countAt(rows, at));
      for (let one = 1; one < content.length; one++)
        for (let other = 0; other < one; other++) {
          const pair = this.pairOf(uint32At(content, one), uint32At(content, other));
          this.pairs.set(pair, (this.pairs.get(pair) ?? 0) + 1);
        }
    }
  }

  worth(core: readonly number[]): number {
    let said = 0;
    let firm = 0;
    for (let one = 0; one < core.length; one++) {
      said += Math.log((this.rows.length + 1) / this.frequencyOf(numberAt(core, one)));
      for (let other = 0; other < one; other++)
        firm += this.firmnessOf(numberAt(core, one), numberAt(core, other));
    }
    const pairs = (core.length * (core.length - 1)) / 2;
    return said * (pairs === 0 ? 1 : firm / pairs);
  }

  frequencyOf = (unit: number): number => uint32At(this.frequency, unit);

  /**
   * What a core is worth without each of its units: rare units say more, and all count by how firmly they stand
   * together, the mean over the pairs of the share of the rarer one's keywords that have both.
   */
  worthsWithout(core: readonly number[]): number[] {
    const said = core.map((unit) => Math.log((this.rows.length + 1) / this.frequencyOf(unit)));
    const firmness = core.map(() => 0);
    for (let one = 1; one < core.length; one++)
      for (let other = 0; other < one; other++) {
        const firm = this.firmnessOf(numberAt(core, one), numberAt(core, other));
        firmness[one] = numberAt(firmness, one) + firm;
        firmness[other] = numberAt(firmness, other) + firm;
      }
    const allSaid = said.reduce((sum, value) => sum + value, 0);
    const allFirm = firmness.reduce((sum, value) => sum + value, 0) / 2;
    const pairs = ((core.length - 1) * (core.length - 2)) / 2;
    return core.map(
      (_, at) =>
        (allSaid - numberAt(said, at)) * (pairs === 0 ? 1 : (allFirm - numberAt(firmness, at)) / pairs),
    );
  }

  private pairOf = (a: number, b: number): number =>
    a < b ? a * this.units.size + b : b * this.units.size + a;

  private firmnessOf(a: number, b: number): number {
    const least = Math.min(this.frequencyOf(a), this.frequencyOf(b));
    return (this.pairs.get(this.pairOf(a, b)) ?? 0) / least;
  }
}
