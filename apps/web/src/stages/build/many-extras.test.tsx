import { listExtras, placeExtras } from '@sprig/contracts';
import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { ManyExtras } from './ManyExtras.tsx';

test('extras of a selection: shown at all, some or none of it, given and taken away as one change', async () => {
  const callout = (id: number, text: string, at: string[]) => ({
    id,
    at,
    body: { kind: 'callout', text },
    outlets: [],
    status: 'enabled',
  });
  const asked = servedBy([
    [
      listExtras,
      () => ({
        extras: [
          callout(1, 'Open on Sunday', ['plan']),
          callout(2, 'No waiting list', ['t1', 't2']),
          callout(3, 'Free check', ['t1', 'c']),
          callout(4, 'By the station', []),
        ],
      }),
    ],
    [placeExtras, () => ({ revision: 5, changed: 2 })],
  ]);
  const { user } = shownAt(
    '/',
    <ManyExtras plan={7} places={['t1', 't2']} what="2 ad groups" onClose={() => {}} />,
  );
  const box = (name: RegExp) => screen.getByRole<HTMLInputElement>('checkbox', { name });
  await screen.findByText('Free check');
  expect([
    box(/Sunday/).disabled,
    box(/waiting/).checked,
    box(/Free/).indeterminate,
    box(/station/).checked,
  ]).toEqual([true, true, true, false]);
  await user.click(box(/waiting/));
  await user.click(box(/station/));
  await user.click(screen.getByRole('button', { name: 'Change 2 extras' }));
  await waitFor(() => expect(asked.at(-1)?.method ?? '').toBeTruthy());
  expect(asked.filter(({ method }) => method === 'POST').map(({ body }) => body)).toEqual([
    { places: ['t1', 't2'], give: [4], take: [2] },
  ]);
});
