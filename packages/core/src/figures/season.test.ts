import { describe, expect, test } from 'vitest';
import { CurveMaker, monthOfHeading, seasonOf, usualAssumptions, yearOfHeadings } from './index.ts';

describe('the month that a heading names', () => {
  test.each([
    ['Jan', 1, null],
    ['december 2026', 12, 2026],
    ['Searches: Mar 2026', 3, 2026],
    ['2025-07', 7, 2025],
    ['07/2025', 7, 2025],
    ['Sept. 2024', 9, 2024],
    ['März 2026', 3, 2026],
    ['février', 2, null],
    ['październik 2026', 10, 2026],
    ['May', 5, null],
  ])('%s', (heading, month, year) => expect(monthOfHeading(heading)).toEqual({ month, year }));

  test.each(['Note', '2026', '2026-13', 'Cost in May', 'May and June', '', 'January sale', '00/2025'])(
    'none: %s',
    (heading) => expect(monthOfHeading(heading)).toBeNull(),
  );
});

test('of two years the newer month counts, and a year needs all twelve', () => {
  const names = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec'];
  const year = yearOfHeadings([...names.map((name) => `${name} 2025`), 'Note', 'Jan 2026', 'Feb 2024']);
  expect(year).toEqual(['Jan 2026', ...names.slice(1).map((name) => `${name} 2025`)]);
  expect(yearOfHeadings(names.slice(1))).toBeNull();
});

test('what each month has of a mean one: by keywords of which all months are told', () => {
  const years = Array.from({ length: 12 }, (_, at) => [at === 6 ? 1_200 : 100, at === 0 ? -1 : 9_999]);
  const season = seasonOf(years);
  expect(season?.keywords).toBe(1);
  // 2,300 in a year: July has 1,200 of a mean month's 191.67.
  expect(season?.parts[6]).toBe(Math.round((1_200 * 12 * 10_000) / 2_300));
  expect(season?.parts[0]).toBe(Math.round((100 * 12 * 10_000) / 2_300));
  expect(seasonOf(years.map(() => [0]))).toBeNull();
  expect(seasonOf(years.map(() => []))).toBeNull();
});

test('a month’s forecast is its part of the searches, at the same bids', () => {
  const parts = [5_000, 20_000, ...new Array<number>(10).fill(9_500)];
  const keyword = { searches: 1_000, cpc: 600_000, competition: null };
  const inMonth = (month: number) =>
    new CurveMaker({ ...usualAssumptions, season: { month, parts, keywords: 9 } }).of(keyword);
  const mean = new CurveMaker(usualAssumptions).of(keyword);
  expect(inMonth(1).map(({ clicks }) => clicks)).toEqual(mean.map(({ clicks }) => clicks / 2));
  expect(inMonth(2).map(({ impressions }) => impressions)).toEqual(
    mean.map(({ impressions }) => impressions * 2),
  );
  expect(inMonth(2).map(({ bid }) => bid)).toEqual(mean.map(({ bid }) => bid));
});
