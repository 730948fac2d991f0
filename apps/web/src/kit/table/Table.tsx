import {
  type ColumnDef,
  columnOrderingFeature,
  columnResizingFeature,
  columnSizingFeature,
  columnVisibilityFeature,
  rowSortingFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { type MouseEvent, type ReactNode, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { copyCells } from '../clipboard.ts';
import { counted } from '../format.ts';
import type { TableColumn } from './column.ts';
import { Heading } from './Heading.tsx';
import { type Key, type RowSource, useRows } from './row-source.ts';
import type { Selection } from './selection.ts';
import { ROW_HEIGHT, TableRow } from './TableRow.tsx';
import { tableKeys } from './table-keys.ts';
import { type Filling, useFilling } from './use-filling.tsx';
import { useMarks } from './use-marks.ts';
import { gridOfColumns, LEAST_FREE, type Widths, within } from './widths.ts';

type Props<Row, K extends Key> = {
  label: string;
  columns: TableColumn<Row>[];
  source: RowSource<Row, K>;
  sort: { id: string; down: boolean };
  onSort: (id: string, down: boolean) => void;
  selection: Selection<K>;
  hidden?: readonly string[];
  /** The widths that were dragged, by column; without it they can't be. */
  widths?: { of: Widths; set: (widths: Widths) => void };
  dim?: (row: Row) => boolean;
  /** A single letter on the selection, or on the row of the cursor where nothing is selected. */
  actions?: Record<string, (keys: K[]) => void>;
  /** How cells are pasted and filled; without it the columns can't be changed that way. */
  filling?: Filling<Row>;
  empty: ReactNode;
};

const MOST_COPIED = 100_000;
const WIDEN = 16;
const features = tableFeatures({
  columnVisibilityFeature,
  columnOrderingFeature,
  columnSizingFeature,
  columnResizingFeature,
  rowSortingFeature,
});
const noWidths: Widths = {};

/** The application's table: any number of rows, each fetched when it comes into view. */
export function Table<Row extends object, K extends Key>(props: Props<Row, K>) {
  const {
    columns,
    source,
    sort,
    onSort,
    selection,
    hidden = [],
    widths,
    dim,
    actions = {},
    empty,
    label,
  } = props;
  const body = useRef<HTMLDivElement>(null);
  const head = useRef<HTMLDivElement>(null);
  const { cursor, goTo, extendTo } = useCursor(source, selection);
  const total = source.ids.length;
  const isEmpty = total === 0 && !source.loading;
  const virtual = useVirtualizer({
    count: total,
    getScrollElement: () => body.current,
    estimateSize: () => ROW_HEIGHT,
    overscan: 12,
  });
  const items = virtual.getVirtualItems();
  const from = items[0]?.index ?? 0;
  const rows = useRows(source, from, (items.at(-1)?.index ?? -1) + 1);
  const data = useMemo(() => rows.filter((row) => row !== undefined), [rows]);
  const definitions = useMemo(
    () =>
      columns.map(
        ({ id, heading, width }): ColumnDef<typeof features, Row> => ({
          id,
          header: heading,
          size: width ?? LEAST_FREE,
          accessorFn: () => null,
        }),
      ),
    [columns],
  );
  // While an edge is dragged the widths are the table's own; they are kept when it is let go.
  const [dragged, setDragged] = useState<Widths | null>(null);
  const sizing = dragged ?? widths?.of ?? noWidths;
  const table = useTable({
    features,
    columns: definitions,
    data,
    manualSorting: true,
    columnResizeMode: 'onChange',
    state: {
      columnVisibility: Object.fromEntries(hidden.map((id) => [id, false])),
      sorting: [{ id: sort.id, desc: sort.down }],
      columnSizing: sizing,
    },
    onColumnSizingChange: (change) =>
      setDragged((old) => (typeof change === 'function' ? change(old ?? sizing) : change)),
  });
  const isDragging = Boolean(table.state.columnResizing.isResizingColumn);
  const setWidths = widths?.set;
  useEffect(() => {
    if (isDragging || dragged === null) return;
    setWidths?.(Object.fromEntries(Object.entries(dragged).map(([id, width]) => [id, within(width)])));
    setDragged(null);
  }, [isDragging, dragged, setWidths]);

  const byId = new Map(columns.map((column) => [column.id, column]));
  const visible = table.getVisibleLeafColumns().flatMap(({ id }) => byId.get(id) ?? []);
  const { grid, least } = gridOfColumns(visible, sizing);
  const marks = useMarks(visible);

  const shownWidth = (id: string) =>
    head.current?.querySelector(`[data-heading=${JSON.stringify(id)}]`)?.getBoundingClientRect().width ??
    LEAST_FREE;
  /** An edge is dragged from where it is seen, also where the column took what was left. */
  const grab = (id: string, event: Event) => {
    const measured = { ...sizing, [id]: Math.round(shownWidth(id)) };
    setDragged(measured);
    table.setOptions((options) => ({ ...options, state: { ...options.state, columnSizing: measured } }));
    table
      .getFlatHeaders()
      .find((header) => header.column.id === id)
      ?.getResizeHandler()(event);
  };
  const setWidth = (id: string, width: number | null) => {
    const { [id]: _, ...others } = sizing;
    setWidths?.(width === null ? others : { ...others, [id]: within(width) });
  };

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
  const copy = async () => {
    const keys = chosen().slice(0, MOST_COPIED);
    if (keys.length === 0) return;
    const list = await source.fetchAll(keys);
    const isMarked = marks.columns.length > 0;
    const copied = isMarked ? marks.columns : visible;
    const cells = list.map((row) => copied.map((column) => column.text(row)));
    await copyCells(isMarked ? cells : [copied.map(({ heading }) => heading), ...cells]);
    toast(
      isMarked
        ? `Copied ${counted(list.length * copied.length, 'cell')}.`
        : `Copied ${counted(list.length, 'row')} with headings.`,
    );
  };
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
  // The column that one goes to comes into view.
  const edge = marks.columns.at(-1)?.id;
  useEffect(() => {
    if (edge !== undefined)
      body.current
        ?.querySelector(`[data-cursor] [data-column=${JSON.stringify(edge)}]`)
        ?.scrollIntoView({ inline: 'nearest', block: 'nearest' });
  }, [edge]);
  const isMarked = (index: number, isChosen: boolean) => (column: string) =>
    (selection.size > 0 ? isChosen : index === cursor) && marks.has(column);

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys of the grid inside, which takes the focus
    <div className="flex min-h-0 flex-1 flex-col" onKeyDown={onKeyDown} onPaste={onPaste}>
      <div
        role="grid"
        aria-label={label}
        aria-rowcount={total + 1}
        aria-multiselectable
        className={`flex min-h-0 flex-col ${isEmpty ? '' : 'flex-1'}`}
      >
        {/* The headings go along when the rows are moved sideways. */}
        <div
          ref={head}
          role="presentation"
          data-moves-along
          className="shrink-0 overflow-hidden border-hair border-b"
          onScroll={({ currentTarget }) => {
            // A heading that is reached by the keyboard brings its column with it.
            if (body.current) body.current.scrollLeft = currentTarget.scrollLeft;
          }}
        >
          <div
            role="row"
            className="grid text-[12px] text-faint"
            style={{ gridTemplateColumns: grid, minWidth: least }}
          >
            <div
              role="columnheader"
              className="sticky left-0 z-10 grid place-items-center self-stretch bg-base-100"
            >
              <input
                type="checkbox"
                className="checkbox checkbox-xs"
                aria-label="Select all rows"
                checked={total > 0 && selection.size === total}
                onChange={() => (selection.size === total ? selection.clear() : selection.all(source.ids))}
              />
            </div>
            {visible.map((column) => (
              <Heading
                key={column.id}
                column={column}
                sort={sort}
                onSort={onSort}
                isFirst={column === visible[0]}
                onGrab={widths && (({ nativeEvent }) => grab(column.id, nativeEvent))}
                onGiveBack={() => setWidth(column.id, null)}
              />
            ))}
          </div>
        </div>
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
                const press = (event: MouseEvent, toggles: boolean) => {
                  if (event.shiftKey) return extendTo(index);
                  goTo(index);
                  if (toggles) selection.toggle(index, source.ids);
                };
                return (
                  <TableRow
                    key={index}
                    row={row}
                    index={index}
                    start={start}
                    columns={visible}
                    grid={grid}
                    name={(row && columns[0]?.text(row)) ?? 'row'}
                    isChosen={isChosen}
                    isAtCursor={index === cursor}
                    isDim={Boolean(row && dim?.(row))}
                    isMarked={isMarked(index, isChosen)}
                    onPress={(event) => press(event, event.ctrlKey || event.metaKey)}
                    onCheck={(event) => {
                      event.stopPropagation();
                      press(event, true);
                    }}
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
        {marks.columns.length > 0 ? ` ${marks.columns.map(({ heading }) => heading).join(', ')} marked` : ''}
      </span>
      {sheet}
    </div>
  );
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
