import {
  editFacts,
  factsSchema,
  type PlanState,
  type ResultBid,
  type ResultBidsAnswer,
  readFacts,
  readResultBidRows,
  readResultBids,
  takeResultBids,
} from '@sprig/contracts';
import { asMicros } from '@sprig/core/money';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { BidsView } from './BidsView.tsx';

const answer: ResultBidsAnswer = {
  account: { outlet: null, name: 'Spring', currency: 'GBP', timeZone: 'UTC' },
  range: { from: '2026-11-02', to: '2026-11-29' },
  settledTo: '2026-11-22',
  grain: 'keyword/day',
  why: null,
  aim: { cost: 12_000_000, return: null },
  ownAims: 0,
  inCurrency: true,
  notMet: 0,
  stamp: 's1',
  rest: null,
  lists: [
    { list: 'change', rows: 1 },
    { list: 'stay', rows: 0 },
    { list: 'few', rows: 3 },
    { list: 'soon', rows: 0 },
  ],
  order: [0],
  notBidding: 2,
  high: null,
  ready: [{ key: 'c1', name: 'Teas', conversions: 14.5 }],
};
const row: ResultBid = {
  n: 0,
  key: 'k1:e',
  text: 'teapot',
  type: 'exact',
  group: 'k1',
  campaign: 'Teas',
  clicks: 80,
  conversions: 4,
  expected: 0.045,
  impressions: 5_200,
  position: 5.2,
  before: asMicros(1_000_000),
  after: asMicros(540_000),
  bound: 'most',
};
const day = (clicks: number, cost: number) => ({ clicks, cost });
const open = (more: Partial<ResultBidsAnswer>, path = '/', others: Parameters<typeof servedBy>[0] = []) => {
  const asked = servedBy([
    [readResultBids, () => ({ ...answer, ...more })],
    [readResultBidRows, () => ({ rows: [row] })],
    [readFacts, () => ({ facts: factsSchema.parse({}) })],
    ...others,
  ]);
  const plan = { id: 7, revision: 3, brief: { currency: 'GBP' } } as PlanState;
  return { asked, ...shownAt(path, <BidsView plan={plan} imports={[]} onReports={() => {}} />) };
};

test('bids are shown before and after, and set with the day on which they are looked at again', async () => {
  const { asked, user } = open({}, '/', [
    [
      takeResultBids,
      () => ({
        rows: 1,
        changed: 1,
        samples: [{ key: 'k1:e', text: 'teapot', type: 'exact', before: 1_000_000, after: 540_000 }],
        before: day(10, 9_000_000),
        after: day(7, 4_000_000),
        unreachable: { 'no-estimate': 0, 'out-of-reach': 0, 'above-ceiling': 0 },
        revision: 4,
      }),
    ],
  ]);
  const grid = await screen.findByRole('grid', { name: 'Bids: To change' });
  await waitFor(() => expect(within(grid).getByText('−46%')).toBeTruthy());
  expect(within(grid).getByText('the most at a time')).toBeTruthy();
  expect(within(grid).getByText('4.5%')).toBeTruthy();
  expect(screen.getByText(/Teas has conversions enough to try/)).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Set all 1 …' }));
  const dialog = await screen.findByRole('dialog', { name: 'Set 1 bid' });
  expect(dialog.textContent).toContain('Forecast of a day: £9.00 → £4.00, 10 → 7 clicks.');
  await user.click(within(dialog).getByRole('button', { name: 'Set 1 bid' }));
  await waitFor(() =>
    expect(asked.map(({ body }) => body)).toContainEqual(
      expect.objectContaining({ from: 'aim', keys: null, stamp: 's1', dry: false }),
    ),
  );
});

test('rows are chosen by key, and only those are set', async () => {
  const { asked, user } = open({});
  const grid = await screen.findByRole('grid', { name: 'Bids: To change' });
  await waitFor(() => expect(within(grid).getByText('teapot')).toBeTruthy());
  await user.click(within(grid).getAllByRole('checkbox').at(-1) as HTMLElement);
  await user.click(screen.getByRole('button', { name: /^Set 1 selected bid/ }));
  await waitFor(() =>
    expect(asked.map(({ body }) => body)).toContainEqual(
      expect.objectContaining({ keys: ['k1:e'], dry: true }),
    ),
  );
});

test('bands are typed over and removed; what is no position says so', async () => {
  const { asked, user } = open({}, '/?bids=bands', [[editFacts, () => ({ revision: 4 })]]);
  await user.click(await screen.findByRole('button', { name: 'Band 1 begins at position: 3.5' }));
  await user.type(screen.getByLabelText('Band 1 begins at position'), 'x');
  expect(screen.getByRole('alert').textContent).toContain('is no number');
  await user.clear(screen.getByLabelText('Band 1 begins at position'));
  await user.type(screen.getByLabelText('Band 1 begins at position'), '4{Enter}');
  await waitFor(() =>
    expect(asked.map(({ body }) => body)).toContainEqual({
      edits: [
        {
          at: 'bids.bands',
          before: [
            { from: 3.5, by: 20 },
            { from: 8, by: 35 },
          ],
          after: [
            { from: 4, by: 20 },
            { from: 8, by: 35 },
          ],
        },
      ],
    }),
  );
  await user.click(screen.getByRole('button', { name: /^Remove the band from position 8/ }));
  await waitFor(() =>
    expect(asked.at(-1)?.body).toMatchObject({ edits: [{ after: [expect.objectContaining({ by: 20 })] }] }),
  );
});

test.each([
  ['no-aim', 'No aim is set', 'To the brief'],
  ['no-position', 'No position is told', 'What stands too low'],
  ['not-high', 'Bids do not start high', 'To the rules of Build'],
] as const)('where there is %s it is said, with the way on', async (rest, title, there) => {
  open({ rest, order: [] });
  expect(await screen.findByRole('heading', { name: title })).toBeTruthy();
  expect(screen.getByRole('link', { name: there })).toBeTruthy();
});

test('bids that start high say when they come down, and can’t be set here', async () => {
  open({ high: { on: true, until: '2027-01-10' } }, '/?bids=down');
  expect(await screen.findByText(/come down by themselves on 10 Jan 2027/)).toBeTruthy();
  await screen.findByRole('grid', { name: 'Bids: To change' });
  expect(screen.queryByRole('button', { name: /^Set all/ })).toBeNull();
});
