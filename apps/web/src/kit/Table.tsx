import {
  type ColumnDef,
  columnOrderingFeature,
  columnVisibilityFeature,
  rowSortingFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { useVirtualizer } from '@tanstack/react-virtual';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { type KeyboardEvent, type ReactNode, useEffect, useMemo, useRef, useState } from 'react';
import { toast } from 'sonner';
import { copyCells } from './clipboard.ts';
import { counted } from './format.ts';
import { inTextField } from './keys.ts';
import { type Key, type RowSource, useRows } from './row-source.ts';
import type { Selection } from './selection.ts';

export type TableColumn<Row> = {
  id: string;
  heading: string;
  /** Pixels; one column without a width takes what is left. */
  width?: number;
  right?: boolean;
  sortable?: boolean;
  cell: (row: Row) => ReactNode;
  /** What is copied of it. */
  text: (row: Row) => string;
  hint?: string;
};

type Props<Row, K extends Key> = {
  label: string;
  columns: TableColumn<Row>[];
  source: RowSource<Row, K>;
  sort: { id: string; down: boolean };
  onSort: (id: string, down: boolean) => void;
  selection: Selection<K>;
  hidden?: readonly string[];
  dim?: (row: Row) => boolean;
  /** A single letter on the selection, or on the row of the cursor where nothing is selected. */
  actions?: Record<string, (keys: K[]) => void>;
  empty: ReactNode;
};

const ROW_HEIGHT = 30;
const MOST_COPIED = 100_000;
const features = tableFeatures({ columnVisibilityFeature, columnOrderingFeature, rowSortingFeature });

/** The application's table: any number of rows, each fetched when it comes into view. */
export function Table<Row extends object, K extends Key>(props: Props<Row, K>) {
  const { columns, source, sort, onSort, selection, hidden = [], dim, actions = {}, empty, label } = props;
  const body = useRef<HTMLDivElement>(null);
  const [cursor, setCursor] = useState(0);
  /** From where Shift selects: the row that was last gone to without it. */
  const anchor = useRef(0);
  const goTo = (index: number) => {
    setCursor(index);
    anchor.current = index;
  };
  const extendTo = (index: number) => {
    setCursor(index);
    selection.extend(anchor.current, index, source.ids);
  };
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
  const to = (items.at(-1)?.index ?? -1) + 1;
  const rows = useRows(source, from, to);
  const data = useMemo(() => rows.filter((row) => row !== undefined), [rows]);
  const definitions = useMemo(
    () =>
      columns.map(
        ({ id, heading }): ColumnDef<typeof features, Row> => ({
          id,
          header: heading,
          accessorFn: () => null,
        }),
      ),
    [columns],
  );
  const table = useTable({
    features,
    columns: definitions,
    data,
    manualSorting: true,
    state: {
      columnVisibility: Object.fromEntries(hidden.map((id) => [id, false])),
      sorting: [{ id: sort.id, desc: sort.down }],
    },
  });
  const byId = new Map(columns.map((column) => [column.id, column]));
  const visible = table.getVisibleLeafColumns().flatMap(({ id }) => byId.get(id) ?? []);
  const least = 34 + visible.reduce((sum, { width }) => sum + (width ?? 160), 0);
  const head = useRef<HTMLDivElement>(null);
  const grid = `34px ${visible.map(({ width }) => (width ? `${width}px` : 'minmax(160px, 1fr)')).join(' ')}`;

  useEffect(() => {
    if (cursor < total) return;
    setCursor(Math.max(0, total - 1));
    anchor.current = Math.max(0, total - 1);
  }, [cursor, total]);

  const keyAt = (index: number): K | undefined => source.ids[index];
  const move = (next: number, extend: boolean) => {
    const index = Math.max(0, Math.min(total - 1, next));
    virtual.scrollToIndex(index);
    if (extend) extendTo(index);
    else goTo(index);
  };
  const chosen = (): K[] => {
    if (selection.size > 0) return selection.listIn(source.ids);
    const key = keyAt(cursor);
    return key === undefined ? [] : [key];
  };
  const copy = async () => {
    const keys = chosen().slice(0, MOST_COPIED);
    if (keys.length === 0) return;
    const list = await source.fetchAll(keys);
    await copyCells([
      visible.map(({ heading }) => heading),
      ...list.map((row) => visible.map((column) => column.text(row))),
    ]);
    toast(`Copied ${counted(list.length, 'row')} with headings.`);
  };
  const onKeyDown = (event: KeyboardEvent) => {
    if (inTextField(event.target)) return;
    const presses = event.key === 'Enter' || event.key === ' ';
    if (presses && event.target instanceof HTMLButtonElement) return;
    if ((event.ctrlKey || event.metaKey) && event.key === 'c' && !window.getSelection()?.toString())
      void copy();
    else if ((event.ctrlKey || event.metaKey) && event.key === 'a') {
      event.preventDefault();
      selection.all(source.ids);
    } else if (event.ctrlKey || event.metaKey || event.altKey) return;
    else if (event.key === 'ArrowDown' || event.key === 'j') move(cursor + 1, event.shiftKey);
    else if (event.key === 'ArrowUp' || event.key === 'k') move(cursor - 1, event.shiftKey);
    else if (event.key === 'PageDown') move(cursor + 20, event.shiftKey);
    else if (event.key === 'PageUp') move(cursor - 20, event.shiftKey);
    else if (event.key === 'Home') move(0, event.shiftKey);
    else if (event.key === 'End') move(total - 1, event.shiftKey);
    else if (event.key === 'x' || event.key === ' ') selection.toggle(cursor, source.ids);
    else if (event.key === 'Escape') selection.clear();
    else if (event.key === 'Enter' || event.key === 'F2') editCursor(body.current, cursor);
    else if (actions[event.key]) actions[event.key]?.(chosen());
    else return;
    event.preventDefault();
  };

  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: keys of the grid inside, which takes the focus
    <div className="flex min-h-0 flex-1 flex-col" onKeyDown={onKeyDown}>
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
                const key = keyAt(index);
                const isChosen = key !== undefined && selection.has(key);
                return (
                  // biome-ignore lint/a11y/useKeyWithClickEvents: the grid as a whole answers the keyboard
                  <div
                    role="row"
                    key={index}
                    aria-rowindex={index + 2}
                    aria-selected={isChosen}
                    data-cursor={index === cursor || undefined}
                    data-index={index}
                    className={`absolute inset-x-0 grid items-center border-base-200 border-b ${isChosen ? 'bg-wash' : index === cursor ? 'bg-base-200' : 'bg-base-100'} ${row && dim?.(row) ? 'text-faint line-through decoration-1' : ''}`}
                    style={{
                      gridTemplateColumns: grid,
                      height: ROW_HEIGHT,
                      transform: `translateY(${start}px)`,
                    }}
                    onClick={(event) => {
                      if (event.shiftKey) return extendTo(index);
                      goTo(index);
                      if (event.ctrlKey || event.metaKey) selection.toggle(index, source.ids);
                    }}
                  >
                    <div
                      role="gridcell"
                      className="sticky left-0 z-10 grid h-full place-items-center bg-inherit"
                    >
                      <input
                        type="checkbox"
                        tabIndex={-1}
                        className="checkbox checkbox-xs"
                        aria-label={row ? `Select ${columns[0]?.text(row) ?? 'row'}` : 'Select row'}
                        checked={isChosen}
                        onClick={(event) => {
                          event.stopPropagation();
                          if (event.shiftKey) return extendTo(index);
                          goTo(index);
                          selection.toggle(index, source.ids);
                        }}
                        onChange={() => {}}
                      />
                    </div>
                    {visible.map((column, at) => (
                      <div
                        role="gridcell"
                        key={column.id}
                        className={`truncate px-2 ${column.right ? 'text-right' : ''} ${at === 0 ? 'sticky left-[34px] z-10 h-full bg-inherit leading-[29px]' : ''}`}
                        data-column={column.id}
                      >
                        {row ? column.cell(row) : <span className="text-hair">…</span>}
                      </div>
                    ))}
                  </div>
                );
              })}
            </div>
          </div>
        )}
      </div>
      {isEmpty && <div className="grid flex-1 place-items-center p-8">{empty}</div>}
      <span className="sr-only" aria-live="polite">
        {selection.size > 0 ? `${counted(selection.size, 'row')} selected` : ''}
      </span>
    </div>
  );
}

