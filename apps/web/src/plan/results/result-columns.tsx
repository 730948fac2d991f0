import type { ResultFigure } from '@sprig/core/learn';
import type { TableColumn } from '../../kit/table/column.ts';
import { figureAt, figureHeadings, figureText, figureWords, typedFigure } from './result-words.ts';
import type { Results, WithResults } from './use-results.ts';

const resultsIn = (row: object): Results | undefined => (row as WithResults).results;

/** Columns of results, behind those that a table has. */
export const resultColumns = <Row extends object>(figures: readonly ResultFigure[]): TableColumn<Row>[] =>
  figures.map((figure) => ({
    id: `result:${figure}`,
    heading: figureHeadings[figure],
    width: 96,
    right: true,
    hint: `Results: ${figureWords[figure]}, over the last range that reports tell`,
    text: (row) => {
      const results = resultsIn(row);
      const value = figureAt(figure, results?.figures ?? null);
      return value === null ? '' : typedFigure(figure, value);
    },
    cell: (row) => {
      const results = resultsIn(row);
      const value = figureAt(figure, results?.figures ?? null);
      return <span className="text-faint">{figureText(figure, value, results?.currency ?? '')}</span>;
    },
  }));

type Told<Row> = {
  id: string;
  heading: string;
  of: (row: Row) => number | null;
  width?: number;
  hint?: string;
};

/** A column of one figure of rows: read as it is anywhere, and copied as it is typed. */
export const figureColumn = <Row,>(
  figure: ResultFigure,
  currency: string,
  { of, width = 92, ...rest }: Told<Row>,
): TableColumn<Row> => ({
  ...rest,
  width,
  right: true,
  text: (row) => {
    const value = of(row);
    return value === null ? '' : typedFigure(figure, value);
  },
  cell: (row) => figureText(figure, of(row), currency),
});
