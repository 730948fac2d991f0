import { listWorth, readWorth, type WorthItem } from '@sprig/contracts';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { WorthOfPlans } from './WorthOfPlans.tsx';

const terms: WorthItem = { code: 'terms', count: 12, stake: 84_000_000, currency: 'GBP', account: 'Spring' };

test('over all plans those that changed are looked through one after the other, and one that can’t be is told', async () => {
  const seen = new Set<number>();
  const asked = servedBy([
    [
      listWorth,
      () => ({
        plans: [
          { plan: 1, name: 'Tea', open: seen.has(1) ? [terms] : null, isOld: !seen.has(1) },
          { plan: 2, name: 'Knives', open: null, isOld: true },
          { plan: 3, name: 'Teeth', open: [{ ...terms, stake: 200_000_000 }], isOld: false },
        ],
      }),
    ],
    [
      readWorth,
      ({ params }) => {
        if (params.plan === '2') return Response.json({ code: 'internal', message: 'No.' }, { status: 500 });
        seen.add(Number(params.plan));
        return { open: [terms], away: [], today: '2026-12-01' };
      },
    ],
  ]);
  shownAt('/', <WorthOfPlans />);
  const region = await screen.findByRole('region', { name: 'Worth doing' });
  await waitFor(() => expect(region.textContent).toContain('1 plan could not be looked through'));
  expect(
    within(region)
      .getAllByRole('link')
      .map(({ textContent }) => textContent),
  ).toEqual(['12 search terms to judgeTeeth£200', '12 search terms to judgeTea£84']);
  expect(
    asked.filter(({ path }) => path.endsWith('/worth') && path !== '/api/worth').map(({ path }) => path),
  ).toEqual(['/api/plans/1/worth', '/api/plans/2/worth']);
});
