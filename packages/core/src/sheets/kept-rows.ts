import { type CellValue, eachKind, type RowKind, rowKinds } from '../outlets/index.ts';
import {
  type CellRow,
  joinCells,
  KEY_GAP,
  placeWidth,
  type RowPlace,
  splitCells,
  type ToldValues,
} from './cells.ts';

/**
 * What an outlet has by a receipt: by each row's key its cells, with a mark before them. Rows that the plan has no more,
 * and of which the outlet was told, are marked as gone.
 */
export type Known = Map<string, string>;

const ROW_GAP = '\u001d';
const PART_GAP = '\u001e';
const STANDS = '.';
const GONE = 'x';
/** Instead of a mark before the key: a row that stands where the one before it does. */
const SHORT = '\u001c';

export const kindOfRow = (key: string): RowKind => key.slice(0, key.indexOf(KEY_GAP)) as RowKind;

/** Keys of extras that were kept when these had another name. */
const FORMER_KEY = `asset${KEY_GAP}`;
const presentKey = (key: string): string =>
  key.startsWith(FORMER_KEY) ? `extra${key.slice(FORMER_KEY.length - KEY_GAP.length)}` : key;

/** A row as it is known. */
export const knownRow = (cells: string, gone = false): string => (gone ? GONE : STANDS) + cells;
export const isGone = (known: string): boolean => known.startsWith(GONE);
export const cellsIn = (known: string): string => known.slice(1);

/** One row of what an outlet has, as it is kept. */
export const packRow = (key: string, known: string): string => key + PART_GAP + known + ROW_GAP;

/**
 * Packs rows one after another as they are kept. Of a keyword that stands where the row before it does, only its match type
 * and the cells behind those of its place are kept: half of the text. Parts begin with a row that says all.
 */
export class RowPacker {
  private place: RowPlace | null = null;

  /** What follows begins a part of its own. */
  begin(): void {
    this.place = null;
  }

  /** A row that the outlet has. */
  row(row: CellRow): string {
    const before = this.place;
    this.place = row.place;
    const short = row.place !== null && row.place === before ? row.short : null;
    return short === null
      ? packRow(row.key, knownRow(row.joined))
      : SHORT + short + PART_GAP + STANDS + row.rest + ROW_GAP;
  }

  /** One that is known as it was. */
  known(key: string, known: string): string {
    this.place = null;
    return packRow(key, known);
  }
}

/**
 * Reads what an outlet has, part by part, and hands each row on. `before`: the values that its cells stood for when it was
 * kept; they are put in the order in which they stand now, and what is told anew is empty. O(length).
 */
export class KnownReader {
  private rest = '';
  private readonly places: Partial<Record<RowKind, number[]>> = {};
  private readonly widths: Record<RowKind, number>;
  /** What short rows have before them: of the last row that says all, the beginning of its key and of its cells. */
  private keyPlace = '';
  private cellPlace = '';

  constructor(
    before: ToldValues,
    now: ToldValues,
    private readonly each: (key: string, known: string) => void,
  ) {
    this.widths = eachKind((kind) => placeWidth(before[kind]));
    for (const kind of rowKinds)
      if (before[kind].join() !== now[kind].join())
        this.places[kind] = now[kind].map((value: CellValue) => before[kind].indexOf(value));
  }

  take(part: string): void {
    const text = this.rest + part;
    let start = 0;
    for (let end = text.indexOf(ROW_GAP); end >= 0; end = text.indexOf(ROW_GAP, start)) {
      this.row(text, start, end);
      start = end + 1;
    }
    this.rest = text.slice(start);
  }

  /**
   * Hands on only rows of these numbers, in their order, of a part that begins with the row numbered `first`; answers the
   * place among them of the first that stands behind it.
   */
  pick(text: string, first: number, rows: Uint32Array, from: number): number {
    let place = from;
    let start = 0;
    /** The last row that says all, where it was not handed on. */
    let whole = -1;
    for (let row = first; place < rows.length; row++) {
      const end = text.indexOf(ROW_GAP, start);
      if (end < 0) break;
      const isShort = text.startsWith(SHORT, start);
      if (row === rows[place]) {
        if (isShort && whole >= 0) this.placeOf(text, whole);
        this.row(text, start, end);
        whole = -1;
        place++;
      } else if (!isShort) whole = start;
      start = end + 1;
    }
    return place;
  }

  private row(text: string, start: number, end: number) {
    const gap = text.indexOf(PART_GAP, start);
    if (!text.startsWith(SHORT, start)) {
      const key = presentKey(text.slice(start, gap));
      this.placeOf(text, start);
      this.each(key, this.moved(key, text.slice(gap + 1, end)));
      return;
    }
    const type = text.slice(start + SHORT.length, gap);
    const rest = text.slice(gap + 1 + STANDS.length, end);
    const cell = rest.indexOf(KEY_GAP);
    const key = this.keyPlace + type + KEY_GAP + (cell < 0 ? rest : rest.slice(0, cell));
    this.each(key, this.moved(key, knownRow(this.cellPlace + rest)));
  }

  /** Notes where a row stands that says all: its kind, campaign and ad group, and the cells of these. */
  private placeOf(text: string, start: number) {
    const gap = text.indexOf(PART_GAP, start);
    const key = endOf(text, start, KEY_PLACE);
    if (key > gap) return;
    this.keyPlace = text.slice(start, key);
    const cells = gap + 1 + STANDS.length;
    this.cellPlace = text.slice(cells, endOf(text, cells, this.widths[kindOfRow(this.keyPlace)]));
  }

  private moved(key: string, known: string): string {
    const places = this.places[kindOfRow(key)];
    if (!places) return known;
    const texts = splitCells(cellsIn(known));
    return knownRow(joinCells(places.map((at) => texts[at] ?? '')), isGone(known));
  }
}

/** Kind, campaign, ad group. */
const KEY_PLACE = 3;

/** Where so many fields end, with the gap behind them; beyond the text where there are fewer. */
function endOf(text: string, start: number, fields: number): number {
  let end = start;
  for (let field = 0; field < fields; field++) {
    const gap = text.indexOf(KEY_GAP, end);
    if (gap < 0) return Number.POSITIVE_INFINITY;
    end = gap + 1;
  }
  return end;
}
