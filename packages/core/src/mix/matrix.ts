import { float64At, int32At, itemAt, numberAt, uint32At } from '../access/index.ts';
import type { CompiledPattern, CompiledSlot } from './compile.ts';
import type { Mixture } from './mix.ts';

/** Two lists against each other; of the others only combinations with the given entry, null: where it is left out. */
export type MatrixView = {
  rows: number;
  columns: number;
  rest: readonly { list: number; entry: number | null }[];
};

/** Sums of the combinations in which an entry of one list meets one of the other, row by row. */
export type Matrix = {
  /** What each row and column is called; the last is "left out" where a slot of the list is optional. */
  rowNames: (string | null)[];
  columnNames: (string | null)[];
  combinations: Uint32Array;
  cut: Uint32Array;
  /** Searches of those that are not cut and have a figure. */
  searches: Float64Array;
  /** Searches of those that are cut. */
  cutSearches: Float64Array;
  /** How many that are not cut have no figure, and how many have one that nobody told. */
  unknown: Uint32Array;
  estimated: Uint32Array;
  /** Combinations of patterns that have not both lists. */
  elsewhere: number;
};

/** How an option of a slot is read out of a place: `(rest / stride) % size`. */
type Reader = { slot: CompiledSlot; stride: number; flipped: number };
type Condition = Reader & { entry: number | null };
type Readers = { rows: Reader; columns: Reader; rest: Condition[] };

function readersOf(pattern: CompiledPattern, view: MatrixView): Readers | null {
  const { slots } = pattern;
  const readerOf = (list: number): Reader | null => {
    const at = slots.findIndex((slot) => slot.list === list);
    const slot = slots[at];
    if (!slot) return null;
    const product = (some: readonly CompiledSlot[]) => some.reduce((all, { size }) => all * size, 1);
    return { slot, stride: product(slots.slice(at + 1)), flipped: product(slots.slice(0, at)) };
  };
  const rows = readerOf(view.rows);
  const columns = readerOf(view.columns);
  if (!rows || !columns || rows.slot === columns.slot) return null;
  const rest: Condition[] = [];
  for (const { list, entry } of view.rest) {
    const reader = readerOf(list);
    if (reader) rest.push({ ...reader, entry });
    else if (entry !== null) return null;
  }
  return { rows, columns, rest };
}

/**
 * Visits every combination that is in the view, by its place in `made`, with its row and its column; answers how many
 * are not. Leaving out is the row or column after the last entry. O(made).
 */
export function visitMatrix(
  mixture: Mixture,
  view: MatrixView,
  visit: (at: number, row: number, column: number) => void,
): number {
  let elsewhere = 0;
  let at = 0;
  mixture.compiled.patterns.forEach((pattern, place) => {
    const base = numberAt(mixture.bases, place);
    const end = at + numberAt(mixture.madeBy, place);
    const readers = readersOf(pattern, view);
    if (!readers) {
      elsewhere += end - at;
      at = end;
      return;
    }
    const rowEnd = entriesOf(mixture, view.rows);
    const columnEnd = entriesOf(mixture, view.columns);
    for (; at < end; at++) {
      let rest = uint32At(mixture.made, at) - base;
      const flipped = rest >= pattern.once;
      if (flipped) rest -= pattern.once;
      if (!readers.rest.every((one) => entryOf(one, rest, flipped) === (one.entry ?? -1))) continue;
      const row = entryOf(readers.rows, rest, flipped);
      const column = entryOf(readers.columns, rest, flipped);
      visit(at, row < 0 ? rowEnd : row, column < 0 ? columnEnd : column);
    }
  });
  return elsewhere;
}

function entryOf({ slot, stride, flipped }: Reader, rest: number, isFlipped: boolean): number {
  const option = Math.floor(rest / (isFlipped ? flipped : stride)) % slot.size;
  return int32At(slot.entries, option);
}

