import { useVirtualizer } from '@tanstack/react-virtual';
import {
  type ReactNode,
  type RefObject,
  useCallback,
  useDeferredValue,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
} from 'react';
import { toast } from 'sonner';
import { copyCells } from '../clipboard.ts';
import { counted } from '../format.ts';
import type { TableColumn } from './column.ts';
import type { Sorted } from './Heading.tsx';
import { Heads } from './Heads.tsx';
import { type Key, type RowSource, useRows } from './row-source.ts';
import type { Selection } from './selection.ts';
import { type Press, ROW_HEIGHT, TableRow } from './TableRow.tsx';
import { tableKeys } from './table-keys.ts';
import { type Filling, useFilling } from './use-filling.tsx';
import { useMarks } from './use-marks.ts';
import { type KeptWidths, useSizes } from './use-sizes.ts';
import { gridOfColumns } from './widths.ts';

type Props<Row, K extends Key> = {
  label: string;
  columns: TableColumn<Row>[];
  source: RowSource<Row, K>;
  /** What the rows are in the order of, where columns are sortable. */
  sort?: Sorted;
  onSort?: (id: string, down: boolean) => void;
  selection: Selection<K>;
  hidden?: readonly string[];
  /** The widths that were dragged, by column; without it they can't be. */
  widths?: KeptWidths;
  dim?: (row: Row) => boolean;
  /** A single letter on the selection, or on the row of the cursor where nothing is selected. */
  actions?: Record<string, (keys: K[]) => void>;
  /** How cells are pasted and filled; without it the columns can't be changed that way. */
  filling?: Filling<Row>;
  empty: ReactNode;
};

const MOST_COPIED = 100_000;
const WIDEN = 16;
const none: readonly string[] = [];

/** The application's table: any number of rows, each fetched when it comes into view. */
export function Table<Row extends object, K extends Key>(props: Props<Row, K>) {
  const { columns, sort, onSort, selection, hidden = none, widths, dim, actions = {}, empty, label } = props;
  // Rows that came are drawn bit by bit: meanwhile keys go on into the field that filters them.
  const source = useDeferredValue(props.source);
  const body = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const { cursor, goTo, extendTo } = useCursor(source, selection);
  const total = source.ids.length;
  const isEmpty = total === 0 && !source.loading;
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => body.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 8,
  });
  const items = virtual.getVirtualItems();
  const from = items[0]?.index ?? 0;
  const rows = useRows(source, from, (items.at(-1)?.index ?? -1) + 1);
  const { sizing, shownWidth, grab, setWidth } = useSizes(columns, widths, head);
  const visible = useMemo(() => columns.filter(({ id }) => !hidden.includes(id)), [columns, hidden]);
  const { grid, least } = gridOfColumns(visible, sizing);
  const marks = useMarks(visible);

  const move = (next: number, extend: boolean) => {
    const index = Math.max(0, Math.min(total - 1, next));
    virtual.scrollToIndex(index);
    if (extend) extendTo(index);
    else goTo(index);
  };
  const chosen = (): K[] => {
    if (selection.size > 0) return selection.listIn(source.ids);
    const key = source.ids[cursor];
    return key === undefined ? [] : [key];
  };
  const copy = () => copyRows(source, chosen().slice(0, MOST_COPIED), marks.columns, visible);
  const { onPaste, fillDown, sheet } = useFilling({
    label,
    source,
    visible,
    marked: marks.columns,
    selected: () => selection.listIn(source.ids),
    cursor,
    filling: props.filling,
  });
  const onKeyDown = tableKeys({
    body,
    source,
    cursor,
    move,
    selection,
    marks,
    chosen,
    copy: () => void copy(),
    fillDown,
    widen: (some, by) => {
      for (const { id } of some) setWidth(id, shownWidth(id) + by * WIDEN);
    },
    actions,
  });
  useInView(body, marks.columns.at(-1)?.id);
  const isMarked = (index: number, isChosen: boolean) => (selection.size > 0 ? isChosen : index === cursor);
  const press: Press = (index, event, toggles) => {
    if (event.shiftKey) return extendTo(index);
    goTo(index);
    if (toggles) selection.toggle(index, source.ids);
  };
  const onPress = useSame(press);

  return (
    <>
      {/* biome-ignore lint/a11y/noStaticElementInteractions: keys of the grid inside, which takes the focus */}
      <div className="flex min-h-0 flex-1 flex-col" onKeyDown={onKeyDown} onPaste={onPaste}>
        <div
          role="grid"
          aria-label={label}
          aria-rowcount={total + 1}
          aria-multiselectable
          className={`flex min-h-0 flex-col ${isEmpty ? '' : 'flex-1'}`}
        >
          <Heads
            ref={head}
            body={body}
            columns={visible}
            grid={grid}
            least={least}
            sort={sort}
            onSort={onSort}
            isAll={total > 0 && selection.size === total}
            onAll={() => (selection.size === total ? selection.clear() : selection.all(source.ids))}
            onGrab={widths && grab}
            onGiveBack={(id) => setWidth(id, null)}
          />
          {!isEmpty && (
            <div
              ref={body}
              role="rowgroup"
              className="min-h-0 flex-1 overflow-auto"
              tabIndex={0}
              data-table-body
              onScroll={({ currentTarget }) => {
                if (head.current) head.current.scrollLeft = currentTarget.scrollLeft;
              }}
            >
              <div
                role="presentation"
                className="relative"
                style={{ height: virtual.getTotalSize(), minWidth: least }}
              >
                {items.map(({ index, start }) => {
                  const row = rows[index - from];
                  const key = source.ids[index];
                  const isChosen = key !== undefined && selection.has(key);
                  return (
                    <TableRow
                      key={index}
                      row={row}
                      index={index}
                      start={start}
                      columns={visible}
                      grid={grid}
                      isChosen={isChosen}
                      isAtCursor={index === cursor}
                      isDim={Boolean(row && dim?.(row))}
                      marked={isMarked(index, isChosen) ? marks.columns : noMarks}
                      onPress={onPress}
                    />
                  );
                })}
              </div>
            </div>
          )}
        </div>
        {isEmpty && <div className="grid flex-1 place-items-center p-8">{empty}</div>}
        <span className="sr-only" aria-live="polite">
          {selection.size > 0 ? `${counted(selection.size, 'row')} selected` : ''}
          {marks.columns.length > 0
            ? ` ${marks.columns.map(({ heading }) => heading).join(', ')} marked`
            : ''}
        </span>
      </div>
      {/* Its keys are its own, not the table's. */}
      {sheet}
    </>
  );
}

