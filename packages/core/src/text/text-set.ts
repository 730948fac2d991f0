import { hashOf } from './hash.ts';

/**
 * A set that tells whether a text was met before, in 8 bytes a text: it keeps hashes of 53 bits. `false` is sure;
 * `true` is wrong once in some 10^10 times at a million texts, so what it says was met before has to be looked at again.
 */
export class TextSet {
  private slots = new Float64Array(1 << 12).fill(-1);
  private size = 0;

  has(text: string): boolean {
    const hash = hashOf(text);
    return this.slots[this.slotOf(hash)] === hash;
  }

  /** Puts a text in, and answers whether one of its hash was there. */
  metBefore(text: string): boolean {
    if (this.size * 2 > this.slots.length) this.grow();
    const hash = hashOf(text);
    const at = this.slotOf(hash);
    if (this.slots[at] === hash) return true;
    this.slots[at] = hash;
    this.size++;
    return false;
  }

  private slotOf(hash: number): number {
    const mask = this.slots.length - 1;
    let at = (hash % 0x7fffffff) & mask;
    while (this.slots[at] !== -1 && this.slots[at] !== hash) at = (at + 1) & mask;
    return at;
  }

  private grow() {
    const old = this.slots;
    this.slots = new Float64Array(old.length * 2).fill(-1);
    for (const hash of old) if (hash !== -1) this.slots[this.slotOf(hash)] = hash;
  }
}
