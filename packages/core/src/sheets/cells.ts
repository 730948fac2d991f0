import { itemAt } from '../access/index.ts';
import {
  type CellValue,
  columnOf,
  eachKind,
  type KeywordSheetRow,
  moneyWriter,
  type NegativeSheetRow,
  placeValues,
  type RowKind,
  type SheetRow,
  valuesOfKind,
} from '../columns/index.ts';
import { kindsOf, type Outlet } from '../outlets/index.ts';
import { type HashLanes, hashLanes, hashOf, hashOfAll } from '../text/index.ts';

export type CellContext = { outlet: Outlet; decimals: number };

/** What writes the cells of each value at an outlet; it is made once for many rows. */
export function cellWriter({
  outlet,
  decimals,
}: CellContext): (value: CellValue) => (row: SheetRow) => string {
  const writing = { rules: outlet, money: moneyWriter(outlet, decimals) };
  return (value) => columnOf(value).write(writing);
}

/**
 * What is one row to an outlet, whatever the plan calls it: two rows of the same key are the same keyword, ad or campaign
 * there. Fields are kept apart by a character that no text holds.
 */
export function keyOf(row: SheetRow): string {
  switch (row.kind) {
    case 'campaign':
      return join('campaign', row.campaign);
    case 'group':
      return join('group', row.campaign, row.group);
    case 'keyword':
    case 'negative':
      return [placeOf(row), row.type, withoutControls(row.text)].join(KEY_GAP);
    case 'ad':
      return join(
        'ad',
        row.campaign,
        row.group,
        row.form,
        row.finalUrl,
        ...Object.entries(row.texts)
          .filter(([, text]) => text !== '')
          .sort(([a], [b]) => (a < b ? -1 : 1))
          .map(([field, text]) => `${field}=${text}`),
      );
    case 'extra':
      return join('extra', row.campaign, row.group, ...Object.values(row.extra));
  }
}

type PlacedRow = { kind: RowKind; campaign: string; group: string };

let lastPlace: { kind: string; campaign: string; group: string; key: string } | null = null;

/** The beginning of a row's key. Rows of one place come one after another, so the last one is remembered. */
function placeOf({ kind, campaign, group }: KeywordSheetRow | NegativeSheetRow): string {
  if (lastPlace?.kind === kind && lastPlace.group === group && lastPlace.campaign === campaign)
    return lastPlace.key;
  lastPlace = { kind, campaign, group, key: join(kind, campaign, group) };
  return lastPlace.key;
}

/** Between two fields of a key. */
export const KEY_GAP = '\u001f';
const join = (...fields: string[]): string => fields.map(withoutControls).join(KEY_GAP);

/** Control characters but for tabs and line ends are spaces: no sheet carries them. Most texts have none: told by one scan. */
const PLAIN = /^[ -~]*$/;
const CONTROLS = /(?![\t\n\r])\p{Cc}/u;
const ALL_CONTROLS = new RegExp(CONTROLS, 'gu');
const withoutControls = (text: string): string =>
  PLAIN.test(text) || !CONTROLS.test(text) ? text : text.replace(ALL_CONTROLS, ' ');

/**
 * Where rows stand that come one after another: the beginning of their keys and of their cells, which all of them share.
 * Two rows are of one place if they have the same of these.
 */
export class RowPlace {
  private begun: HashLanes | null = null;

  constructor(
    readonly kind: RowKind,
    readonly campaign: string,
    readonly group: string,
    /** How many cells are the place's. */
    readonly width: number,
    /** These cells joined, and a gap behind them. */
    readonly cells: string,
  ) {}

  /** Where the hash of its rows stands before the rest of their cells. */
  get lanes(): HashLanes {
    this.begun ??= hashLanes(this.cells);
    return this.begun;
  }
}

/** A row as an outlet gets it: a text for each of the values that its sheets tell of such rows. */
export interface CellRow {
  readonly kind: RowKind;
  readonly key: string;
  readonly cells: string[];
  /** null: `rest` has all of its cells. */
  readonly place: RowPlace | null;
  /** The cells behind those of its place, joined. */
  readonly rest: string;
  /** All of its cells, joined. */
  readonly joined: string;
  /** The hash of all its cells as they are joined. */
  readonly hash: number;
  /** Of a keyword whose text is the first cell behind its place, its match type: its key says no more than this. */
  readonly short: string | null;
}

/** A row that an outlet has, by its key. */
export class KeyedRow implements CellRow {
  readonly place = null;
  readonly short = null;

  constructor(
    readonly kind: RowKind,
    readonly key: string,
    readonly cells: string[],
  ) {}

