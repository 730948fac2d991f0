import { harrowlight, type Outlet, plainOutlet, quillmere } from '@sprig/core/outlets';
import { describe, expect, test } from 'vitest';
import { fencesAtOutlets } from './fences-at-outlets.ts';

const withNegatives = (change: (values: string[]) => string[]): Outlet => ({
  ...harrowlight,
  sheets: harrowlight.sheets.map((sheet) => {
    const kept = change(sheet.columns.map(({ value }) => value));
    return sheet.kind === 'negatives'
      ? { ...sheet, columns: sheet.columns.filter(({ value }) => kept.includes(value)) }
      : sheet;
  }),
});

describe('what keeps fences from holding at an outlet', () => {
  test('nothing where it takes them', () => {
    expect(fencesAtOutlets([plainOutlet, harrowlight], 'exact', 600)).toEqual([]);
    expect(fencesAtOutlets([plainOutlet, harrowlight], 'tight', 600)).toEqual([]);
  });

  test('nothing is said of fences that are off', () => {
    expect(fencesAtOutlets([quillmere], 'off', 10_000)).toEqual([]);
  });

  test('no exact negatives, and matching by campaign', () => {
    expect(fencesAtOutlets([quillmere], 'exact', 1)).toEqual([
      'Quillmere takes no exact negatives: exact fences are left out there, and searches may cross.',
      'Quillmere matches close or wide by campaign: the audit speaks of the plan’s own match types.',
    ]);
  });

  test.each([
    [600, []],
    [
      601,
      ['Harrowlight takes 600 negatives in an ad group, and one has 601: what is over is left out there.'],
    ],
  ])('%i fences in one ad group', (most, words) => {
    expect(fencesAtOutlets([harrowlight], 'exact', most)).toEqual(words);
  });

  test('no negative phrases for tight fences', () => {
    const outlet = { ...harrowlight, negativeTypes: ['exact' as const] };
    expect(fencesAtOutlets([outlet], 'tight', 1)).toEqual([
      'Harrowlight takes no negative phrases: the tight fences are exact ones there.',
    ]);
    expect(fencesAtOutlets([outlet], 'exact', 1)).toEqual([]);
  });

  test('no negatives at all, or none of an ad group', () => {
    const none = withNegatives((values) => values.filter((value) => value !== 'keyword-notation'));
    expect(fencesAtOutlets([none], 'exact', 1_000)).toEqual([
      'Harrowlight takes no negatives: no fence stands there.',
    ]);
    const placeless = withNegatives((values) => values.filter((value) => value !== 'group'));
    expect(fencesAtOutlets([placeless], 'exact', 1)).toEqual([
      'Harrowlight takes negatives of whole campaigns only: no fence stands there.',
    ]);
  });
});
