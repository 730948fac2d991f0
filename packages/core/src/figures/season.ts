import { countAt, itemAt, numberAt } from '../access/index.ts';
import { normalise } from '../text/index.ts';

/** Languages whose names of months are known, as headings of sheets are. */
const LANGUAGES = ['en', 'de', 'fr', 'es', 'it', 'nl', 'pt', 'pl'];
export const MONTHS = 12;
const WHOLE = 10_000;

/** Which month's searches are forecast (1 to 12), and what each has of a mean month's, in basis points. */
export type Season = { month: number; parts: number[]; keywords: number };

const monthOf = new Map<string, number>();
for (const language of LANGUAGES)
  for (const style of ['long', 'short'] as const) {
    const names = new Intl.DateTimeFormat(language, { month: style, timeZone: 'UTC' });
    for (let month = 0; month < MONTHS; month++) {
      const name = normalise(names.format(Date.UTC(2_001, month, 15)).replaceAll('.', ''));
      if (!monthOf.has(name)) monthOf.set(name, month + 1);
    }
  }

/** Words that a heading of a month may have beside it. */
const BESIDE = new Set(['searches', 'search', 'volume', 'in', 'monthly', 'suchanfragen', 'recherches']);

/**
 * The month that a heading names: `Jan`, `January 2026`, `Searches: Jan 2026`, `2026-01`, `01/2026`. The year is null
 * where none is told; null for all else.
 */
export function monthOfHeading(heading: string): { month: number; year: number | null } | null {
  const numbered = /^(?:(\d{4})[-/.](\d{1,2})|(\d{1,2})[-/.](\d{4}))$/.exec(heading.trim());
  if (numbered) {
    const month = Number(numbered[2] ?? numbered[3]);
    return month >= 1 && month <= MONTHS ? { month, year: Number(numbered[1] ?? numbered[4]) } : null;
  }
  let month: number | null = null;
  let year: number | null = null;
  for (const word of normalise(heading.replaceAll(/[.:,_/-]/g, ' '))
    .split(' ')
    .filter(Boolean)) {
    const named = monthOf.get(word);
    if (named !== undefined && month === null) month = named;
    else if (/^(?:19|20)\d\d$/.test(word) && year === null) year = Number(word);
    else if (!BESIDE.has(word)) return null;
  }
  return month === null ? null : { month, year };
}

/** Of headings those of months, for each month of the year its newest; null where a month is missing. */
export function yearOfHeadings(headings: readonly string[]): string[] | null {
  const newest: ({ heading: string; year: number } | undefined)[] = [];
  for (const heading of headings) {
    const found = monthOfHeading(heading);
    if (!found) continue;
    const year = found.year ?? 0;
    const known = newest[found.month - 1];
    if (!known || year > known.year) newest[found.month - 1] = { heading, year };
  }
  const year = Array.from({ length: MONTHS }, (_, at) => newest[at]?.heading);
  return year.every((heading) => heading !== undefined) ? year : null;
}

/**
 * What each month has of a mean month's searches, in basis points, by the sums over keywords; of those of which all
 * twelve months are told. `years[month][keyword]`, -1 for none. null where none has any search.
 */
export function seasonOf(years: readonly ArrayLike<number>[]): Pick<Season, 'parts' | 'keywords'> | null {
  const sums = new Array<number>(MONTHS).fill(0);
  let keywords = 0;
  const { length } = itemAt(years, 0);
  for (let keyword = 0; keyword < length; keyword++) {
    if (years.some((month) => countAt(month, keyword) < 0)) continue;
    keywords++;
    years.forEach((month, at) => {
      sums[at] = numberAt(sums, at) + countAt(month, keyword);
    });
  }
  const all = sums.reduce((sum, part) => sum + part, 0);
  if (all === 0) return null;
  return { parts: sums.map((sum) => Math.round((sum * MONTHS * WHOLE) / all)), keywords };
}
