import type { TableColumn } from './column.ts';

export type Widths = Record<string, number>;

const LEAST = 48;
const MOST = 1_200;
/** The column that takes what is left is never narrower, unless it is made so. */
export const LEAST_FREE = 160;
const CHECK = 34;

export const within = (width: number): number => Math.round(Math.max(LEAST, Math.min(MOST, width)));

/** The grid of a row: what was dragged, else a column's own width, else what is left. */
export function gridOfColumns<Row>(columns: readonly TableColumn<Row>[], widths: Widths) {
  const widthOf = ({ id, width }: TableColumn<Row>) =>
    widths[id] === undefined ? width : within(widths[id]);
  const parts = columns.map((column) => {
    const width = widthOf(column);
    return width === undefined ? `minmax(${LEAST_FREE}px, 1fr)` : `${width}px`;
  });
  const least = columns.reduce((sum, column) => sum + (widthOf(column) ?? LEAST_FREE), CHECK);
  // Without a column that takes it, what is left stays empty at the end.
  const rest = columns.every((column) => widthOf(column) !== undefined) ? ' 1fr' : '';
  return { grid: `${CHECK}px ${parts.join(' ')}${rest}`, least };
}
