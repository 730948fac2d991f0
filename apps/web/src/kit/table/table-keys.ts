import type { KeyboardEvent, RefObject } from 'react';
import type { ToldKeys } from '../commands.ts';
import { inTextField } from '../keys.ts';
import type { TableColumn } from './column.ts';
import type { Key, RowSource } from './row-source.ts';
import type { Selection } from './selection.ts';
import type { Marks } from './use-marks.ts';

/** The keys of every table, as they are told. */
export const toldTableKeys: ToldKeys = [
  ['j k or ↓ ↑', 'move'],
  ['Shift with them', 'select on the way'],
  ['x or Space', 'select the row'],
  ['Ctrl A', 'select all'],
  ['Enter or F2', 'edit the row'],
  ['← →, Shift with them', 'mark cells of the rows selected, or of this row'],
  ['Ctrl C', 'copy the selection with headings, or the marked cells'],
  ['Ctrl V', 'paste cells from the marked one on; lines with headings find their rows by name'],
  ['Ctrl D', 'fill down: the marked cells of the first selected row into the others'],
  ['Alt ← →', 'make the marked columns narrower or wider'],
];

type Keyed<Row, K extends Key> = {
  body: RefObject<HTMLElement | null>;
  source: RowSource<Row, K>;
  cursor: number;
  move: (to: number, extend: boolean) => void;
  selection: Selection<K>;
  marks: Marks<Row>;
  chosen: () => K[];
  copy: () => void;
  fillDown: () => void;
  /** Makes the marked columns wider or narrower by a step. */
  widen: (columns: readonly TableColumn<Row>[], by: 1 | -1) => void;
  actions: Record<string, (keys: K[]) => void>;
};

const PAGE = 20;

/** What the keys of a table do, wherever in it the focus is but in a field. */
export function tableKeys<Row, K extends Key>(at: Keyed<Row, K>): (event: KeyboardEvent) => void {
  const { body, source, cursor, move, selection, marks, chosen, copy, fillDown, widen, actions } = at;
  const last = source.ids.length - 1;
  const steps: Record<string, number> = {
    ArrowDown: cursor + 1,
    j: cursor + 1,
    ArrowUp: cursor - 1,
    k: cursor - 1,
    PageDown: cursor + PAGE,
    PageUp: cursor - PAGE,
    Home: 0,
    End: last,
  };
  const sides: Record<string, 1 | -1> = { ArrowRight: 1, ArrowLeft: -1 };

  const withControl = (key: string): boolean => {
    // Text that is marked with the mouse is copied by the browser.
    if (key === 'c' && !window.getSelection()?.toString()) copy();
    else if (key === 'a') selection.all(source.ids);
    else if (key === 'd') fillDown();
    else return false;
    return true;
  };
  const plain = ({ key, shiftKey }: KeyboardEvent): boolean => {
    const step = steps[key];
    const side = sides[key];
    if (step !== undefined) move(step, shiftKey);
    else if (side !== undefined) marks.move(side, shiftKey);
    else if (key === 'x' || key === ' ') selection.toggle(cursor, source.ids);
    else if (key === 'Escape' && marks.columns.length > 0) marks.clear();
    else if (key === 'Escape') selection.clear();
    else if (key === 'Enter' || key === 'F2') openField(body.current, cursor, marks.columns[0]?.id);
    else if (actions[key]) actions[key](chosen());
    else return false;
    return true;
  };

  return (event) => {
    if (inTextField(event.target)) return;
    const presses = event.key === 'Enter' || event.key === ' ';
    if (presses && event.target instanceof HTMLButtonElement) return;
    const side = sides[event.key];
    if (event.ctrlKey || event.metaKey) {
      if (!withControl(event.key)) return;
    } else if (event.altKey) {
      // The browser would go back a page.
      if (side === undefined || marks.columns.length === 0) return;
      widen(marks.columns, side);
    } else if (!plain(event)) return;
    event.preventDefault();
  };
}

/** Opens the field of a cell in the cursor's row, or the first that there is. */
function openField(body: HTMLElement | null, cursor: number, column: string | undefined) {
  const row = body?.querySelector(`[data-index="${cursor}"]`);
  const cell = column === undefined ? row : row?.querySelector(`[data-column=${JSON.stringify(column)}]`);
  cell?.querySelector<HTMLElement>('[data-edit]')?.click();
}
