import { normalise } from '../text/index.ts';
import type { ColumnRole } from './column-role.ts';
import { isHeading, roleOfHeading } from './headings.ts';
import type { TextRecord } from './records.ts';

const HEADER_SEARCH = 15;

/**
 * The first of the first 15 records with two or more cells that are headings; else the very first record, if any of
 * its cells is one and none looks like a figure; -1 where there is none. A lone word that is also a heading, amid
 * others, is a keyword.
 */
export function findHeader(records: readonly TextRecord[]): number {
  const first = records.slice(0, HEADER_SEARCH);
  const sure = first.findIndex(({ fields }) => fields.filter(isHeading).length >= 2);
  if (sure >= 0) return sure;
  const [top] = first;
  const isOne =
    top?.fields.some((field) => roleOfHeading(field) !== undefined) === true &&
    !top.fields.some((field) => NUMBER_SHAPE.test(field.trim()));
  return isOne ? 0 : -1;
}

/** Roles by heading; each known role goes to its first column, the rest are extra. */
export function rolesByHeading(headings: readonly string[]): ColumnRole[] {
  const taken = new Set<ColumnRole>();
  return headings.map((heading) => {
    const role = roleOfHeading(heading);
    if (!role || taken.has(role)) return heading.trim() === '' ? 'skip' : 'extra';
    taken.add(role);
    return role;
  });
}

const MONEY_SHAPE = /^[^\d\p{L}]*\d+[.,]\d{1,2}[^\d\p{L}]*$/u;
const NUMBER_SHAPE = /^\W*\d[\d\s.,KkMm]*\D*$/;
const NO_FIGURE = /^[-–—]*$/;
const COMPETITION_SHAPE = /^(?:low|medium|high)$/i;
const MATCH_SHAPE = /^(?:broad|modified(?: broad)?|phrase|exact)(?: match)?$/i;

/** Where no heading is a keyword's, the first column of words under an unknown heading is taken for it. */
export function withKeyword(roles: ColumnRole[], records: readonly TextRecord[]): ColumnRole[] {
  if (roles.includes('keyword')) return roles;
  const shapes = rolesByShape(records, roles.length);
  const found = roles.findIndex((role, at) => (role === 'extra' || role === 'skip') && isWords(shapes[at]));
  return roles.map((role, at) => (at === found ? 'keyword' : role));
}

/** A second column of words is told apart from the first only by its place. */
const isWords = (shape: ColumnRole | undefined) => shape === 'keyword' || shape === 'extra';

/** Roles by what the cells look like, for a sheet without a header. */
export function rolesByShape(records: readonly TextRecord[], columns: number): ColumnRole[] {
  const sample = records.slice(0, 100);
  const taken = new Set<ColumnRole>();
  const claim = (role: ColumnRole): ColumnRole => {
    if (taken.has(role)) return 'extra';
    taken.add(role);
    return role;
  };
  return Array.from({ length: columns }, (_, column) => {
    const cells = sample
      .map((record) => (record.fields[column] ?? '').trim())
      .filter((cell) => !NO_FIGURE.test(cell));
    const share = (shape: RegExp) =>
      cells.filter((cell) => shape.test(cell)).length / Math.max(1, cells.length);
    if (cells.length === 0) return 'skip';
    if (share(MATCH_SHAPE) > 0.9) return claim('match-type');
    if (share(COMPETITION_SHAPE) > 0.9) return claim('competition');
    const hasSign = cells.some((cell) => /\p{Sc}/u.test(cell));
    if (share(NUMBER_SHAPE) < 0.8) return claim('keyword');
    return claim(hasSign || share(MONEY_SHAPE) > 0.5 ? 'cpc' : 'searches');
  });
}

/** The words of a total alone, in normal form. */
const TOTALS = new Set([
  ...['total', 'totals', 'sum', 'grand total', 'grand totals', 'subtotal', 'sub total', 'overall'],
  ...['gesamt', 'summe', 'gesamtsumme', 'totaux', 'somme', 'total general', 'suma', 'totale', 'somma'],
  ...['totaal', 'total geral', 'soma', 'razem', 'łącznie'],
]);

/** Whether a record may be a totals row by what stands in it: the word for a total alone, or no word, and a figure. */
export function mayBeTotals(fields: readonly string[], keywordColumn: number): boolean {
  const keyword = normalise(fields[keywordColumn] ?? '').replace(/:$/, '');
  const hasFigure = fields.some((field, at) => at !== keywordColumn && /\d/.test(field));
  return hasFigure && (keyword === '' || TOTALS.has(keyword));
}
