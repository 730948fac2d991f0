import { int32At } from '../../access/index.ts';
/** Numbers by 64-bit keys in two lanes, in an open table of typed arrays; keys are numbered as they come. */
export class KeyTable {
  private slots: Int32Array;
  private a: Int32Array;
  private b: Int32Array;
  length = 0;

  constructor(expected = 1_024) {
    let room = 64;
    while (room < expected * 2) room *= 2;
    this.slots = new Int32Array(room).fill(-1);
    this.a = new Int32Array(room >> 1);
    this.b = new Int32Array(room >> 1);
  }

  /** The number of a key; -1 where it is not there. */
  find(a: number, b: number): number {
    return int32At(this.slots, this.slotOf(a, b));
  }

  /** The number of a key, which is put in where it is not there. */
  add(a: number, b: number): number {
    const slot = this.slotOf(a, b);
    const there = int32At(this.slots, slot);
    if (there >= 0) return there;
    const number = this.length++;
    this.slots[slot] = number;
    this.a[number] = a;
    this.b[number] = b;
    if (this.length * 2 >= this.slots.length) this.grow();
    return number;
  }

  private slotOf(a: number, b: number): number {
    const mask = this.slots.length - 1;
    let slot = (a ^ (b >>> 7)) & mask;
    for (;;) {
      const there = int32At(this.slots, slot);
      if (there < 0 || (this.a[there] === a && this.b[there] === b)) return slot;
      slot = (slot + 1) & mask;
    }
  }

  private grow() {
    const larger = (lane: Int32Array) => {
      const next = new Int32Array(lane.length * 2);
      next.set(lane);
      return next;
    };
    this.a = larger(this.a);
    this.b = larger(this.b);
    this.slots = new Int32Array(this.slots.length * 2).fill(-1);
    for (let number = 0; number < this.length; number++)
      this.slots[this.slotOf(int32At(this.a, number), int32At(this.b, number))] = number;
  }
}
