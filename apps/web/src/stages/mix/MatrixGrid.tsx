import type { Matrix } from '@sprig/core/mix';
import { useVirtualizer } from '@tanstack/react-virtual';
import { scaleSqrt } from 'd3';
import { type KeyboardEvent, type RefObject, useEffect, useMemo, useRef, useState } from 'react';
import { figuredText } from '../../kit/figured-text.ts';
import { counted, short } from '../../kit/format.ts';
import { orderOf, type Sums, sumsOf } from './matrix-sums.ts';

const HEAD = 158;
const NARROWEST = 82;
const WIDEST = 170;
const ROW = 28;

type GridProps = {
  matrix: Matrix;
  label: string;
  bySearches: boolean;
  /** Null: all of them. */
  onToggle: (row: number | null, column: number | null, cut: boolean) => Promise<void>;
};

/** The cells by row and column, with sums. Only what is in view is drawn. */
export function MatrixGrid({ matrix, label, bySearches, onToggle }: GridProps) {
  const box = useRef<HTMLDivElement>(null);
  const [cursor, setCursor] = useState({ row: 0, column: 0 });
  const { rowNames, columnNames } = matrix;
  const { rowSums, columnSums, most } = useMemo(() => sumsOf(matrix), [matrix]);
  const rowOrder = useMemo(() => orderOf(rowSums, bySearches), [rowSums, bySearches]);
  const columnOrder = useMemo(() => orderOf(columnSums, bySearches), [columnSums, bySearches]);
  const weight = useMemo(() => scaleSqrt<number, number>([0, Math.max(1, most)], [0, 46]), [most]);
  const width = useWidth(box);
  const cell = Math.max(NARROWEST, Math.min(WIDEST, Math.floor((width - HEAD - 40) / columnOrder.length)));
  const rows = useVirtualizer({
    count: rowOrder.length,
    getScrollElement: () => box.current,
    estimateSize: () => ROW,
    overscan: 10,
  });
  const columns = useVirtualizer({
    horizontal: true,
    count: columnOrder.length,
    getScrollElement: () => box.current,
    estimateSize: () => cell,
    overscan: 6,
  });
  // biome-ignore lint/correctness/useExhaustiveDependencies: what is measured is measured again when it is wider
  useEffect(() => columns.measure(), [cell]);
  useEffect(() => {
    setCursor((old) => ({
      row: Math.min(old.row, Math.max(0, rowOrder.length - 1)),
      column: Math.min(old.column, Math.max(0, columnOrder.length - 1)),
    }));
  }, [rowOrder.length, columnOrder.length]);
  const cellAt = (row: number, column: number): Sums => {
    const at = row * columnNames.length + column;
    return {
      combinations: matrix.combinations[at] as number,
      cut: matrix.cut[at] as number,
      searches: matrix.searches[at] as number,
      whole: 0,
    };
  };
  const toggle = (row: number | null, column: number | null, { combinations, cut }: Sums) => {
    if (combinations > 0) void onToggle(row, column, cut < combinations);
  };
  const move = (byRow: number, byColumn: number) => {
    const next = {
      row: Math.max(0, Math.min(rowOrder.length - 1, cursor.row + byRow)),
      column: Math.max(0, Math.min(columnOrder.length - 1, cursor.column + byColumn)),
    };
    setCursor(next);
    rows.scrollToIndex(next.row);
    columns.scrollToIndex(next.column);
  };
  const row = rowOrder[cursor.row] as number;
  const column = columnOrder[cursor.column] as number;
  const onKeyDown = gridKeys(move, {
    cell: () => toggle(row, column, cellAt(row, column)),
    row: () => toggle(row, null, rowSums[row] as Sums),
    column: () => toggle(null, column, columnSums[column] as Sums),
  });
  const nameOf = (name: string | null) => name ?? '(left out)';
  const total = rowSums.reduce((sum, { searches }) => sum + searches, 0);
  return (
    <div className="relative min-h-0 flex-1">
      <div
        ref={box}
        role="grid"
        aria-label={label}
        aria-rowcount={rowOrder.length + 1}
        aria-colcount={columnOrder.length + 1}
        tabIndex={0}
        className="absolute inset-0 overflow-auto border-hair border-t px-4"
        onKeyDown={onKeyDown}
      >
        <div
          className="relative"
          style={{ width: HEAD + columns.getTotalSize(), height: 40 + rows.getTotalSize() }}
        >
          <Heads
            total={total}
            width={HEAD + columns.getTotalSize()}
            cell={cell}
            heads={columns.getVirtualItems().map(({ index, start }) => {
              const place = columnOrder[index] as number;
              return {
                place,
                start,
                name: nameOf(columnNames[place] ?? null),
                sums: columnSums[place] as Sums,
              };
            })}
            onToggle={(place, sums) => toggle(null, place, sums)}
          />
          {rows.getVirtualItems().map(({ index, start }) => {
            const row = rowOrder[index] as number;
            const sums = rowSums[row] as Sums;
            const name = nameOf(rowNames[row] ?? null);
            return (
              <div
                role="row"
                key={row}
                aria-rowindex={index + 2}
                className="absolute left-0"
                style={{ top: 40 + start, height: ROW, width: HEAD + columns.getTotalSize() }}
              >
                <div role="rowheader" className="sticky left-0 z-10 bg-base-100" style={{ width: HEAD }}>
                  <SumButton
                    name={name}
                    sums={sums}
                    letter="r"
                    className="h-[27px] items-center justify-between gap-2 px-1"
                    onClick={() => toggle(row, null, sums)}
                  />
                </div>
                {columns.getVirtualItems().map((column) => {
                  const place = columnOrder[column.index] as number;
                  const isCursor = index === cursor.row && column.index === cursor.column;
                  return (
                    <Cell
                      key={place}
                      words={`${name}, ${nameOf(columnNames[place] ?? null)}`}
                      cell={cellAt(row, place)}
                      unknown={matrix.unknown[row * columnNames.length + place] as number}
                      isEstimated={(matrix.estimated[row * columnNames.length + place] as number) > 0}
                      weight={weight}
                      isCursor={isCursor}
                      left={HEAD + column.start}
                      width={cell}
                      onClick={() => {
                        setCursor({ row: index, column: column.index });
                        toggle(row, place, cellAt(row, place));
                      }}
                    />
                  );
                })}
              </div>
            );
          })}
        </div>
      </div>
    </div>
  );
}

