import { float64At, itemAt, uint8At, uint32At } from '../access/index.ts';
import { type RowKind, rowKinds } from '../outlets/index.ts';
import { hashOf } from '../text/index.ts';
import type { CellRow } from './cells.ts';
import { cellsIn, isGone, type Known, kindOfRow } from './kept-rows.ts';

const SEEN = 8;
const WAS_GONE = 16;
/** Another row of its kind has the same cells. */
const NOT_ALONE = 32;
const KIND = 7;
const FIRST_SIZE = 1_024;
/** Bytes of a row as it is packed: two hashes, its mark. */
const ROW_BYTES = 8 + 8 + 1;

/**
 * Rows as they are kept to be loaded again: campaigns whole, all rows as numbers, one plane after another, and the number
 * of the first row in each part of what is kept.
 */
export type PackedRows = { campaigns: [string, string][]; starts: number[]; rows: Uint8Array };

/** Rows that nobody has seen, of one kind: how many stand, and the numbers of these and of those that were gone before. */
export type Unseen = { standing: number; rows: Uint32Array };

/**
 * The rows that an outlet has, as numbers: hashes of keys and of cells, so that a million of them take some tens of MB.
 * Whether a row is known and the same is told at once; what it said is read again where it is needed, by the number of
 * the row. Campaigns are kept whole, since a budget may have to stay as it is. Two keys share a hash by chance once in
 * 9 × 10^15.
 */
export class KnownRows {
  readonly campaigns: Known = new Map();
  /** The number of the first row in each part. */
  readonly starts: number[] = [];
  size = 0;
  /** By row. */
  private keys: Float64Array;
  private cells: Float64Array;
  private marks: Uint8Array;
  /** Open addressing by the hash of a key, and by that of cells: a row's number and one, 0 where there is none. */
  private byKey: Uint32Array;
  private byCells: Uint32Array;

  /** `room`: for so many rows; more are taken too. */
  constructor(room = FIRST_SIZE) {
    const size = 2 ** Math.ceil(Math.log2(Math.max(FIRST_SIZE, room)));
    this.keys = new Float64Array(size);
    this.cells = new Float64Array(size);
    this.marks = new Uint8Array(size);
    this.byKey = new Uint32Array(size * 2);
    this.byCells = new Uint32Array(size * 2);
  }

  /** Rows as they come from a `KnownReader`, each key once; `part`: the part of what is kept in which it stands. */
  add(key: string, known: string, part: number): void {
    const kind = kindOfRow(key);
    if (kind === 'campaign') this.campaigns.set(key, known);
    if (part === this.starts.length) this.starts.push(this.size);
    const mark = rowKinds.indexOf(kind) | (isGone(known) ? WAS_GONE : 0);
    this.put(hashOf(key), hashOf(cellsIn(known)), mark);
  }

  private put(key: number, cells: number, mark: number) {
    if (this.size === this.keys.length) this.grow();
    const row = this.size++;
    this.keys[row] = key;
    this.cells[row] = cells;
    this.marks[row] = mark;
    this.index(row);
  }

  private index(row: number) {
    this.byKey[this.slotOfKey(float64At(this.keys, row))] = row + 1;
    const mark = uint8At(this.marks, row);
    if (mark & WAS_GONE) return;
    const slot = this.slotOfCells(float64At(this.cells, row), mark & KIND);
    const there = uint32At(this.byCells, slot);
    if (there === 0) this.byCells[slot] = row + 1;
    else this.marks[there - 1] = uint8At(this.marks, there - 1) | NOT_ALONE;
  }

  /** All of it, to be loaded again by `unpack`. */
  pack(): PackedRows {
    const { size } = this;
    const rows = new Uint8Array(size * ROW_BYTES);
    const view = new DataView(rows.buffer);
    for (let row = 0; row < size; row++) {
      view.setFloat64(row * 8, float64At(this.keys, row), true);
      view.setFloat64((size + row) * 8, float64At(this.cells, row), true);
      rows[size * 16 + row] = uint8At(this.marks, row) & (KIND | WAS_GONE);
    }
    return { campaigns: [...this.campaigns], starts: [...this.starts], rows };
  }

