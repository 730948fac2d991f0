/** Mixes numbers into a hash of 53 bits, in their order; two lanes of 32 bits. */
export class HashSum {
  private a = 0x9e3779b9;
  private b = 0x85ebca6b;

  /** Of a whole number up to 2^53. */
  add(value: number): this {
    const low = value | 0;
    const high = (value / 4_294_967_296) | 0;
    this.a = Math.imul(this.a ^ low, 0x85ebca6b) ^ Math.imul(high ^ (this.a >>> 15), 0x27d4eb2f);
    this.b = Math.imul(this.b ^ low ^ (this.a >>> 13), 0xc2b2ae35) ^ Math.imul(high + 1, 0x165667b1);
    return this;
  }

  get hash(): number {
    return (this.b & 0x1fffff) * 4_294_967_296 + (this.a >>> 0);
  }
}
