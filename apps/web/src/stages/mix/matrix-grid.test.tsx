import type { Matrix } from '@sprig/core/mix';
import { screen, within } from '@testing-library/react';
import { beforeEach, describe, expect, test, vi } from 'vitest';
import { shown } from '../../testing/rendered.tsx';
import { MatrixGrid } from './MatrixGrid.tsx';

/** Three traits against two things; the last trait is left out, and one pair is cut. */
const matrix: Matrix = {
  rowNames: ['green', 'black', null],
  columnNames: ['tea', 'mug'],
  combinations: Uint32Array.of(1, 1, 1, 2, 1, 0),
  cut: Uint32Array.of(0, 1, 0, 1, 0, 0),
  searches: Float64Array.of(100, 0, 50, 20, 900, 0),
  cutSearches: Float64Array.of(0, 70, 0, 10, 0, 0),
  unknown: Uint32Array.of(0, 0, 0, 0, 0, 0),
  estimated: Uint32Array.of(0, 0, 1, 0, 0, 0),
  elsewhere: 0,
};
const toggled = vi.fn(async () => {});
beforeEach(() => toggled.mockClear());

const open = (bySearches = false, of: Matrix = matrix) =>
  shown(<MatrixGrid matrix={of} label="Traits against things" bySearches={bySearches} onToggle={toggled} />);
const cell = (name: RegExp) => screen.getByRole('gridcell', { name });
const cursor = () => screen.getByRole('gridcell', { selected: true }).getAttribute('aria-label');

describe('a matrix of what a recipe makes', () => {
  test('says of each cell what it is of, its searches, and what of it is cut', () => {
    open();
    expect(cell(/^green, tea: 100 searches, 1 combination$/)).toBeTruthy();
    expect(cell(/^green, mug: cut$/)).toBeTruthy();
    expect(cell(/^black, mug: 20 searches, 1 of 2 cut$/)).toBeTruthy();
    expect(cell(/^black, tea: ≈ 50 searches/)).toBeTruthy();
    expect(cell(/^\(left out\), mug: nothing made$/)).toBeTruthy();
  });

  test('a press cuts a cell, or puts back one that is cut; where nothing is made it does nothing', async () => {
    const { user } = open();
    await user.click(cell(/^green, tea/));
    expect(toggled).toHaveBeenLastCalledWith(0, 0, true);
    await user.click(cell(/^green, mug/));
    expect(toggled).toHaveBeenLastCalledWith(0, 1, false);
    await user.click(cell(/^black, mug/));
    expect(toggled).toHaveBeenLastCalledWith(1, 1, true);
    toggled.mockClear();
    await user.click(cell(/^\(left out\), mug/));
    expect(toggled).not.toHaveBeenCalled();
  });

  test('by keyboard: arrows stop at the edges, c cuts the cell, r the row, v the column', async () => {
    const { user } = open();
    screen.getByRole('grid').focus();
    await user.keyboard('{ArrowUp}{ArrowLeft}');
    expect(cursor()).toMatch(/^green, tea/);
    await user.keyboard('{ArrowDown}{ArrowRight}{ArrowRight}');
    expect(cursor()).toMatch(/^black, mug/);
    await user.keyboard('c');
    expect(toggled).toHaveBeenLastCalledWith(1, 1, true);
    await user.keyboard('r');
    expect(toggled).toHaveBeenLastCalledWith(1, null, true);
    await user.keyboard('v');
    expect(toggled).toHaveBeenLastCalledWith(null, 1, true);
    toggled.mockClear();
    await user.keyboard('{Control>}c{/Control}');
    expect(toggled).not.toHaveBeenCalled();
  });

  test('the most searched first: what is cut or pressed is the same word, wherever it stands', async () => {
    const { user } = open(true);
    const first = within(screen.getAllByRole('row')[1] as HTMLElement).getByRole('rowheader');
    expect(first.textContent).toContain('(left out)');
    screen.getByRole('grid').focus();
    await user.keyboard('r');
    expect(toggled).toHaveBeenLastCalledWith(2, null, true);
  });

  test('200 by 200: only what is in view is drawn', () => {
    const names = Array.from({ length: 200 }, (_, at) => `w${at}`);
    const of = (value: number) => new Float64Array(40_000).fill(value);
    const many = (value: number) => new Uint32Array(40_000).fill(value);
    open(false, {
      rowNames: names,
      columnNames: names,
      combinations: many(1),
      cut: many(0),
      searches: of(10),
      cutSearches: of(0),
      unknown: many(0),
      estimated: many(0),
      elsewhere: 0,
    });
    const drawn = screen.getAllByRole('gridcell').length;
    expect(drawn).toBeGreaterThan(100);
    expect(drawn).toBeLessThan(1_500);
    const grid = screen.getByRole('grid');
    expect(grid.getAttribute('aria-rowcount')).toBe('201');
    expect(grid.getAttribute('aria-colcount')).toBe('201');
  });
});
