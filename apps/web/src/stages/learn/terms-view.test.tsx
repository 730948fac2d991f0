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
  alike: [0, 0],
  fresh: 0,
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
  isFresh: false,
  isBlocked: false,
});

const open = (told: TermsAnswer, rows: readonly TermRow[], judged: () => unknown = () => ({})) => {
  servedBy([
    [readTerms, () => told],
    [readTermRows, ({ body }) => ({ rows: (body as { rows: number[] }).rows.map((n) => rows[n]) })],
    [judgeTerms, judged],
  ]);
  const plan = { id: 7, revision: 3, brief: { currency: 'GBP' } } as PlanState;
  return shownAt('/', <TermsView plan={plan} imports={[]} onReports={() => {}} />);
};

test('look-alikes stand together and are chosen at once; what is new since the report before says so', async () => {
  const rows = [
    { ...row(0, 'knife set'), isFresh: true },
    row(1, 'knife sets'),
    row(2, 'set knives'),
    row(3, 'knife free'),
  ];
  const { user } = open({ ...answer, order: [0, 1, 2, 3], alike: [2, -1, -1, 0], fresh: 1 }, rows);
  const grid = await screen.findByRole('grid', { name: 'Search terms' });
  await waitFor(() => expect(within(grid).getByText('set knives')).toBeTruthy());
  expect(screen.getByText('4 search terms, 1 new since the report before')).toBeTruthy();
  expect(within(grid).getAllByText('new')).toHaveLength(1);
  await user.click(within(grid).getByRole('button', { name: 'and 2 alike' }));
  expect(screen.getByText('3 terms selected')).toBeTruthy();
});

test('a judged term leaves its list at once, and is back where that was refused', async () => {
  const judging = awaited<unknown>();
  const { user } = open(answer, [row(0, 'knife free'), row(1, 'knife set')], () => judging.promise);
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
