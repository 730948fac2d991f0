import { float64At, int32At, numberAt } from '../access/index.ts';
/**
 * Numbers by unordered pairs of small numbers, in an open table of typed arrays: a pair costs no allocation and no
 * hashing of a large key. Pairs are numbered as they come.
 */
export class PairTable {
  /** Both numbers of each pair, the smaller first. */
  readonly firsts: number[] = [];
  readonly seconds: number[] = [];
  /** The pair that stands in a slot, as one number, and the number of the pair; -1 where the slot is free. */
  private keys: Float64Array;
  private slots: Int32Array;

  constructor(
    pairs: { firsts: readonly number[]; seconds: readonly number[] } = { firsts: [], seconds: [] },
  ) {
    const room = roomFor(pairs.firsts.length);
    this.keys = new Float64Array(room).fill(-1);
    this.slots = new Int32Array(room).fill(-1);
    pairs.firsts.forEach((first, at) => {
      this.add(first, numberAt(pairs.seconds, at));
    });
  }

  get length(): number {
    return this.firsts.length;
  }

  /** The number of a pair; -1 where it is not there. */
  find(a: number, b: number): number {
    return int32At(this.slots, a < b ? this.slotOf(a, b) : this.slotOf(b, a));
  }

  /** The number of a pair, which is put in where it is not there. */
  add(a: number, b: number): number {
    const [first, second] = a < b ? [a, b] : [b, a];
    const slot = this.slotOf(first, second);
    const there = int32At(this.slots, slot);
    if (there >= 0) return there;
    const number = this.firsts.push(first) - 1;
    this.seconds.push(second);
    this.keys[slot] = keyOf(first, second);
    this.slots[slot] = number;
    if (this.firsts.length * 2 > this.slots.length) this.grow();
    return number;
  }

  private slotOf(first: number, second: number): number {
    const { keys } = this;
    const mask = keys.length - 1;
    const key = keyOf(first, second);
    let slot = (Math.imul(first, 0x9e3779b1) ^ Math.imul(second, 0x85ebca6b)) >>> 0;
    slot = (slot ^ (slot >>> 15)) & mask;
    for (;;) {
      const there = float64At(keys, slot);
      if (there === key || there < 0) return slot;
      slot = (slot + 1) & mask;
    }
  }

  private grow() {
    const room = this.slots.length * 2;
    this.keys = new Float64Array(room).fill(-1);
    this.slots = new Int32Array(room).fill(-1);
    for (let at = 0; at < this.firsts.length; at++) {
      const [first, second] = [numberAt(this.firsts, at), numberAt(this.seconds, at)];
      const slot = this.slotOf(first, second);
      this.keys[slot] = keyOf(first, second);
      this.slots[slot] = at;
    }
  }
}

const keyOf = (first: number, second: number): number => first * 0x4000000 + second;

function roomFor(pairs: number): number {
  let room = 64;
  while (room < pairs * 3) room *= 2;
  return room;
}
