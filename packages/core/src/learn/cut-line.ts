import type { DecimalMark } from '../gather/index.ts';
import { endOfHash, withRoom } from '../text/index.ts';

const ZERO = 48;
const MOST_PLAIN = 15;
/** Stands between the cells of a line that was put together again. */
const BETWEEN = '\u0000';

/**
 * One line of a delimited text and where its cells begin and end. It is used again for each next line, and makes no text of
 * a cell before it is asked for one: most cells of a report are the same as a line before, or numbers.
 */
export class CutLine {
  private text = '';
  private from = new Int32Array(64);
  private to = new Int32Array(64);
  /** How many cells it has. */
  count = 0;
  /** It stands as it was written, with no quotes. */
  isPlain = false;

  /** A line without quotes. O(its length). */
  cut(text: string, delimiter: string): void {
    this.text = text;
    let count = 0;
    let at = 0;
    for (;;) {
      const end = text.indexOf(delimiter, at);
      if (count === this.from.length) this.makeRoom(count + 1);
      this.from[count] = at;
      this.to[count] = end < 0 ? text.length : end;
      count++;
      if (end < 0) break;
      at = end + 1;
    }
    this.count = count;
    this.isPlain = true;
  }

  /** Cells that are known already. */
  take(cells: readonly string[]): void {
    this.text = cells.join(BETWEEN);
    this.makeRoom(cells.length);
    let at = 0;
    for (const [nth, { length }] of cells.entries()) {
      this.from[nth] = at;
      this.to[nth] = at + length;
      at += length + 1;
    }
    this.count = cells.length;
    this.isPlain = false;
  }

  /** A cell as it stands; a line that is too short has an empty one there. */
  cell(nth: number): string {
    return nth < this.count ? this.text.slice(this.from[nth], this.to[nth]) : '';
  }

  get cells(): string[] {
    return Array.from({ length: this.count }, (_, nth) => this.cell(nth));
  }

  /** What stands from one cell to another, with what parts them. */
  stretch(first: number, last: number): string {
    if (last >= this.count) return '';
    return this.text.slice(this.from[first], this.to[last]);
  }

  /** Whether these characters stand from one cell to another. */
  isStretch(first: number, last: number, codes: Uint16Array, at: number, length: number): boolean {
    if (last >= this.count) return false;
    const from = this.from[first] as number;
    if ((this.to[last] as number) - from !== length) return false;
    // From behind: what tells two rows apart mostly stands last.
    for (let n = length - 1; n >= 0; n--) if (this.text.charCodeAt(from + n) !== codes[at + n]) return false;
    return true;
  }

  is(nth: number, cell: string): boolean {
    if (nth >= this.count) return cell === '';
    const from = this.from[nth] as number;
    return (this.to[nth] as number) - from === cell.length && this.text.startsWith(cell, from);
  }

  isBlank(nth: number): boolean {
    if (nth >= this.count) return true;
    const from = this.from[nth] as number;
    if (from === this.to[nth]) return true;
    // Nothing above the space and below the no-break space is blank.
    const first = this.text.charCodeAt(from);
    return (first <= 32 || first >= 127) && this.cell(nth).trim() === '';
  }

  get isAllBlank(): boolean {
    for (let nth = 0; nth < this.count; nth++) if (!this.isBlank(nth)) return false;
    return true;
  }

  /** Digits, and maybe more of them behind the mark; -1: it is written in another way. */
  plainNumber(nth: number, decimal: DecimalMark): number {
    if (nth >= this.count) return -1;
    const from = this.from[nth] as number;
    const to = this.to[nth] as number;
    if (to === from || to - from > MOST_PLAIN) return -1;
    const mark = decimal.charCodeAt(0);
    let whole = 0;
    let parts = 0;
    for (let at = from; at < to; at++) {
      const code = this.text.charCodeAt(at);
      if (code === mark && parts === 0 && at > from && at < to - 1) {
        parts = 1;
        continue;
      }
      const digit = code - ZERO;
      if (digit < 0 || digit > 9) return -1;
      whole = whole * 10 + digit;
      parts *= 10;
    }
    return parts === 0 ? whole : whole / parts;
  }

  /** A 53-bit hash of some of its cells, each with what parts it from the others. */
  hashOf(some: readonly number[]): number {
    let a = 0xdeadbeef;
    let b = 0x41c6ce57;
    for (const nth of some) {
      const isThere = nth < this.count;
      const to = isThere ? (this.to[nth] as number) : 0;
      for (let at = isThere ? (this.from[nth] as number) : 0; at < to; at++) {
        const code = this.text.charCodeAt(at);
        a = Math.imul(a ^ code, 2_654_435_761);
        b = Math.imul(b ^ code, 1_597_334_677);
      }
      // What parts cells is no character of any, and moves both lanes.
      a = Math.imul(a ^ 0x1_0000, 2_654_435_761);
      b = Math.imul(b ^ 0x1_0000, 1_597_334_677);
    }
    return endOfHash(a, b);
  }

  private makeRoom(count: number): void {
    this.from = withRoom(this.from, count);
    this.to = withRoom(this.to, count);
  }
}