const noMarks: [] = [];

/** A function that stays the same between renders, and does what the newest does. */
function useSame<A extends unknown[]>(run: (...args: A) => void): (...args: A) => void {
  const now = useRef(run);
  useLayoutEffect(() => {
    now.current = run;
  });
  return useCallback((...args: A) => now.current(...args), []);
}

/** The row that the keys are at, and the one that Shift selects from: the last that was gone to without it. */
function useCursor<Row, K extends Key>(source: RowSource<Row, K>, selection: Selection<K>) {
  const [cursor, setCursor] = useState(0);
  const anchor = useRef(0);
  const total = source.ids.length;
  useEffect(() => {
    if (cursor < total) return;
    setCursor(Math.max(0, total - 1));
    anchor.current = Math.max(0, total - 1);
  }, [cursor, total]);
  return {
    cursor,
    goTo: (index: number) => {
      setCursor(index);
      anchor.current = index;
    },
    extendTo: (index: number) => {
      setCursor(index);
      selection.extend(anchor.current, index, source.ids);
    },
  };
}

/** Copies rows with headings, or of them the cells that are marked. */
async function copyRows<Row, K extends Key>(
  source: RowSource<Row, K>,
  keys: K[],
  marked: readonly TableColumn<Row>[],
  visible: readonly TableColumn<Row>[],
): Promise<void> {
  if (keys.length === 0) return;
  const list = await source.fetchAll(keys);
  const isMarked = marked.length > 0;
  const copied = isMarked ? marked : visible;
  const cells = list.map((row) => copied.map((column) => column.text(row)));
  await copyCells(isMarked ? cells : [copied.map(({ heading }) => heading), ...cells]);
  toast(
    isMarked
      ? `Copied ${counted(list.length * copied.length, 'cell')}.`
      : `Copied ${counted(list.length, 'row')} with headings.`,
  );
}

/** The column that one goes to comes into view. */
function useInView(body: RefObject<HTMLElement | null>, edge: string | undefined): void {
  useEffect(() => {
    if (edge !== undefined)
      body.current
        ?.querySelector(`[data-cursor] [data-column=${JSON.stringify(edge)}]`)
        ?.scrollIntoView({ inline: 'nearest', block: 'nearest' });
  }, [body, edge]);
}