const toggleWords = (name: string, { combinations, cut }: Sums): string =>
  cut < combinations
    ? `Cut ${counted(combinations - cut, 'combination')} with ${name}`
    : `Put back ${counted(cut, 'combination')} with ${name}`;

type CellProps = {
  words: string;
  cell: Sums;
  unknown: number;
  /** Nobody told all of its figures. */
  isEstimated: boolean;
  weight: (searches: number) => number;
  isCursor: boolean;
  left: number;
  width: number;
  onClick: () => void;
};

function Cell({ words, cell, unknown, isEstimated, weight, isCursor, left, width, onClick }: CellProps) {
  const { combinations, cut, searches } = cell;
  const isCut = combinations > 0 && cut === combinations;
  const isKnown = unknown < combinations - cut;
  const shown = figuredText(searches, isEstimated ? 'estimated' : 'told');
  const kept = isKnown ? shown : '–';
  const made = isCut ? 'cut' : kept;
  const figure = combinations === 0 ? '' : made;
  const partly = cut > 0 ? `${cut} of ${combinations} cut` : counted(combinations, 'combination');
  const state = isCut ? 'cut' : partly;
  const told = isCut ? state : `${isKnown ? `${shown} searches` : 'no figure'}, ${state}`;
  return (
    // biome-ignore lint/a11y/useKeyWithClickEvents: the grid as a whole answers the keyboard
    <div
      role="gridcell"
      aria-label={`${words}: ${combinations === 0 ? 'nothing made' : told}`}
      aria-selected={isCursor}
      data-cut={isCut || undefined}
      title={`${words}: ${state}${isKnown && unknown > 0 ? `, ${unknown} of them without a figure` : ''}${isEstimated ? ', estimated from what is told' : ''}`}
      className={`absolute top-0 flex cursor-pointer items-center justify-end rounded-[4px] px-1.5 ${isCut ? 'matrix-cut text-faint' : ''} ${isCursor ? 'outline-2 outline-primary' : ''}`}
      style={{
        left,
        width: width - 2,
        height: ROW - 2,
        ...(isCut || combinations === 0
          ? {}
          : {
              backgroundColor: `color-mix(in oklch, var(--color-primary) ${weight(searches).toFixed(1)}%, var(--color-base-200))`,
            }),
      }}
      onClick={onClick}
    >
      <span className={isEstimated && !isCut ? 'text-faint' : ''}>{figure}</span>
      {cut > 0 && !isCut && (
        <span
          aria-hidden
          className="absolute top-0 left-0 border-t-[7px] border-r-[7px] border-t-base-content/50 border-r-transparent"
        />
      )}
    </div>
  );
}

