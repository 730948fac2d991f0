import {
  type AdTest,
  type AdTestsAnswer,
  editFacts,
  factsSchema,
  keepBetterAd,
  type PlanState,
  readAdTestGroups,
  readAdTestRows,
  readAdTests,
  readFacts,
} from '@sprig/contracts';
import { usualAdTestRules } from '@sprig/core/judge';
import { screen, waitFor, within } from '@testing-library/react';
import { describe, expect, test } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { AdsView } from './AdsView.tsx';
import { testText } from './ad-test-words.ts';

const decided: AdTest = {
  id: '1',
  names: ['hand', 'years'],
  pattern: 'Knives',
  groups: 3,
  paused: null,
  verdict: 'b',
  a: { tries: 90_000, hits: 2_700, clicks: 2_700 },
  b: { tries: 90_000, hits: 4_050, clicks: 4_050 },
  difference: { by: 0.482, low: 0.4, high: 0.57 },
  told: 1,
  looks: 2,
  on: '2026-11-12',
  more: null,
};
const answer: AdTestsAnswer = {
  account: { outlet: null, name: 'Spring', currency: 'GBP', timeZone: 'UTC' },
  range: { from: '2026-11-01', to: '2026-11-30' },
  settledTo: null,
  grain: 'ad/day',
  why: null,
  byDay: true,
  tests: [decided],
  others: 0,
};
const open = (more: Partial<AdTestsAnswer> = {}) => {
  const asked = servedBy([
    [readAdTests, () => ({ ...answer, ...more })],
    [readAdTestGroups, () => ({ order: [0], stamp: '1' })],
    [
      readAdTestRows,
      () => ({ rows: [{ ...decided, verdict: 'few', n: 0, key: 'k1', name: 'Bread knife' }] }),
    ],
    [readFacts, () => ({ facts: factsSchema.parse({}) })],
    [editFacts, () => ({ revision: 4 })],
    [keepBetterAd, () => ({ revision: 4, ads: 3 })],
  ]);
  const plan = { id: 7, revision: 3, brief: { currency: 'GBP' } } as PlanState;
  return { asked, ...shownAt('/', <AdsView plan={plan} imports={[]} onReports={() => {}} />) };
};

test('the better ad is told with its ad groups, and kept', async () => {
  const { asked, user } = open();
  const list = await screen.findByRole('list', { name: 'Tests' });
  expect(list.textContent).toContain(
    'years is clicked 48% more than hand (+40% to +57%). Decided on 12 Nov.',
  );
  const grid = await screen.findByRole('grid', { name: 'Ad groups: hand against years' });
  await waitFor(() => expect(within(grid).getByText('Bread knife')).toBeTruthy());
  expect(within(grid).getByText('too little')).toBeTruthy();
  expect(within(grid).getByText('4.5%')).toBeTruthy();
  await user.click(within(list).getByRole('button', { name: 'Keep years' }));
  await waitFor(() =>
    expect(asked.map(({ body }) => body)).toContainEqual({ by: 'version', test: '1', keep: 'b', dry: false }),
  );
});

test('of two of which one was given up both can run again', async () => {
  const { asked, user } = open({ tests: [{ ...decided, paused: 'a' }] });
  expect((await screen.findByRole('list', { name: 'Tests' })).textContent).toContain('Only years runs.');
  await user.click(screen.getByRole('button', { name: 'Run both again' }));
  await waitFor(() =>
    expect(asked.map(({ body }) => body)).toContainEqual(expect.objectContaining({ keep: 'both' })),
  );
});

test('what they are told apart by is typed over, and where nothing ran side by side that is said', async () => {
  const { asked, user } = open({ tests: [] });
  expect(await screen.findByRole('heading', { name: 'No two ads ran side by side' })).toBeTruthy();
  await user.click(screen.getByRole('button', { name: 'Least difference: 15%' }));
  await user.clear(screen.getByLabelText('Least difference'));
  await user.type(screen.getByLabelText('Least difference'), '20%{Enter}');
  await waitFor(() =>
    expect(asked.map(({ body }) => body)).toContainEqual({
      edits: [{ at: 'adTests.difference', before: 0.15, after: 0.2 }],
    }),
  );
});

describe('in words', () => {
  const said = (part: Partial<AdTest>, by: 'clicks' | 'conversions' = 'clicks') =>
    testText({ ...decided, ...part }, decided.names, { ...usualAdTestRules, by });
  test.each([
    [
      { verdict: 'a', difference: { by: -0.2, low: -0.3, high: -0.1 } },
      'years is clicked 20% less than hand',
    ],
    [{ verdict: 'alike', difference: { by: 0, low: -0.1, high: 0.1 } }, 'No difference of 15% or more.'],
    [{ verdict: 'open', more: 41_000, on: null }, 'Not decided: about 41,000 more impressions. So far years'],
    [{ verdict: 'few', difference: null, on: null }, 'Too little: each needs 100 clicks.'],
  ] as const)('%o', (part, words) => {
    expect(said(part)).toContain(words);
  });
  test('conversions are of clicks', () => {
    expect(said({ verdict: 'open', more: 400 }, 'conversions')).toContain(
      '400 more clicks. So far years sells 48% more',
    );
  });
});
