import { useMemo, useState } from 'react';
import type { TableColumn } from './column.ts';

/** The columns that are marked: from one to another, by their ids. */
type Range = { from: string; to: string };

export type Marks<Row> = {
  columns: readonly TableColumn<Row>[];
  /** Goes to the next column (`by` 1) or the one before (-1); `extend` keeps the other end where it is. */
  move: (by: number, extend: boolean) => void;
  clear: () => void;
};

/** Which columns of the rows in question are marked, to be copied, filled or pasted into; none at first. */
export function useMarks<Row>(visible: readonly TableColumn<Row>[]): Marks<Row> {
  const [range, setRange] = useState<Range | null>(null);
  const columns = useMemo(() => {
    const places = range
      ? [range.from, range.to].map((id) => visible.findIndex((one) => one.id === id))
      : [-1];
    // A column that was hidden since is marked no longer.
    return places.includes(-1) ? [] : visible.slice(Math.min(...places), Math.max(...places) + 1);
  }, [visible, range]);
  const to = range ? visible.findIndex(({ id }) => id === range.to) : -1;
  return {
    columns,
    move: (by, extend) => {
      const isNew = columns.length === 0;
      const next = isNew ? 0 : to + by;
      // To the left of the first column nothing is marked.
      if (next < 0 && !extend) return setRange(null);
      const id = visible[Math.max(0, Math.min(visible.length - 1, next))]?.id;
      if (id === undefined) return;
      setRange({ from: extend && range && !isNew ? range.from : id, to: id });
    },
    clear: () => setRange(null),
  };
}