/** How wide an element is, in pixels. */
function useWidth(element: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useEffect(() => {
    const box = element.current;
    if (!box) return;
    const watch = new ResizeObserver(() => setWidth(box.clientWidth));
    watch.observe(box);
    return () => watch.disconnect();
  }, [element]);
  return width;
}

type SumProps = {
  name: string;
  sums: Sums;
  /** The key that does the same to what the cursor is in. */
  letter: string;
  className: string;
  onClick: () => void;
};

/** The head of a row or a column with its sum: it cuts all of it, or puts it back. */
const SumButton = ({ name, sums, letter, className, onClick }: SumProps) => (
  <button
    type="button"
    tabIndex={-1}
    aria-label={toggleWords(name, sums)}
    title={`${toggleWords(name, sums)} (${letter})`}
    className={`flex w-full rounded hover:bg-base-200 ${className} ${sums.cut === sums.combinations && sums.cut > 0 ? 'text-faint line-through' : ''}`}
    onClick={onClick}
  >
    <span className={`max-w-full truncate ${letter === 'v' ? 'font-medium text-[12.5px]' : ''}`}>{name}</span>
    <span className="shrink-0 text-[11.5px] text-faint">{short(sums.searches)}</span>
  </button>
);

type Toggles = { cell: () => void; row: () => void; column: () => void };

/** What the keys do in a matrix: arrows go from cell to cell, letters cut or put back. */
const gridKeys =
  (move: (byRow: number, byColumn: number) => void, toggle: Toggles) =>
  (event: KeyboardEvent): void => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const { key } = event;
    if (key === 'ArrowDown' || key === 'j') move(1, 0);
    else if (key === 'ArrowUp' || key === 'k') move(-1, 0);
    else if (key === 'ArrowRight') move(0, 1);
    else if (key === 'ArrowLeft') move(0, -1);
    else if (key === 'c' || key === ' ' || key === 'Enter') toggle.cell();
    else if (key === 'r') toggle.row();
    else if (key === 'v') toggle.column();
    else return;
    event.preventDefault();
  };

type HeadsProps = {
  /** Searches of all of it. */
  total: number;
  /** Pixels, of all columns and of one. */
  width: number;
  cell: number;
  heads: readonly { place: number; start: number; name: string; sums: Sums }[];
  onToggle: (place: number, sums: Sums) => void;
};

/** The columns by name, each with its sum. */
const Heads = ({ total, width, cell, heads, onToggle }: HeadsProps) => (
  <div role="row" className="sticky top-0 z-20 bg-base-100" style={{ height: 40, width }}>
    <div
      role="columnheader"
      className="sticky left-0 z-10 grid content-center bg-base-100 text-[12px] text-faint"
      style={{ width: HEAD, height: 40 }}
    >
      {short(total)} searches
    </div>
    {heads.map(({ place, start, name, sums }) => (
      <div
        role="columnheader"
        key={place}
        className="absolute top-0"
        style={{ left: HEAD + start, width: cell, height: 40 }}
      >
        <SumButton
          name={name}
          sums={sums}
          letter="v"
          className="h-full flex-col items-end justify-center px-1.5 leading-4"
          onClick={() => onToggle(place, sums)}
        />
      </div>
    ))}
  </div>
);