  get rest(): string {
    return joinCells(this.cells);
  }

  get joined(): string {
    return this.rest;
  }

  get hash(): number {
    return hashOf(this.rest);
  }
}

/** Its key and its joined cells are made when they are asked for: most rows are the same as before, which is known without them. */
class MadeRow implements CellRow {
  readonly kind: RowKind;
  private made: string | null = null;

  constructor(
    private readonly row: SheetRow,
    readonly cells: string[],
    readonly place: RowPlace | null,
  ) {
    this.kind = row.kind;
  }

  get key(): string {
    this.made ??= keyOf(this.row);
    return this.made;
  }

  get rest(): string {
    return joinCells(this.cells, this.place?.width ?? 0);
  }

  /** Joined as one piece: it is kept by those who ask for it. */
  get joined(): string {
    return this.cells.join(KEY_GAP);
  }

  get hash(): number {
    const { cells, place } = this;
    return place ? hashOfAll(place.lanes, cells, place.width, KEY_GAP) : hashOfAll(START, cells, 0, KEY_GAP);
  }

  get short(): string | null {
    const { row, place, cells } = this;
    const isShort =
      place !== null &&
      (row.kind === 'keyword' || row.kind === 'negative') &&
      cells[place.width] === row.text;
    return isShort ? row.type : null;
  }
}

const START = hashLanes('');

/** Twice as fast as `join`, which matters with a million rows. */
export function joinCells(cells: readonly string[], from = 0): string {
  let joined = cells[from] ?? '';
  for (let at = from + 1; at < cells.length; at++) joined += KEY_GAP + cells[at];
  return joined;
}
export const splitCells = (cells: string): string[] => cells.split(KEY_GAP);

/** How many of the values that are told first say where a row stands; at least one is left behind them. */
export function placeWidth(values: readonly CellValue[]): number {
  let width = 0;
  while (width < values.length - 1 && placeValues.has(itemAt(values, width))) width++;
  return width;
}

/** The values that an outlet's sheets tell of each kind of row, each once. */
export type ToldValues = Record<RowKind, readonly CellValue[]>;

export const toldValues = (outlet: Pick<Outlet, 'sheets'>): ToldValues =>
  eachKind((kind) => [
    ...new Set(
      outlet.sheets
        .filter((sheet) => kindsOf(sheet).includes(kind))
        .flatMap(({ columns }) => columns.map(({ value }) => value))
        .filter((value) => value !== 'fixed' && valuesOfKind[kind].includes(value)),
    ),
  ]);

/** Makes rows into the texts of their cells, once for all sheets, in the order of `values`. */
export class CellMaker {
  readonly values: ToldValues;

  private readonly writers: Record<RowKind, ((row: SheetRow) => string)[]>;
  private readonly outlet: Outlet;
  private place: RowPlace | null = null;
  /** Most cells say what the row before says. */
  private readonly last = eachKind(() => ({ cells: [] as string[], carried: [] as string[] }));

  constructor(context: CellContext) {
    this.outlet = context.outlet;
    this.values = toldValues(context.outlet);
    this.writers = eachKind((kind) => this.values[kind].map(cellWriter(context)));
  }

  of(row: SheetRow): CellRow {
    const writers = this.writers[row.kind];
    const place = 'group' in row && row.kind !== 'group' ? this.placeAt(row) : null;
    const cells: string[] = [];
    const last = this.last[row.kind];
    let at = 0;
    for (const write of writers) {
      const cell = write(row);
      let carried = last.carried[at];
      if (carried === undefined || last.cells[at] !== cell) {
        carried = withoutControls(cell);
        last.cells[at] = cell;
        last.carried[at] = carried;
      }
      cells.push(carried);
      at++;
    }
    return new MadeRow(row, cells, place);
  }

  /** Rows of one place come one after another, so the last one is remembered; null where its cells do not stand first. */
  private placeAt({ kind, campaign, group }: PlacedRow): RowPlace | null {
    const { place } = this;
    if (place?.kind === kind && place.group === group && place.campaign === campaign) return place;
    const width = placeWidth(this.values[kind]);
    if (width === 0) return null;
    const texts = { 'row-kind': this.outlet.words.rowKinds[kind], campaign, group };
    const cells = this.values[kind].slice(0, width).map((value) => texts[value as keyof typeof texts]);
    this.place = new RowPlace(kind, campaign, group, width, join(...cells, ''));
    return this.place;
  }

  /** Where a value stands in the cells of a kind of row; -1 where it is not told. */
  placeOf(kind: RowKind, value: CellValue): number {
    return this.values[kind].indexOf(value);
  }
}
