import { type PlanState, readSellers, readUnlikeDays } from '@sprig/contracts';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { WatchView } from './WatchView.tsx';

const about = {
  account: { outlet: null, name: 'Spring', currency: 'GBP', timeZone: 'UTC' },
  range: { from: '2026-11-02', to: '2026-11-29' },
  grain: 'campaign/day',
  why: null,
};
const plan = { id: 7, revision: 3, brief: { currency: 'GBP' } } as PlanState;
const open = (path: string) => shownAt(path, <WatchView plan={plan} imports={[]} onReports={() => {}} />);

test('a day that is unlike stands with what was to be expected, and what changed on it', async () => {
  const day = { day: '2026-11-19', figure: 'clicks', seen: 12, expected: 91.2, low: 61, high: 126 } as const;
  servedBy([
    [
      readUnlikeDays,
      () => ({
        ...about,
        days: [
          { ...day, campaign: 'Invoices', labels: ['Pause 3 rows'] },
          { ...day, campaign: null, labels: [] },
        ],
        silent: 1,
      }),
    ],
  ]);
  open('/?watch=unlike');
  const grid = await screen.findByRole('grid', { name: 'Days that are unlike' });
  await waitFor(() => expect(within(grid).getByText('Pause 3 rows')).toBeTruthy());
  expect(within(grid).getAllByText('−87%')).toHaveLength(2);
  expect(within(grid).getAllByText('61 to 126')).toHaveLength(2);
  expect(within(grid).getByText('all together')).toBeTruthy();
  expect(screen.getByText(/Nothing is said of 1 campaign with fewer than four such weeks/)).toBeTruthy();
});

test('where no day stands out that is said', async () => {
  servedBy([[readUnlikeDays, () => ({ ...about, days: [], silent: 0 })]]);
  open('/?watch=unlike');
  expect(await screen.findByText(/no day stands out/)).toBeTruthy();
});

test('what sells stands against all others, by what is chosen', async () => {
  const row = { clicks: 840, cost: 840_000_000, value: 0 };
  const asked = servedBy([
    [
      readSellers,
      ({ body }) => ({
        ...about,
        settledTo: '2026-11-22',
        rows:
          (body as { by: string }).by === 'match'
            ? [
                { ...row, name: 'exact', conversions: 84, than: 'better' },
                { ...row, name: 'broad', conversions: 21, than: 'worse' },
                { ...row, name: 'phrase', conversions: 0, than: null },
              ]
            : [],
      }),
    ],
  ]);
  const { user } = open('/?watch=sells');
  expect(await screen.findByRole('heading', { name: 'Nothing is told of these days' })).toBeTruthy();
  await user.selectOptions(screen.getByLabelText('What sells, by'), 'match');
  const grid = await screen.findByRole('grid', { name: 'What sells' });
  await waitFor(() => expect(within(grid).getByText('sells better than all others')).toBeTruthy());
  expect(within(grid).getByText('sells worse than all others')).toBeTruthy();
  expect(within(grid).getByText('too little told')).toBeTruthy();
  expect(within(grid).getByText('£10.00')).toBeTruthy();
  expect(asked.map(({ body }) => body)).toContainEqual({ by: 'match' });
});
