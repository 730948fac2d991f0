import { ArrowDown, ArrowUp } from 'lucide-react';
import type { MouseEvent, TouchEvent } from 'react';
import type { TableColumn } from './column.ts';

export type Sorted = { id: string; down: boolean };
type Props<Row> = {
  column: TableColumn<Row>;
  sort: Sorted | undefined;
  onSort: ((id: string, down: boolean) => void) | undefined;
  isFirst: boolean;
  /** Moves the right edge with the pointer; undefined: it can't be moved. */
  onGrab: ((event: MouseEvent | TouchEvent) => void) | undefined;
  /** The column's own width again. */
  onGiveBack: () => void;
};

function orderOf(sort: Sorted | undefined, id: string): 'ascending' | 'descending' | 'none' {
  if (sort?.id !== id) return 'none';
  return sort.down ? 'descending' : 'ascending';
}

/** A column's heading: it orders the rows, and its right edge can be moved. */
export function Heading<Row>({ column, sort, onSort, isFirst, onGrab, onGiveBack }: Props<Row>) {
  const { id, heading, right, sortable, hint } = column;
  const active = sort?.id === id;
  const Arrow = sort?.down ? ArrowDown : ArrowUp;
  return (
    <div
      role="columnheader"
      aria-sort={sortable ? orderOf(sort, id) : undefined}
      data-heading={id}
      className={`relative px-2 py-1.5 ${right ? 'text-right' : ''} ${isFirst ? 'sticky left-[34px] z-10 bg-base-100' : ''}`}
      title={hint}
    >
      {sortable ? (
        <button
          type="button"
          className={`inline-flex items-center gap-1 hover:text-base-content ${active ? 'font-semibold text-base-content' : ''}`}
          onClick={() => onSort?.(id, active ? !sort.down : Boolean(right))}
        >
          {heading}
          {active && <Arrow size={12} aria-hidden />}
        </button>
      ) : (
        heading
      )}
      {onGrab && <Edge onGrab={onGrab} onGiveBack={onGiveBack} />}
    </div>
  );
}

/** The edge between two columns: dragged, or given back by a double click. Its keys are the table's. */
const Edge = ({ onGrab, onGiveBack }: Pick<Props<unknown>, 'onGrab' | 'onGiveBack'>) => (
  <span
    role="separator"
    aria-orientation="vertical"
    title="Drag to change the width; a double click gives it back"
    className="absolute inset-y-1 right-0 w-2 cursor-col-resize touch-none border-transparent border-r-2 hover:border-hair"
    onMouseDown={onGrab}
    onTouchStart={onGrab}
    onDoubleClick={onGiveBack}
  />
);