  static unpack({ campaigns, starts, rows }: PackedRows): KnownRows {
    const size = rows.length / ROW_BYTES;
    const known = new KnownRows(size);
    for (const [key, row] of campaigns) known.campaigns.set(key, row);
    known.starts.push(...starts);
    const view = new DataView(rows.buffer, rows.byteOffset, rows.byteLength);
    for (let row = 0; row < size; row++)
      known.put(
        view.getFloat64(row * 8, true),
        view.getFloat64((size + row) * 8, true),
        uint8At(rows, size * 16 + row),
      );
    return known;
  }

  /**
   * Whether the outlet has a row, and whether it says the same; the row counts as seen from then on. A row that says all
   * that another said is that one, whatever its key: to the outlet they are the same.
   */
  see(row: Pick<CellRow, 'kind' | 'key' | 'hash'>): 'new' | 'same' | 'differs' {
    if (this.size === 0) return 'new';
    const cells = row.hash;
    const alike = uint32At(this.byCells, this.slotOfCells(cells, rowKinds.indexOf(row.kind)));
    if (alike > 0 && (uint8At(this.marks, alike - 1) & (SEEN | NOT_ALONE)) === 0) {
      this.marks[alike - 1] = uint8At(this.marks, alike - 1) | SEEN;
      return 'same';
    }
    const known = this.rowOf(row.key);
    if (known < 0) return 'new';
    const mark = uint8At(this.marks, known);
    this.marks[known] = mark | SEEN;
    return (mark & WAS_GONE) === 0 && this.cells[known] === cells ? 'same' : 'differs';
  }

  isSeen(key: string): boolean {
    return (uint8At(this.marks, this.rowOf(key)) & SEEN) !== 0;
  }

  /** The number of a row that is known. */
  rowOf(key: string): number {
    return uint32At(this.byKey, this.slotOfKey(hashOf(key))) - 1;
  }

  /** The rows of each kind that nobody has seen. */
  unseen(): Map<RowKind, Unseen> {
    const found = new Map<RowKind, { standing: number; rows: number[] }>();
    for (let row = 0; row < this.size; row++) {
      const mark = uint8At(this.marks, row);
      if (mark & SEEN) continue;
      const kind = itemAt(rowKinds, mark & KIND);
      const own = found.get(kind) ?? { standing: 0, rows: [] };
      found.set(kind, own);
      if ((mark & WAS_GONE) === 0) own.standing++;
      own.rows.push(row);
    }
    return new Map(
      [...found].map(([kind, { standing, rows }]) => [kind, { standing, rows: Uint32Array.from(rows) }]),
    );
  }

  /** Where the row of a key's hash stands, or would; never more than half full. */
  private slotOfKey(hash: number): number {
    const mask = this.byKey.length - 1;
    let slot = (hash >>> 0) & mask;
    for (; ; slot = (slot + 1) & mask) {
      const row = uint32At(this.byKey, slot);
      if (row === 0 || this.keys[row - 1] === hash) return slot;
    }
  }

  private slotOfCells(hash: number, kind: number): number {
    const mask = this.byCells.length - 1;
    let slot = (hash >>> 0) & mask;
    for (; ; slot = (slot + 1) & mask) {
      const row = uint32At(this.byCells, slot);
      if (row === 0) return slot;
      if (this.cells[row - 1] === hash && (uint8At(this.marks, row - 1) & KIND) === kind) return slot;
    }
  }

  private grow() {
    const size = this.keys.length * 2;
    const { keys, cells, marks } = this;
    this.keys = new Float64Array(size);
    this.cells = new Float64Array(size);
    this.marks = new Uint8Array(size);
    this.keys.set(keys);
    this.cells.set(cells);
    this.marks.set(marks);
    this.byKey = new Uint32Array(size * 2);
    this.byCells = new Uint32Array(size * 2);
    for (let row = 0; row < this.size; row++) this.index(row);
  }
}
