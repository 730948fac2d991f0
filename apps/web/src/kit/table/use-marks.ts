import { useState } from 'react';
import type { TableColumn } from './column.ts';

/** The columns that are marked: from one to another, by their ids. */
type Range = { from: string; to: string };

export type Marks<Row> = {
  columns: readonly TableColumn<Row>[];
  has: (id: string) => boolean;
  /** Goes to the next column (`by` 1) or the one before (-1); `extend` keeps the other end where it is. */
  move: (by: number, extend: boolean) => void;
  clear: () => void;
};

/** Which columns of the rows in question are marked, to be copied, filled or pasted into; none at first. */
export function useMarks<Row>(visible: readonly TableColumn<Row>[]): Marks<Row> {
  const [range, setRange] = useState<Range | null>(null);
  const placeOf = (id: string) => visible.findIndex((column) => column.id === id);
  const from = range ? placeOf(range.from) : -1;
  const to = range ? placeOf(range.to) : -1;
  // A column that was hidden since is marked no longer.
  const columns = from < 0 || to < 0 ? [] : visible.slice(Math.min(from, to), Math.max(from, to) + 1);
  return {
    columns,
    has: (id) => columns.some((column) => column.id === id),
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
