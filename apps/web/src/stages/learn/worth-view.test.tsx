import { markWorth, type PlanState, readWorth, type WorthItem } from '@sprig/contracts';
import { worthCodes } from '@sprig/core/next';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import { worthWords } from '../../plan/worth-words.ts';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { WorthView } from './WorthView.tsx';

const terms: WorthItem = { code: 'terms', count: 12, stake: 84_000_000, currency: 'GBP', account: 'Spring' };
const blockers: WorthItem = { code: 'blockers', count: 1, stake: null, currency: null, account: '' };
const plan = { id: 7, revision: 3, brief: { currency: 'GBP' } } as PlanState;

test('each thing says how many, why, what is at stake, and leads there; it is put off and done', async () => {
  const asked = servedBy([
    [readWorth, () => ({ open: [blockers, terms], away: [], today: '2026-12-01' })],
    [markWorth, () => ({ revision: 4 })],
  ]);
  const { user } = shownAt('/', <WorthView plan={plan} imports={[]} />);
  const list = await screen.findByRole('list', { name: 'Worth doing' });
  expect(
    within(list)
      .getAllByRole('link')
      .map(({ textContent }) => textContent),
  ).toEqual(['1 blocker in the way of shipping', '12 search terms to judge']);
  expect(list.textContent).toContain('£84');
  expect(within(list).getByRole('link', { name: '12 search terms to judge' }).getAttribute('href')).toContain(
    'learn?view=terms',
  );
  await user.click(within(list).getByRole('button', { name: 'Put off: 12 search terms to judge' }));
  expect(
    (within(list).getByLabelText('Put off until: 12 search terms to judge') as HTMLInputElement).value,
  ).toBe('2026-12-08');
  await user.click(within(list).getByRole('button', { name: 'Put off' }));
  const body = { code: 'terms', account: 'Spring', mark: { until: '2026-12-08', count: 12 } };
  await waitFor(() => expect(asked.map((one) => one.body)).toContainEqual(body));
  await user.click(within(list).getByRole('button', { name: 'Done: 1 blocker in the way of shipping' }));
  await waitFor(() =>
    expect(asked.map((one) => one.body)).toContainEqual({
      code: 'blockers',
      account: '',
      mark: { until: null, count: 1 },
    }),
  );
});

test('what was put away is told, and put back; where nothing is open that is said', async () => {
  const away = [{ worth: terms, mark: { code: 'terms', account: 'Spring', until: '2027-01-03', count: 12 } }];
  const asked = servedBy([
    [readWorth, () => ({ open: [], away, today: '2026-12-01' })],
    [markWorth, () => ({ revision: 4 })],
  ]);
  const { user } = shownAt('/', <WorthView plan={plan} imports={[]} />);
  expect(await screen.findByRole('heading', { name: 'Nothing is worth doing just now' })).toBeTruthy();
  await user.click(screen.getByText('1 put off or done'));
  expect(screen.getByRole('list', { name: 'Put off or done' }).textContent).toContain('put off until 3 Jan');
  await user.click(screen.getByRole('button', { name: 'Put back' }));
  await waitFor(() =>
    expect(asked.map((one) => one.body)).toContainEqual({ code: 'terms', account: 'Spring', mark: null }),
  );
});

test.each(worthCodes)('%s says one and many', (code) => {
  const { said, why, to } = worthWords[code];
  expect(said(1)).not.toBe(said(2));
  expect(why.endsWith('.')).toBe(true);
  expect(to).not.toBe('');
});
