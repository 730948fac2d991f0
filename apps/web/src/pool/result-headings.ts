import { type ResultFigure, resultFigures } from '@sprig/core/learn';

const BEGIN = 'results:';

/** Figures of results are columns of the pool beside those that sheets were said to keep, under these headings. */
export const resultHeading = (figure: ResultFigure): string => `${BEGIN}${figure}`;

/** The figure that a heading stands for; null where it is that of a sheet. */
export const figureOfHeading = (heading: string): ResultFigure | null =>
  heading.startsWith(BEGIN)
    ? (resultFigures.find((figure) => figure === heading.slice(BEGIN.length)) ?? null)
    : null;
