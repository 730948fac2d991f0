import { normalise } from '../text/index.ts';
import type { TextRecord } from './records.ts';

const HEADER_SEARCH = 15;

export const columnRoles = [
  'keyword',
  'searches',
  'cpc',
  'competition',
  'match-type',
  'extra',
  'skip',
] as const;
/** What a column of a pasted sheet holds. `extra` columns are kept as they are, under their heading. */
export type ColumnRole = (typeof columnRoles)[number];

/** Headings by which a column is known, in normal form. */
const SYNONYMS: Readonly<Record<Exclude<ColumnRole, 'extra' | 'skip'>, readonly string[]>> = {
  keyword: [
    'keyword',
    'keywords',
    'keyword text',
    'key phrase',
    'search term',
    'search terms',
    'query',
    'queries',
    'term',
    'phrase',
  ],
  searches: [
    'monthly searches',
    'searches',
    'avg. monthly searches',
    'avg monthly searches',
    'average monthly searches',
    'search volume',
    'volume',
    'monthly volume',
    'searches a month',
    'searches per month',
    'msv',
  ],
  cpc: [
    'cpc',
    'avg. cpc',
    'avg cpc',
    'average cpc',
    'cost per click',
    'cpc estimate',
    'estimated cpc',
    'est. cpc',
    'suggested bid',
    'cost/click',
  ],
  competition: ['competition', 'competition index', 'comp', 'comp.'],
  'match-type': ['match type', 'match', 'matching', 'match types', 'criterion type'],
};

const ROLE_OF = new Map<string, ColumnRole>();
for (const role of ['keyword', 'searches', 'cpc', 'competition', 'match-type'] as const)
  for (const name of SYNONYMS[role]) ROLE_OF.set(name, role);

/** `CPC (GBP)`, `Avg. monthly searches*` and `Searches:` are known by their bare heading. */
function roleOfHeading(heading: string): ColumnRole | undefined {
  const name = normalise(heading)
    .replace(/\s*[([].*$/, '')
    .replace(/[*:]+$/, '')
    .trim();
  return ROLE_OF.get(name);
}

/**
 * The first of the first 15 records that has a keyword column's heading, else the first that has another known heading
 * and nothing that looks like a figure; -1 where there is none.
 */
export function findHeader(records: readonly TextRecord[]): number {
  const first = records.slice(0, HEADER_SEARCH);
  const sure = first.findIndex(({ fields }) => fields.some((field) => roleOfHeading(field) === 'keyword'));
  if (sure >= 0) return sure;
  return first.findIndex(
    ({ fields }) =>
      fields.length > 1 &&
      fields.some((field) => roleOfHeading(field) !== undefined) &&
      !fields.some((field) => NUMBER_SHAPE.test(field.trim())),
  );
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
const MATCH_SHAPE = /^(?:broad|modified(?: broad)?|phrase|exact)$/i;

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

const TOTAL = /^(?:grand )?totals?\b|^sum$/;

/** A totals row: its keyword cell is empty or says total, and another cell holds a figure. */
export function isTotals(fields: readonly string[], keywordColumn: number): boolean {
  const keyword = normalise(fields[keywordColumn] ?? '');
  const hasFigure = fields.some((field, at) => at !== keywordColumn && /\d/.test(field));
  return hasFigure && (keyword === '' || TOTAL.test(keyword));
}
