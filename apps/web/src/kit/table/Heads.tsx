import type { Ref, RefObject } from 'react';
import type { TableColumn } from './column.ts';
import { Heading, type Sorted } from './Heading.tsx';

type Props<Row> = {
  ref: Ref<HTMLDivElement>;
  /** What the headings move sideways with. */
  body: RefObject<HTMLElement | null>;
  columns: readonly TableColumn<Row>[];
  grid: string;
  /** Pixels. */
  least: number;
  sort: Sorted | undefined;
  onSort: ((id: string, down: boolean) => void) | undefined;
  isAll: boolean;
  onAll: () => void;
  /** Undefined: widths can't be changed. */
  onGrab: ((column: string, event: Event) => void) | undefined;
  onGiveBack: (column: string) => void;
};

/** The headings of a table, with a box for all its rows; they go along when the rows are moved sideways. */
export function Heads<Row>(props: Props<Row>) {
  const { ref, body, columns, grid, least, sort, onSort, isAll, onAll, onGrab, onGiveBack } = props;
  return (
    <div
      ref={ref}
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
            checked={isAll}
            onChange={onAll}
          />
        </div>
        {columns.map((column) => (
          <Heading
            key={column.id}
            column={column}
            sort={sort}
            onSort={onSort}
            isFirst={column === columns[0]}
            onGrab={onGrab && (({ nativeEvent }) => onGrab(column.id, nativeEvent))}
            onGiveBack={() => onGiveBack(column.id)}
          />
        ))}
      </div>
    </div>
  );
}
