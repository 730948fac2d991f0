import {
  editFacts,
  factsSchema,
  type PlanState,
  readFacts,
  readForecastAgainst,
  readSellers,
  readUnlikeDays,
} from '@sprig/contracts';
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
  const row = { clicks: 840, cost: 840_000_000, value: 0, adjust: null };
  const asked = servedBy([
    [readFacts, () => ({ facts: factsSchema.parse({}) })],
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

const against = {
  ...about,
  inCurrency: true,
  rows: [
    {
      key: 'c1',
      name: 'Invoices',
      forecast: { clicks: 41.4, cost: 22_000_000 },
      came: { clicks: 62.1, cost: 33_000_000 },
    },
  ],
  measured: {
    ctr: [0.24, 0.18, 0.12, 0.09],
    price: null,
    account: 'Spring',
    from: '2026-11-02',
    to: '2026-11-29',
  },
  assumed: { ctr: [0.08, 0.054, 0.037, 0.025], price: [1.25, 1, 0.8, 0.64] },
  hasPositions: true,
};

test('what came stands against the forecast, and what was measured takes the place of what is assumed', async () => {
  const asked = servedBy([
    [readForecastAgainst, () => against],
    [readFacts, () => ({ facts: factsSchema.parse({}) })],
    [editFacts, () => ({ revision: 4 })],
  ]);
  const { user } = open('/?watch=forecast');
  const grid = await screen.findByRole('grid', { name: 'Forecast against what came' });
  await waitFor(() => expect(within(grid).getAllByText('+50%')).toHaveLength(2));
  expect(within(grid).getByText('£33.00')).toBeTruthy();
  expect(screen.getByText('24%, 18%, 12%, 9%')).toBeTruthy();
  expect(screen.getByText('(assumed 8%, 5.4%, 3.7%, 2.5%)')).toBeTruthy();
  const use = await screen.findByRole('button', { name: 'Forecast with what was measured' });
  await waitFor(() => expect((use as HTMLButtonElement).disabled).toBe(false));
  await user.click(use);
  await waitFor(() =>
    expect(asked.map(({ body }) => body)).toContainEqual({
      edits: [{ at: 'assumptions.measured', before: null, after: against.measured }],
    }),
  );
});

test.each([
  [true, /it takes 100 clicks at several positions/],
  [false, /Reports of Spring tell no position/],
])('where nothing can be measured it is said why (positions told: %s)', async (hasPositions, words) => {
  servedBy([
    [readForecastAgainst, () => ({ ...against, measured: null, hasPositions })],
    [readFacts, () => ({ facts: factsSchema.parse({}) })],
  ]);
  open('/?watch=forecast');
  expect(await screen.findByText(words)).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Forecast with what was measured' })).toBeNull();
});

test('a device that sells worse has its bids adjusted', async () => {
  const asked = servedBy([
    [
      readSellers,
      () => ({
        ...about,
        settledTo: '2026-11-22',
        rows: [
          {
            name: 'Phones',
            clicks: 840,
            cost: 1,
            conversions: 21,
            value: 0,
            than: 'worse',
            adjust: { device: 'phone', now: 0, after: -3_000 },
          },
        ],
      }),
    ],
    [readFacts, () => ({ facts: factsSchema.parse({}) })],
    [editFacts, () => ({ revision: 4 })],
  ]);
  const { user } = open('/?watch=sells&sells=device');
  await user.click(await screen.findByRole('button', { name: '−30%' }));
  await waitFor(() =>
    expect(asked.map(({ body }) => body)).toContainEqual({
      edits: [{ at: 'devices.phone', before: 0, after: -3_000 }],
    }),
  );
});
