import { type MouseEvent, memo } from 'react';
import type { TableColumn } from './column.ts';

export const ROW_HEIGHT = 30;

export type Press = (index: number, event: MouseEvent, toggles: boolean) => void;

type Props<Row> = {
  row: Row | undefined;
  index: number;
  /** Pixels from the top of all rows. */
  start: number;
  columns: readonly TableColumn<Row>[];
  grid: string;
  isChosen: boolean;
  isAtCursor: boolean;
  isDim: boolean;
  /** The columns whose cells are marked. */
  marked: readonly TableColumn<Row>[];
  /** The same function as long as the table is there. */
  onPress: Press;
};

const stateClass = (isChosen: boolean, isAtCursor: boolean): string => {
  if (isChosen) return 'bg-wash';
  return isAtCursor ? 'bg-base-200' : 'bg-base-100';
};

/** A row of a table, there while it is in view; drawn anew only when something of it changes. */
export const TableRow = memo(DrawnRow) as typeof DrawnRow;

function DrawnRow<Row>(props: Props<Row>) {
  const { row, index, start, columns, grid, isChosen, isAtCursor, isDim, marked, onPress } = props;
  const name = (row && columns[0]?.text(row)) ?? 'row';
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the grid as a whole answers the keyboard
    <div
      role="row"
      aria-rowindex={index + 2}
      aria-selected={isChosen}
      data-cursor={isAtCursor || undefined}
      data-index={index}
      className={`absolute inset-x-0 grid items-center border-base-200 border-b ${stateClass(isChosen, isAtCursor)} ${isDim ? 'text-faint line-through decoration-1' : ''}`}
      style={{ gridTemplateColumns: grid, height: ROW_HEIGHT, transform: `translateY(${start}px)` }}
      onClick={(event) => onPress(index, event, event.ctrlKey || event.metaKey)}
    >
      <div role="gridcell" className="sticky left-0 z-10 grid h-full place-items-center bg-inherit">
        <input
          type="checkbox"
          tabIndex={-1}
          className="checkbox checkbox-xs"
          aria-label={`Select ${name}`}
          checked={isChosen}
          onClick={(event) => {
            event.stopPropagation();
            onPress(index, event, true);
          }}
          onChange={() => {}}
        />
      </div>
      {columns.map((column, at) => (
        <div
          role="gridcell"
          key={column.id}
          className={`truncate px-2 ${column.right ? 'text-right' : ''} ${at === 0 ? 'sticky left-[34px] z-10 h-full bg-inherit leading-[29px]' : ''} ${marked.includes(column) ? 'cell-marked content-center self-stretch' : ''}`}
          data-column={column.id}
          data-marked={marked.includes(column) || undefined}
        >
          {row ? column.cell(row) : <span className="text-hair">…</span>}
        </div>
      ))}
    </div>
  );
}
