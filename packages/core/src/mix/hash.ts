import { int32At, stringAt } from '../access/index.ts';
/**
 * A hash of a text that can be worked out from those of its parts: two polynomials modulo 2³². What is told apart by it
 * is told apart for sure; what it takes for the same has to be looked at.
 */
export type PairHash = { a: number; b: number };

const STEP_A = 0x9e3779b1;
const STEP_B = 0x85ebca6b;

export function hashPair(text: string): PairHash {
  let a = 0;
  let b = 0;
  for (let at = 0; at < text.length; at++) {
    const code = text.charCodeAt(at) + 1;
    a = (Math.imul(a, STEP_A) + code) | 0;
    b = (Math.imul(b, STEP_B) + code) | 0;
  }
  return { a, b };
}

/** What the hash of the text before is multiplied by when `length` more UTF-16 units follow. */
export function stepsOf(length: number): PairHash {
  let a = 1;
  let b = 1;
  for (let at = 0; at < length; at++) {
    a = Math.imul(a, STEP_A);
    b = Math.imul(b, STEP_B);
  }
  return { a, b };
}

/** A place in a table of a power of two: the low bits of a polynomial are weak, so they are mixed first. */
export function placeOf(a: number, b: number, mask: number): number {
  let mixed = Math.imul(a ^ (a >>> 15), 0x2c1b3c6d) ^ b;
  mixed = Math.imul(mixed ^ (mixed >>> 13), 0x297a2d39);
  return (mixed ^ (mixed >>> 16)) & mask;
}

/** The size of a table for `count` texts, at most half full. */
export function tableSize(count: number): number {
  let size = 16;
  while (size < count * 2) size *= 2;
  return size;
}

/** Texts by their hash, for looking up many that are not written out yet. */
export class TextIndex {
  private readonly table: Int32Array;
  private readonly mask: number;
  private readonly a: Int32Array;
  private readonly b: Int32Array;

  constructor(private readonly texts: readonly string[]) {
    this.table = new Int32Array(tableSize(texts.length));
    this.mask = this.table.length - 1;
    this.a = new Int32Array(texts.length);
    this.b = new Int32Array(texts.length);
    for (let at = 0; at < texts.length; at++) this.put(at);
  }

  private put(at: number) {
    const { a, b } = hashPair(stringAt(this.texts, at));
    this.a[at] = a;
    this.b[at] = b;
    let place = placeOf(a, b, this.mask);
    while (this.table[place] !== 0) place = (place + 1) & this.mask;
    this.table[place] = at + 1;
  }

  /** Where the text of this hash stands among the texts; -1 where it does not. `text` is asked only when the hash is there. */
  find(a: number, b: number, text: () => string): number {
    let place = placeOf(a, b, this.mask);
    for (let entry = int32At(this.table, place); entry !== 0; entry = int32At(this.table, place)) {
      const at = entry - 1;
      if (this.a[at] === a && this.b[at] === b && this.texts[at] === text()) return at;
      place = (place + 1) & this.mask;
    }
    return -1;
  }
}