/** Opens the first field that can be edited in the cursor's row. */
function editCursor(body: HTMLElement | null, cursor: number) {
  body?.querySelector<HTMLElement>(`[data-index="${cursor}"] [data-edit]`)?.click();
}

function Heading<Row>({
  column,
  sort,
  onSort,
  isFirst,
}: {
  column: TableColumn<Row>;
  sort: { id: string; down: boolean };
  onSort: (id: string, down: boolean) => void;
  isFirst: boolean;
}) {
  const { id, heading, right, sortable, hint } = column;
  const active = sort.id === id;
  const Arrow = sort.down ? ArrowDown : ArrowUp;
  const order = active ? (sort.down ? 'descending' : 'ascending') : 'none';
  return (
    <div
      role="columnheader"
      aria-sort={sortable ? order : undefined}
      className={`px-2 py-1.5 ${right ? 'text-right' : ''} ${isFirst ? 'sticky left-[34px] z-10 bg-base-100' : ''}`}
      title={hint}
    >
      {sortable ? (
        <button
          type="button"
          className={`inline-flex items-center gap-1 hover:text-base-content ${active ? 'font-semibold text-base-content' : ''}`}
          onClick={() => onSort(id, active ? !sort.down : Boolean(right))}
        >
          {heading}
          {active && <Arrow size={12} aria-hidden />}
        </button>
      ) : (
        heading
      )}
    </div>
  );
}
