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
