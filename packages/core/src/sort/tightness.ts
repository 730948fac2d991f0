import { countAt, uint32At } from '../access/index.ts';
import type { Units } from './units.ts';

/** How many of each unit's keywords a set has; kept from one set to the next, since most sets are small. */
export class Tightness {
  private readonly counts: Uint32Array;

  constructor(private readonly units: Units) {
    this.counts = new Uint32Array(units.size);
  }

  /**
   * How much the keywords of a set speak of the same: the mean over them of the share of a keyword's content that more
   * than half of the set has; from 0 to 1. One keyword, and none, is 1. O(words of the set).
   */
  of(rows: ArrayLike<number>): number {
    const { counts, units } = this;
    if (rows.length < 2) return 1;
    for (let at = 0; at < rows.length; at++)
      for (const unit of units.contentOf(countAt(rows, at))) counts[unit] = uint32At(counts, unit) + 1;
    let sum = 0;
    for (let at = 0; at < rows.length; at++) {
      const content = units.contentOf(countAt(rows, at));
      let shared = 0;
      for (const unit of content) if (uint32At(counts, unit) * 2 > rows.length) shared++;
      sum += content.length === 0 ? 1 : shared / content.length;
    }
    for (let at = 0; at < rows.length; at++)
      for (const unit of units.contentOf(countAt(rows, at))) counts[unit] = 0;
    return sum / rows.length;
  }
}
