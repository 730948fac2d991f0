import type { ResultFigure } from '@sprig/core/learn';
import { figureAt, figureText, figureWords } from './result-words.ts';
import type { Results } from './use-results.ts';

type Props = {
  figures: readonly ResultFigure[];
  results: Results | undefined;
};

/** Results in a line: `1,204 impressions · CTR 3.4%`. */
export function ResultLine({ figures, results }: Props) {
  if (figures.length === 0) return null;
  if (!results) return <span>no results told</span>;
  return (
    <span>
      {figures
        .map((figure) => {
          const text = figureText(figure, figureAt(figure, results.figures), results.currency);
          return COUNTS.has(figure) ? `${text} ${figureWords[figure]}` : `${figureWords[figure]} ${text}`;
        })
        .join(' · ')}
    </span>
  );
}

const COUNTS: ReadonlySet<ResultFigure> = new Set(['impressions', 'clicks', 'conversions']);
