/**
 * Numbers by unordered pairs of small numbers, in an open table of typed arrays: a pair costs no allocation and no
 * hashing of a large key. Pairs are numbered as they come.
 */
export class PairTable {
  /** Both numbers of each pair, the smaller first. */
  readonly firsts: number[] = [];
  readonly seconds: number[] = [];
  private slots: Int32Array;

  constructor(
    pairs: { firsts: readonly number[]; seconds: readonly number[] } = { firsts: [], seconds: [] },
  ) {
    this.slots = new Int32Array(roomFor(pairs.firsts.length)).fill(-1);
    pairs.firsts.forEach((first, at) => {
      this.add(first, pairs.seconds[at] as number);
    });
  }

  get length(): number {
    return this.firsts.length;
  }

  /** The number of a pair; -1 where it is not there. */
  find(a: number, b: number): number {
    return this.slots[this.slotOf(Math.min(a, b), Math.max(a, b))] as number;
  }

  /** The number of a pair, which is put in where it is not there. */
  add(a: number, b: number): number {
    const [first, second] = a < b ? [a, b] : [b, a];
    const slot = this.slotOf(first, second);
    const there = this.slots[slot] as number;
    if (there >= 0) return there;
    const number = this.firsts.push(first) - 1;
    this.seconds.push(second);
    this.slots[slot] = number;
    if (this.firsts.length * 2 > this.slots.length) this.grow();
    return number;
  }

  private slotOf(first: number, second: number): number {
    const mask = this.slots.length - 1;
    let slot = (Math.imul(first, 0x9e3779b1) ^ Math.imul(second, 0x85ebca6b)) >>> 0;
    slot = (slot ^ (slot >>> 15)) & mask;
    for (;;) {
      const there = this.slots[slot] as number;
      if (there < 0 || (this.firsts[there] === first && this.seconds[there] === second)) return slot;
      slot = (slot + 1) & mask;
    }
  }

  private grow() {
    this.slots = new Int32Array(this.slots.length * 2).fill(-1);
    for (let at = 0; at < this.firsts.length; at++)
      this.slots[this.slotOf(this.firsts[at] as number, this.seconds[at] as number)] = at;
  }
}

function roomFor(pairs: number): number {
  let room = 64;
  while (room < pairs * 3) room *= 2;
  return room;
}
