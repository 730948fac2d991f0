import { readMe } from '@sprig/contracts';
import { matchTypes } from '@sprig/core/match';
import { screen, within } from '@testing-library/react';
import { expect, test, vi } from 'vitest';
import { stages } from '../../stages/list.ts';
import { meOf, servedBy, shownAt } from '../../testing/rendered.tsx';
import { HowItWorks } from './HowItWorks.tsx';
import { stagesInWords } from './how-words.ts';

test('the page tells of every stage in its order, every match type, and all keys', () => {
  vi.stubGlobal('matchMedia', () => ({
    matches: false,
    addEventListener: () => {},
    removeEventListener: () => {},
  }));
  servedBy([[readMe, () => meOf()]]);
  const complaints = vi.spyOn(console, 'error');
  shownAt('/how', <HowItWorks stages={stages} />);
  expect(stagesInWords.map(([path, name]) => [path, name])).toEqual(
    stages.map(({ path, name }) => [path, name]),
  );
  const told = screen.getByRole('region', { name: 'The stages' });
  expect(
    within(told)
      .getAllByRole('listitem')
      .map((item) => item.textContent)[6],
  ).toMatch(/^g 7 Write/);
  expect(within(screen.getByRole('region', { name: 'Match types' })).getAllByRole('term')).toHaveLength(
    matchTypes.length,
  );
  expect(
    within(screen.getByRole('region', { name: 'Keys' })).getByText('go to what is worth doing next'),
  ).toBeTruthy();
  // A key of a stage, as that stage binds it.
  expect(
    within(screen.getByRole('region', { name: 'Keys' })).getByText('next ad that does not fit'),
  ).toBeTruthy();
  for (const link of within(screen.getByRole('navigation', { name: 'On this page' })).getAllByRole('link'))
    expect(document.querySelector(link.getAttribute('href') ?? '')).not.toBeNull();
  // A key that does two things in a stage is told twice.
  expect(complaints).not.toHaveBeenCalled();
});