const entriesOf = ({ compiled }: Mixture, list: number): number =>
  compiled.lists.find(({ id }) => id === list)?.words.entries.length ?? 0;

/** The matrix of a view. `searchesOf` gives -1 where there is no figure; `isCut` by the place in `made`. */
export function matrixOf(
  mixture: Mixture,
  view: MatrixView,
  searchesOf: (at: number) => number,
  isCut: (at: number) => boolean,
  isTold: (at: number) => boolean = () => true,
): Matrix {
  const rowNames = namesOf(mixture, view.rows);
  const columnNames = namesOf(mixture, view.columns);
  const size = rowNames.length * columnNames.length;
  const matrix: Matrix = {
    rowNames,
    columnNames,
    combinations: new Uint32Array(size),
    cut: new Uint32Array(size),
    searches: new Float64Array(size),
    cutSearches: new Float64Array(size),
    unknown: new Uint32Array(size),
    estimated: new Uint32Array(size),
    elsewhere: 0,
  };
  matrix.elsewhere = visitMatrix(mixture, view, (at, row, column) => {
    const cell = row * columnNames.length + column;
    const searches = searchesOf(at);
    matrix.combinations[cell] = uint32At(matrix.combinations, cell) + 1;
    if (isCut(at)) {
      matrix.cut[cell] = uint32At(matrix.cut, cell) + 1;
      matrix.cutSearches[cell] = float64At(matrix.cutSearches, cell) + Math.max(0, searches);
    } else if (searches < 0) matrix.unknown[cell] = uint32At(matrix.unknown, cell) + 1;
    else {
      matrix.searches[cell] = float64At(matrix.searches, cell) + searches;
      if (!isTold(at)) matrix.estimated[cell] = uint32At(matrix.estimated, cell) + 1;
    }
  });
  return matrix;
}

/** The entries of a list, and null at the end where a pattern may leave it out. */
function namesOf({ compiled }: Mixture, list: number): (string | null)[] {
  const names = compiled.lists.find(({ id }) => id === list)?.words.entries ?? [];
  const mayBeNothing = compiled.patterns.some(({ slots }) =>
    slots.some((slot) => slot.list === list && slot.optional),
  );
  return mayBeNothing ? [...names, null] : [...names];
}

/** What each entry of a list brings over all combinations that hold it. */
export type EntryWeights = { list: number; combinations: Uint32Array; searches: Float64Array };

/** The searches that each entry of each list brings; those without a figure count as none. O(made × slots). */
export function entryWeights(
  mixture: Mixture,
  searchesOf: (at: number) => number,
  isCut: (at: number) => boolean,
): EntryWeights[] {
  const weights = new Map(
    mixture.compiled.lists.map(({ id, words }) => [
      id,
      {
        list: id,
        combinations: new Uint32Array(words.entries.length),
        searches: new Float64Array(words.entries.length),
      },
    ]),
  );
  let at = 0;
  mixture.compiled.patterns.forEach((pattern, place) => {
    const base = numberAt(mixture.bases, place);
    const end = at + numberAt(mixture.madeBy, place);
    for (; at < end; at++) {
      if (isCut(at)) continue;
      let rest = uint32At(mixture.made, at) - base;
      const flipped = rest >= pattern.once;
      if (flipped) rest -= pattern.once;
      const searches = Math.max(0, searchesOf(at));
      for (let step = pattern.slots.length - 1; step >= 0; step--) {
        const slot = itemAt(pattern.slots, flipped ? pattern.slots.length - 1 - step : step);
        const next = Math.floor(rest / slot.size);
        const entry = int32At(slot.entries, rest - next * slot.size);
        rest = next;
        const weight = slot.list === null || entry < 0 ? undefined : weights.get(slot.list);
        if (!weight) continue;
        weight.combinations[entry] = uint32At(weight.combinations, entry) + 1;
        weight.searches[entry] = float64At(weight.searches, entry) + searches;
      }
    }
  });
  return [...weights.values()];
}
