import type { MatchType } from '../match/index.ts';
import { type ColumnRole, findHeader, rolesByHeading, rolesByShape, withKeyword } from './columns.ts';
import { type DecimalMark, guessCurrency, guessDecimal, guessScale } from './figure.ts';
import type { Delimiter, TextRecord } from './records.ts';

/** What the user may decide about a list instead of the guess. */
export type ReadOptions = {
  /** null: one keyword a line. */
  delimiter?: Delimiter | null;
  /** The header's line, counted from 1; null: there is none. */
  headerLine?: number | null;
  roles?: ColumnRole[];
  decimal?: DecimalMark;
  takeOutNotAllowed?: boolean;
  /** The match type of lines that carry no notation. */
  askedAs?: MatchType | null;
  /** What amounts are multiplied by, in millionths: 1,000,000 leaves them as they are. */
  rate?: number;
};

/** How the list was laid out, guessed or as decided. */
export type ListLayout = {
  delimiter: Delimiter | null;
  headerLine: number | null;
  headings: string[];
  roles: ColumnRole[];
  decimal: DecimalMark;
  /** The currency that the list's amounts name; null where they name none. */
  currency: string | null;
  /** What the competition column counts to. */
  scale: 1 | 100;
  samples: string[][];
};

const FIGURE_SAMPLE = 500;

/** The layout of a list by its first records. */
export function layoutOf(
  records: readonly TextRecord[],
  delimiter: Delimiter | null,
  columns: number,
  options: ReadOptions,
): ListLayout {
  const found = options.headerLine === undefined ? records[findHeader(records)]?.line : options.headerLine;
  const headerLine = found ?? null;
  const header = records.find((record) => record.line === headerLine);
  const body = headerLine === null ? records : records.filter((record) => record.line > headerLine);
  const width = Math.max(columns, header?.fields.length ?? 0);
  const headings = Array.from({ length: width }, (_, at) => (header?.fields[at] ?? '').trim());
  const guessed = header
    ? withKeyword(rolesByHeading(headings), body)
    : width === 1
      ? (['keyword'] as ColumnRole[])
      : rolesByShape(body, width);
  const roles = headings.map((_, at) => options.roles?.[at] ?? guessed[at] ?? 'skip');
  const cellsOf = (...wanted: ColumnRole[]) => {
    const places = roles.flatMap((role, at) => (wanted.includes(role) ? [at] : []));
    return body.slice(0, FIGURE_SAMPLE).flatMap((record) => places.map((at) => record.fields[at] ?? ''));
  };
  return {
    delimiter,
    headerLine,
    headings,
    roles,
    decimal: options.decimal ?? guessDecimal(cellsOf('searches', 'cpc', 'competition')),
    currency: guessCurrency(headings[roles.indexOf('cpc')] ?? '', cellsOf('cpc')),
    scale: guessScale(cellsOf('competition')),
    samples: body.slice(0, 5).map((record) => record.fields.map((field) => field.slice(0, 80))),
  };
}

/** What tells one kind of file from another, so that what was picked for it can be remembered: its headings. */
export const layoutName = ({
  headings,
  headerLine,
}: Pick<ListLayout, 'headings' | 'headerLine'>): string | null =>
  headerLine === null || headings.length < 2
    ? null
    : headings
        .map((heading) => heading.toLowerCase())
        .join('|')
        .slice(0, 400);
