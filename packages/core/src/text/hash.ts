import { stringAt } from '../access/index.ts';
/** How far a hash has come: two lanes of 32 bits. */
export type HashLanes = { a: number; b: number };

/** Where the hash of a text stands that begins so, to go on from with `hashOfAll`. */
export function hashLanes(text: string): HashLanes {
  let a = 0xdeadbeef;
  let b = 0x41c6ce57;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at);
    a = Math.imul(a ^ code, 2_654_435_761);
    b = Math.imul(b ^ code, 1_597_334_677);
  }
  return { a, b };
}

/** The hash of a text whose beginning was hashed before: behind it some texts with a gap of one character between them, from one of them on. */
export function hashOfAll(begun: HashLanes, texts: readonly string[], from: number, gap: string): number {
  let { a, b } = begun;
  const between = gap.charCodeAt(0);
  for (let n = from; n < texts.length; n++) {
    if (n > from) {
      a = Math.imul(a ^ between, 2_654_435_761);
      b = Math.imul(b ^ between, 1_597_334_677);
    }
    const text = stringAt(texts, n);
    for (let at = 0; at < text.length; at++) {
      const code = text.charCodeAt(at);
      a = Math.imul(a ^ code, 2_654_435_761);
      b = Math.imul(b ^ code, 1_597_334_677);
    }
  }
  return endOfHash(a, b);
}

/**
 * A 53-bit hash of a text (two 32-bit multiply-xorshift lanes). Two texts share it by chance once in 9 × 10^15.
 */
export function hashOf(text: string): number {
  const { a, b } = hashLanes(text);
  return endOfHash(a, b);
}

/** The 53-bit hash of two lanes that came to their end. */
export function endOfHash(first: number, second: number): number {
  const a =
    Math.imul(first ^ (first >>> 16), 2_246_822_507) ^ Math.imul(second ^ (second >>> 13), 3_266_489_909);
  const b = Math.imul(second ^ (second >>> 16), 2_246_822_507) ^ Math.imul(a ^ (a >>> 13), 3_266_489_909);
  return 4_294_967_296 * (2_097_151 & b) + (a >>> 0);
}
