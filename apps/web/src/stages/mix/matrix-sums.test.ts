import type { Matrix } from '@sprig/core/mix';
import { expect, test } from 'vitest';
import { orderOf, sumsOf } from './matrix-sums.ts';

const matrix: Matrix = {
  rowNames: ['inflatable', null],
  columnNames: ['kayak', 'canoe', 'sup'],
  combinations: Uint32Array.of(2, 2, 1, 1, 1, 0),
  cut: Uint32Array.of(0, 2, 0, 1, 0, 0),
  searches: Float64Array.of(50, 0, 10, 0, 90, 0),
  cutSearches: Float64Array.of(0, 40, 0, 5, 0, 0),
  unknown: new Uint32Array(6),
  estimated: new Uint32Array(6),
  elsewhere: 0,
};

test('rows and columns are summed, and the most of a cell is known', () => {
  const { rowSums, columnSums, most } = sumsOf(matrix);
  expect(rowSums).toEqual([
    { combinations: 5, cut: 2, searches: 60, whole: 100 },
    { combinations: 2, cut: 1, searches: 90, whole: 95 },
  ]);
  expect(columnSums).toEqual([
    { combinations: 3, cut: 1, searches: 50, whole: 55 },
    { combinations: 3, cut: 2, searches: 90, whole: 130 },
    { combinations: 1, cut: 0, searches: 10, whole: 10 },
  ]);
  expect(most).toBe(90);
});

test('they stand in the order of their list, or the most searched first', () => {
  const { columnSums } = sumsOf(matrix);
  expect(orderOf(columnSums, false)).toEqual([0, 1, 2]);
  expect(orderOf(columnSums, true)).toEqual([1, 0, 2]);
});
