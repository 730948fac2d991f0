import { hashOf } from '../text/index.ts';
import { joinCells, KEY_GAP, splitCells, type ToldValues } from './cells.ts';
import { type CellValue, type RowKind, rowKinds } from './outlet.ts';

/**
 * What an outlet has by a receipt: by each row's key its cells, with a mark before them. Rows that the plan has no more,
 * and of which the outlet was told, are marked as gone.
 */
export type Known = Map<string, string>;

const ROW_GAP = '\u001d';
const PART_GAP = '\u001e';
const STANDS = '.';
const GONE = 'x';

export const kindOfRow = (key: string): RowKind => key.slice(0, key.indexOf(KEY_GAP)) as RowKind;

/** A row as it is known. */
export const knownRow = (cells: string, gone = false): string => (gone ? GONE : STANDS) + cells;
export const isGone = (known: string): boolean => known.startsWith(GONE);
export const cellsIn = (known: string): string => known.slice(1);

/** One row of what an outlet has, as it is kept. */
export const packRow = (key: string, known: string): string => key + PART_GAP + known + ROW_GAP;

/**
 * Reads what an outlet has, part by part, and hands each row on. `before`: the values that its cells stood for when it was
 * kept; they are put in the order in which they stand now, and what is told anew is empty. O(length).
 */
export class KnownReader {
  private rest = '';
  private readonly places: Partial<Record<RowKind, number[]>> = {};

  constructor(
    before: ToldValues,
    now: ToldValues,
    private readonly each: (key: string, known: string) => void,
  ) {
    for (const kind of rowKinds)
      if (before[kind].join() !== now[kind].join())
        this.places[kind] = now[kind].map((value: CellValue) => before[kind].indexOf(value));
  }

  take(part: string): void {
    const text = this.rest + part;
    let start = 0;
    for (let end = text.indexOf(ROW_GAP); end >= 0; end = text.indexOf(ROW_GAP, start)) {
      const gap = text.indexOf(PART_GAP, start);
      const key = text.slice(start, gap);
      this.each(key, this.moved(key, text.slice(gap + 1, end)));
      start = end + 1;
    }
    this.rest = text.slice(start);
  }

  private moved(key: string, known: string): string {
    const places = this.places[kindOfRow(key)];
    if (!places) return known;
    const texts = splitCells(cellsIn(known));
    return knownRow(joinCells(places.map((at) => texts[at] ?? '')), isGone(known));
  }
}

const SEEN = 8;
const WAS_GONE = 16;
const KIND = 7;
const FIRST_SIZE = 1_024;

/**
 * The rows that an outlet has, as numbers: hashes of keys and of cells, so that a million of them take some tens of MB.
 * Whether a row is known and the same is told at once; what it said is read again where it is needed. Campaigns are kept
 * whole, since a budget may have to stay as it is. Two keys share a hash by chance once in 9 × 10^15.
 */
export class KnownRows {
  readonly campaigns: Known = new Map();
  size = 0;
  private keys = new Float64Array(FIRST_SIZE);
  private cells = new Float64Array(FIRST_SIZE);
  private marks = new Uint8Array(FIRST_SIZE);

  /** Rows as they come from a `KnownReader`, each key once. */
  add(key: string, known: string): void {
    if (this.size * 2 >= this.keys.length) this.grow();
    const kind = kindOfRow(key);
    if (kind === 'campaign') this.campaigns.set(key, known);
    const hash = hashOf(key);
    const slot = this.slotOf(hash);
    this.size++;
    this.keys[slot] = hash;
    this.cells[slot] = hashOf(cellsIn(known));
    this.marks[slot] = rowKinds.indexOf(kind) | (isGone(known) ? WAS_GONE : 0);
  }

  /** Whether the outlet has a row, and whether it says the same; the row counts as seen from then on. */
  see(key: string, cells: string): 'new' | 'same' | 'differs' {
    if (this.size === 0) return 'new';
    const hash = hashOf(key);
    const slot = this.slotOf(hash);
    if (this.keys[slot] !== hash) return 'new';
    const mark = this.marks[slot] as number;
    this.marks[slot] = mark | SEEN;
    return (mark & WAS_GONE) === 0 && this.cells[slot] === hashOf(cells) ? 'same' : 'differs';
  }

  isSeen(key: string): boolean {
    return ((this.marks[this.slotOf(hashOf(key))] as number) & SEEN) !== 0;
  }

  /** How many rows of each kind nobody has seen, of those that stand or of those that were gone before. */
  unseen(gone: boolean): Map<RowKind, number> {
    const counts = new Map<RowKind, number>();
    for (let slot = 0; slot < this.keys.length; slot++) {
      const mark = this.marks[slot] as number;
      if (this.keys[slot] === 0 || mark & SEEN || (mark & WAS_GONE) !== (gone ? WAS_GONE : 0)) continue;
      const kind = rowKinds[mark & KIND] as RowKind;
      counts.set(kind, (counts.get(kind) ?? 0) + 1);
    }
    return counts;
  }

  /** Where a hash stands, or would: open addressing, never more than half full. */
  private slotOf(hash: number): number {
    const mask = this.keys.length - 1;
    let slot = (hash >>> 0) & mask;
    while (this.keys[slot] !== 0 && this.keys[slot] !== hash) slot = (slot + 1) & mask;
    return slot;
  }

  private grow() {
    const { keys, cells, marks } = this;
    this.keys = new Float64Array(keys.length * 2);
    this.cells = new Float64Array(keys.length * 2);
    this.marks = new Uint8Array(keys.length * 2);
    for (let at = 0; at < keys.length; at++) {
      const hash = keys[at] as number;
      if (hash === 0) continue;
      const slot = this.slotOf(hash);
      this.keys[slot] = hash;
      this.cells[slot] = cells[at] as number;
      this.marks[slot] = marks[at] as number;
    }
  }
}
