import {
  judgeTerms,
  type PlanState,
  readTermRows,
  readTerms,
  type TermRow,
  type TermsAnswer,
} from '@sprig/contracts';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import { awaited, servedBy, shownAt } from '../../testing/rendered.tsx';
import { TermsView } from './TermsView.tsx';

const answer: TermsAnswer = {
  account: { outlet: null, name: 'Spring', currency: 'GBP', timeZone: 'UTC' },
  range: { from: '2026-11-02', to: '2026-11-29' },
  grain: 'term/day',
  why: null,
  lists: [
    { list: 'open', terms: 2, cost: 30_000_000 },
    { list: 'kept', terms: 0, cost: 0 },
    { list: 'judged', terms: 0, cost: 0 },
  ],
  order: [0, 1],
  onlyCosting: [],
  stamp: '1',
};
const row = (n: number, term: string): TermRow => ({
  n,
  term,
  impressions: 100,
  clicks: 10,
  cost: 15_000_000,
  conversions: 0,
  by: { keyword: 'knife', type: 'broad', group: 'Knives', campaign: 'All', key: 'k1', others: 0 },
  judged: null,
  isBlocked: false,
});

test('a judged term leaves its list at once, and is back where that was refused', async () => {
  const judging = awaited<unknown>();
  servedBy([
    [readTerms, () => answer],
    [
      readTermRows,
      ({ body }) => ({
        rows: (body as { rows: number[] }).rows.map((n) => row(n, ['knife free', 'knife set'][n] ?? '')),
      }),
    ],
    [judgeTerms, () => judging.promise],
  ]);
  const plan = { id: 7, revision: 3, brief: { currency: 'GBP' } } as PlanState;
  const { user } = shownAt('/', <TermsView plan={plan} imports={[]} onReports={() => {}} />);
  const grid = await screen.findByRole('grid', { name: 'Search terms' });
  await waitFor(() => expect(within(grid).getByText('knife free')).toBeTruthy());
  await user.click(within(grid).getAllByRole('checkbox').at(1) as HTMLElement);
  await user.click(screen.getByRole('button', { name: /^Leave/ }));
  // Nothing was answered yet.
  expect(within(grid).queryByText('knife free')).toBeNull();
  expect(within(grid).getByText('knife set')).toBeTruthy();
  judging.answer(Response.json({ code: 'invalid', message: 'No.' }, { status: 400 }));
  await waitFor(() => expect(within(grid).getByText('knife free')).toBeTruthy());
});
