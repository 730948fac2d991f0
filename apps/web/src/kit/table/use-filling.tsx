import { type ClipboardEvent, type ReactNode, useState } from 'react';
import { toast } from 'sonner';
import { counted } from '../format.ts';
import { inTextField } from '../keys.ts';
import { type Grid, gridOf, headingsIn, isGrid, type Placed, placeByName, placeFrom } from './cells.ts';
import type { Put, PutAnswer, TableColumn } from './column.ts';
import { PasteSheet } from './PasteSheet.tsx';
import type { Key, RowSource } from './row-source.ts';

/** At most so many cells go in at once. */
const MOST_CELLS = 100_000;
/** Rows that are looked through for those that pasted lines name. */
const MOST_NAMED = 20_000;

export type Filling<Row> = {
  /** Puts values in, as one change. */
  put: (puts: Put<Row>[]) => Promise<PutAnswer>;
  /** What is pasted while no cell is marked is not for the table. */
  onlyMarked?: boolean;
};

type At<Row, K extends Key> = {
  label: string;
  source: RowSource<Row, K>;
  visible: readonly TableColumn<Row>[];
  marked: readonly TableColumn<Row>[];
  /** The selected rows in their order. */
  selected: () => K[];
  cursor: number;
  filling: Filling<Row> | undefined;
};

type Headings<Row> = readonly (TableColumn<Row> | undefined)[];
type Target = { index: number; column: string };

/** Cells put into a table from the clipboard, or from a row into those selected below it. */
export function useFilling<Row extends object, K extends Key>(
  at: At<Row, K>,
): {
  onPaste: (event: ClipboardEvent) => void;
  fillDown: () => void;
  sheet: ReactNode;
} {
  const { label, source, visible, marked, selected, cursor, filling } = at;
  const [asked, setAsked] = useState<Placed<Row> | null>(null);

  const put = async ({ puts, same }: Placed<Row>): Promise<boolean> => {
    const answer = puts.length > 0 ? await filling?.put(puts) : undefined;
    if (answer && !answer.done) {
      toast.error(answer.words);
      return false;
    }
    if (answer?.words) toast.error(answer.words);
    else if (puts.length > 0) toast(`Put ${counted(puts.length, 'value')} in. Ctrl+Z takes it back.`);
    else if (same > 0) toast('All of it is there already.');
    return true;
  };
  /** At once where all of it can be put in where the user is looking; else what would happen is shown first. */
  const take = (placed: Placed<Row>, isNamed: boolean) => {
    if (placed.refused.length > 0 || (isNamed && placed.puts.length > 0)) setAsked(placed);
    else void put(placed);
  };

  const pasteNamed = async (grid: Grid, headings: Headings<Row>, name: TableColumn<Row>) => {
    const few = selected();
    const keys = few.length > 0 ? few : Array.from(source.ids);
    if (keys.length > MOST_NAMED)
      return void toast.error(
        `Lines find their rows by name among ${counted(MOST_NAMED, 'row')} at most. Filter the table or select rows first.`,
      );
    take(placeByName(grid, { rows: await source.fetchAll(keys), headings, name }), true);
  };

  const pasteFrom = async (lines: Grid, { index, column }: Target, headings: TableColumn<Row>[] | null) => {
    const few = selected();
    const grid = headings ? lines.slice(1) : lines;
    const intoSelected = few.length > 1 && (grid.length === 1 || grid.length === few.length);
    const below = Array.from({ length: grid.length }, (_, down) => source.ids[index + down]).filter(
      (key) => key !== undefined,
    );
    const rows = await source.fetchAll(intoSelected ? few : below);
    const columns = headings ?? visible.slice(visible.findIndex(({ id }) => id === column));
    take(placeFrom(grid, { rows, columns, width: marked.length, firstLine: headings ? 2 : 1 }), false);
  };

  const paste = async (text: string, target: Target | null) => {
    const grid = gridOf(text);
    const cells = grid.reduce((sum, row) => sum + row.length, 0);
    if (cells === 0) return;
    if (cells > MOST_CELLS)
      return void toast.error(
        `That is ${counted(cells, 'cell')}. Up to ${counted(MOST_CELLS, 'cell')} go in at once.`,
      );
    const headings = headingsIn(grid, visible);
    const name = visible[0];
    if (headings && name && headings.includes(name)) return pasteNamed(grid, headings, name);
    if (!target)
      return void toast(
        'Mark a cell first with ← or →: what is pasted goes from there to the right and down.',
      );
    return pasteFrom(grid, target, headings?.filter((column) => column !== undefined) ?? null);
  };

  const told = (error: unknown) => toast.error(error instanceof Error ? error.message : String(error));

  const onPaste = (event: ClipboardEvent) => {
    if (!filling || event.defaultPrevented) return;
    const text = event.clipboardData.getData('text/plain');
    const field = inTextField(event.target) ? cellOf(event.target as HTMLElement) : null;
    // One value belongs into the field that is open.
    if (inTextField(event.target) && (!field || !isGrid(text))) return;
    const column = marked[0]?.id;
    const target = field ?? (column === undefined ? null : { index: cursor, column });
    if (!target && filling.onlyMarked) return;
    event.preventDefault();
    event.stopPropagation();
    paste(text, target).catch(told);
  };

  const fill = async () => {
    const [first, ...others] = await source.fetchAll(selected());
    if (!first || others.length === 0 || marked.length === 0)
      return void toast(
        'Select rows, and mark a column with ← or →: its value in the first of them goes into the others.',
      );
    take(placeFrom([marked.map((column) => column.text(first))], { rows: others, columns: marked }), false);
  };

  return {
    onPaste,
    fillDown: () => void fill().catch(told),
    sheet: asked && (
      <PasteSheet
        placed={asked}
        into={label}
        nameOf={(row) => visible[0]?.text(row) ?? ''}
        onPut={() => put(asked)}
        onClose={() => setAsked(null)}
      />
    ),
  };
}

/** The cell of the table that an open field stands in. */
function cellOf(field: HTMLElement): Target | null {
  const column = field.closest<HTMLElement>('[data-column]')?.dataset.column;
  const index = field.closest<HTMLElement>('[data-index]')?.dataset.index;
  return column === undefined || index === undefined ? null : { index: Number(index), column };
}
