import type { MatchType } from '../match/index.ts';
import type { ColumnRole } from './column-role.ts';
import { findHeader, rolesByHeading, rolesByShape, withKeyword } from './columns.ts';
import { columnMark, type DecimalMark, guessCurrency, guessScale } from './figure.ts';
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
  /** Lines, counted from 1, that are keywords though they look like a title, a heading or a total. */
  taken?: number[];
  /** Of a list without figures: whether commas part keywords, several to a line. */
  commasPart?: boolean;
  /** Whether `- ` at the beginning of a line is a bullet; else the line is a negative. */
  bullets?: boolean;
};

/** What has to be asked before a list goes in, since both readings stand. */
export type OpenQuestion = 'decimal' | 'bullets';

/** How the list was laid out, guessed or as decided. */
export type ListLayout = {
  delimiter: Delimiter | null;
  headerLine: number | null;
  headings: string[];
  roles: ColumnRole[];
  /** The mark of the list as a whole: what is shown, and what holds for columns that tell none. */
  decimal: DecimalMark;
  /** By column; each is read by its own. */
  decimals: DecimalMark[];
  /** Whether lines begin with bullets, which are no part of them. */
  bullets: boolean;
  /** Whether commas part keywords of one line. */
  commasPart: boolean;
  /** How many of the first lines hold keywords between commas: they are offered as keywords of their own. */
  commaLines: number;
  open: OpenQuestion[];
  /** The currency that the list's amounts name; null where they name none. */
  currency: string | null;
  /** What the competition column counts to. */
  scale: 1 | 100;
  samples: string[][];
};

const FIGURES: readonly ColumnRole[] = ['searches', 'cpc', 'competition'];

/** How lines are taken before columns are looked for. */
export type LinesLayout = Pick<ListLayout, 'bullets' | 'commasPart' | 'commaLines'> & {
  open: OpenQuestion[];
};

/** The layout of a list by its first records. */
export function layoutOf(
  records: readonly TextRecord[],
  delimiter: Delimiter | null,
  columns: number,
  lines: LinesLayout,
  options: ReadOptions,
): ListLayout {
  const found = options.headerLine === undefined ? records[findHeader(records)]?.line : options.headerLine;
  const headerLine = found !== undefined && options.taken?.includes(found ?? 0) ? null : (found ?? null);
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
  const cellsAt = (at: number) => body.map((record) => record.fields[at] ?? '');
  const cellsOf = (role: ColumnRole) => roles.flatMap((one, at) => (one === role ? cellsAt(at) : []));
  const marks = marksOf(roles, cellsAt, options.decimal);
  return {
    ...lines,
    delimiter,
    headerLine,
    headings,
    roles,
    decimal: marks.decimal,
    decimals: marks.decimals,
    open: marks.open ? [...lines.open, 'decimal'] : lines.open,
    currency: guessCurrency(headings[roles.indexOf('cpc')] ?? '', cellsOf('cpc')),
    scale: guessScale(cellsOf('competition')),
    samples: body.slice(0, 5).map((record) => record.fields.map((field) => field.slice(0, 80))),
  };
}

/** Decimal marks by column. A column that leaves it open follows one that tells; where none does, it is to be asked. */
function marksOf(
  roles: readonly ColumnRole[],
  cellsAt: (column: number) => string[],
  decided: DecimalMark | undefined,
): { decimal: DecimalMark; decimals: DecimalMark[]; open: boolean } {
  const marks = roles.map((role, at) =>
    FIGURES.includes(role) ? columnMark(cellsAt(at), role === 'searches') : null,
  );
  if (decided !== undefined)
    return {
      decimal: decided,
      // Searches are whole numbers: a mark before three figures parts thousands, whatever parts decimals.
      decimals: marks.map((mark, at) =>
        roles[at] === 'searches' && mark?.open === false ? mark.decimal : decided,
      ),
      open: false,
    };
  const sure = marks.find((mark) => mark !== null && !mark.open);
  const decimal = sure?.decimal ?? marks.find((mark) => mark !== null)?.decimal ?? '.';
  return {
    decimal,
    decimals: marks.map((mark) => (mark && !mark.open ? mark.decimal : decimal)),
    open: sure === undefined && marks.some((mark) => mark?.open),
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
