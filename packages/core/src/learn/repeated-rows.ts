/**
 * Tells lines that say again what was said of a place and a time, each by the hash of what it says; eight bytes a line. O(1)
 * a line.
 */
export class RepeatedRows {
  /** By time, of each place what its first line said; 0: nothing yet. */
  private readonly first: Float64Array[] = [];
  /** Where there are more lines of one place and time, all of them. */
  private readonly more = new Map<string, Set<number>>();

  /** The how-manieth different line of a place and time it is; 0 where an earlier one says the same. */
  count(time: number, place: number, said: number): number {
    const hash = said === 0 ? 1 : said;
    const lines = this.linesOf(time, place);
    const before = lines[place] as number;
    if (before === 0) {
      lines[place] = hash;
      return 1;
    }
    if (before === hash) return 0;
    const key = `${time}:${place}`;
    const all = this.more.get(key) ?? new Set([before]);
    if (all.has(hash)) return 0;
    this.more.set(key, all.add(hash));
    return all.size;
  }

  private linesOf(time: number, place: number): Float64Array {
    const there = this.first[time];
    if (there && place < there.length) return there;
    const grown = new Float64Array(Math.max(256, place * 2));
    if (there) grown.set(there);
    this.first[time] = grown;
    return grown;
  }
}
