import { type ToldFigure, toldFigures } from './told-figures.ts';

/** Rows by columns: which of an import's times each is of, which of the places, and its figures; NaN where none is told. */
export type FactColumns = {
  rows: number;
  time: Float64Array;
  place: Float64Array;
  /** null: no row tells it. */
  figures: Record<ToldFigure, Float64Array | null>;
};

const VERSION = 1;
/** Amounts are mostly whole cents and conversions whole: what they all are multiples of is told once. */
const UNITS = [1_000_000, 10_000, 1_000, 100, 1] as const;
/** Bytes a value, by the kind of its column. In kinds of whole numbers 0 is no value, and each else is one more than it is. */
const WIDTHS = [0, 1, 2, 4, 8] as const;
const DOUBLES = 4;
const HEAD = 5;
const COLUMN_HEAD = 5;

/** Packs rows in the least width that holds each of their columns. To be read by `unpackFacts` alone. */
export function packFacts(facts: FactColumns): Uint8Array {
  const columns = [facts.time, facts.place, ...toldFigures.map((name) => facts.figures[name])].map((values) =>
    packColumn(values, facts.rows),
  );
  const packed = new Uint8Array(HEAD + columns.reduce((sum, { length }) => sum + length, 0));
  const head = new DataView(packed.buffer);
  head.setUint8(0, VERSION);
  head.setUint32(1, facts.rows, true);
  let at = HEAD;
  for (const column of columns) {
    packed.set(column, at);
    at += column.length;
  }
  return packed;
}

function packColumn(values: Float64Array | null, rows: number): Uint8Array {
  const { kind, unit } = values ? kindOf(values, rows) : { kind: 0, unit: 1 };
  const width = WIDTHS[kind] ?? 0;
  const packed = new Uint8Array(COLUMN_HEAD + width * rows);
  const view = new DataView(packed.buffer);
  view.setUint8(0, kind);
  view.setUint32(1, unit, true);
  if (!values || kind === 0) return packed;
  if (kind === DOUBLES) {
    const doubles = values.slice(0, rows);
    packed.set(new Uint8Array(doubles.buffer), COLUMN_HEAD);
    return packed;
  }
  const codes = new (kind === 1 ? Uint8Array : kind === 2 ? Uint16Array : Uint32Array)(rows);
  for (let row = 0; row < rows; row++) {
    const value = values[row] as number;
    codes[row] = Number.isNaN(value) ? 0 : value / unit + 1;
  }
  packed.set(new Uint8Array(codes.buffer), COLUMN_HEAD);
  return packed;
}

function kindOf(values: Float64Array, rows: number): { kind: number; unit: number } {
  let most = -1;
  for (let row = 0; row < rows; row++) {
    const value = values[row] as number;
    if (Number.isNaN(value)) continue;
    if (value < 0 || !Number.isInteger(value)) return { kind: DOUBLES, unit: 1 };
    if (value > most) most = value;
  }
  if (most < 0) return { kind: 0, unit: 1 };
  const unit = UNITS.find((one) => isMultiple(values, rows, one)) ?? 1;
  const code = most / unit + 1;
  return { kind: code < 2 ** 8 ? 1 : code < 2 ** 16 ? 2 : code < 2 ** 32 ? 3 : DOUBLES, unit };
}

function isMultiple(values: Float64Array, rows: number, unit: number): boolean {
  for (let row = 0; row < rows; row++) {
    const value = values[row] as number;
    if (!Number.isNaN(value) && value % unit !== 0) return false;
  }
  return true;
}

type Packed = { bytes: Uint8Array; kind: number; unit: number };

/** What `packFacts` has packed, opened: its columns are unpacked one by one. */
export type OpenFacts = {
  rows: number;
  time: Float64Array;
  place: Float64Array;
  /** Unpacks a figure into a column, from `at` on; null where no row tells it. */
  figures: Record<ToldFigure, ((into: Float64Array, at: number) => void) | null>;
};

/** Opens what `packFacts` has packed. Throws a RangeError where it is anything else. O(rows). */
export function openFacts(packed: Uint8Array): OpenFacts {
  const view = new DataView(packed.buffer, packed.byteOffset, packed.byteLength);
  if (view.getUint8(0) !== VERSION) throw new RangeError('Rows of reports that are packed in another way.');
  const rows = view.getUint32(1, true);
  let at = HEAD;
  const next = (): Packed | null => {
    const kind = view.getUint8(at);
    const unit = view.getUint32(at + 1, true);
    const width = WIDTHS[kind];
    const start = at + COLUMN_HEAD;
    at = start + (width ?? 0) * rows;
    if (width === undefined || at > packed.length)
      throw new RangeError('Rows of reports that are cut short.');
    // A copy, so that wider values begin where they have to.
    return width === 0 ? null : { bytes: new Uint8Array(packed.subarray(start, at)), kind, unit };
  };
  const [time, place] = [next(), next()];
  if (rows > 0 && (!time || !place)) throw new RangeError('Rows of reports without a time or a place.');
  const figures = Object.fromEntries(
    toldFigures.map((name) => {
      const column = next();
      return [name, column && ((into: Float64Array, from: number) => unpackColumn(column, into, from))];
    }),
  ) as OpenFacts['figures'];
  const whole = (column: Packed | null) => {
    const values = new Float64Array(column ? rows : 0);
    if (column) unpackColumn(column, values, 0);
    return values;
  };
  return { rows, time: whole(time), place: whole(place), figures };
}

/** All columns of what `packFacts` has packed. Throws a RangeError where it is anything else. O(rows). */
export const unpackFacts = (packed: Uint8Array): FactColumns => wholeFacts(openFacts(packed));

/** All columns of what was opened. O(rows). */
export function wholeFacts({ rows, time, place, figures }: OpenFacts): FactColumns {
  const unpacked = Object.fromEntries(
    toldFigures.map((name) => {
      const column = figures[name] && new Float64Array(rows);
      if (column) figures[name]?.(column, 0);
      return [name, column];
    }),
  ) as FactColumns['figures'];
  return { rows, time, place, figures: unpacked };
}

function unpackColumn({ bytes, kind, unit }: Packed, into: Float64Array, at: number): void {
  if (kind === DOUBLES) {
    into.set(new Float64Array(bytes.buffer), at);
    return;
  }
  const codes =
    kind === 1 ? bytes : kind === 2 ? new Uint16Array(bytes.buffer) : new Uint32Array(bytes.buffer);
  for (let row = 0; row < codes.length; row++) {
    const code = codes[row] as number;
    into[at + row] = code === 0 ? Number.NaN : (code - 1) * unit;
  }
}
