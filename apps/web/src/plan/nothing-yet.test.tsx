import { screen } from '@testing-library/react';
import { expect, test } from 'vitest';
import { shownAt } from '../testing/rendered.tsx';
import { NothingYet } from './NothingYet.tsx';

test('a stage without keywords says what it does with them, and leads to where they come from', () => {
  shownAt('/plans/7/sort', <NothingYet todo="sort">Keywords become themes.</NothingYet>);
  expect(screen.getByRole('heading').textContent).toBe('Nothing to sort yet');
  expect(screen.getByText('Keywords become themes.')).toBeTruthy();
  expect(screen.getByRole('link', { name: 'Gather keywords' }).getAttribute('href')).toMatch(/gather$/);
});
