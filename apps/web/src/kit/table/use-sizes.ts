import {
  type ColumnDef,
  columnResizingFeature,
  columnSizingFeature,
  tableFeatures,
  useTable,
} from '@tanstack/react-table';
import { type RefObject, useEffect, useMemo, useState } from 'react';
import type { TableColumn } from './column.ts';
import { LEAST_FREE, type Widths, within } from './widths.ts';

/** The widths that are kept, by column, and how others are. */
export type KeptWidths = { of: Widths; set: (widths: Widths) => void };

const features = tableFeatures({ columnSizingFeature, columnResizingFeature });
const noWidths: Widths = {};
const noRows: never[] = [];

/** How wide columns are: as they are dragged, else as they are kept. `head` holds their headings. */
export function useSizes<Row extends object>(
  columns: readonly TableColumn<Row>[],
  widths: KeptWidths | undefined,
  head: RefObject<HTMLElement | null>,
) {
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
    data: noRows,
    columnResizeMode: 'onChange',
    state: { columnSizing: sizing },
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
  return { sizing, shownWidth, grab, setWidth };
}
