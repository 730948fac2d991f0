import { findPartGroups, readJob, readPartChoices, startPartLook, stopJob } from '@sprig/contracts';
import { quillmere } from '@sprig/core/outlets';
import { screen, waitFor, within } from '@testing-library/react';
import { expect, test } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { ShipPart } from './ShipPart.tsx';
import { partWords } from './ship-words.ts';

const JOB = '4b1f5f3e-6a80-4f0e-9c57-3f3f3c0b7c11';
const none = { campaign: 0, group: 0, keyword: 0, negative: 0, ad: 0, extra: 0 };

function served(status: 'done' | 'stopped' | 'running' = 'done') {
  return servedBy([
    [
      readPartChoices,
      () => ({
        campaigns: [
          { key: 'ct1', name: 'Crowns', groups: 2 },
          { key: 'ct2', name: 'Braces', groups: 1 },
        ],
        labels: [{ label: 'spring', groups: 2 }],
      }),
    ],
    [
      findPartGroups,
      ({ body }) => {
        const { words } = body as { words: string };
        const groups = ['crown repair', 'crown price', 'braces'].filter((name) => name.includes(words));
        return {
          total: 450,
          groups: groups.map((name) => ({ key: `k${name.length}`, name, campaign: 'Crowns' })),
        };
      },
    ],
    [startPartLook, () => ({ job: JOB })],
    [stopJob, () => ({})],
    [
      readJob,
      () => ({
        id: JOB,
        plan: 1,
        kind: 'part-look',
        status,
        phase: '',
        done: 1,
        total: 4,
        createdAt: '2026-12-01T00:00:00Z',
        endedAt: null,
        failure: null,
        result: {
          rows: { ...none, keyword: 8 },
          difference: {
            receipt: null,
            added: 2,
            changed: 1,
            removed: 0,
            same: 5,
            untold: 0,
            told: { ...none, keyword: 3 },
            waiting: 0,
            rows: [
              {
                change: 'added',
                kind: 'keyword',
                campaign: 'Crowns',
                group: 'crown',
                text: 'crown',
                fields: [],
              },
            ],
          },
        },
      }),
    ],
  ]);
}

function open(isFirst = false) {
  const written: unknown[] = [];
  const { user, unmount } = shownAt(
    '/',
    <ShipPart
      plan={1}
      outlet={quillmere}
      sheets={quillmere.sheets}
      isFirst={isFirst}
      onWrite={(what, part) => written.push([what, part])}
      onClose={() => {}}
    />,
  );
  return { user, written, unmount };
}

test('a part is chosen, looked at, and just that is shipped; another choice has to be looked at anew', async () => {
  const asked = served();
  const { user, written } = open();
  const look = await screen.findByRole('button', { name: 'See what it tells' });
  // All of everything is no part.
  expect(look).toHaveProperty('disabled', true);
  await user.click(await screen.findByLabelText(/^Crowns/));
  await user.click(screen.getByLabelText(/^spring/));
  await user.type(screen.getByLabelText('Words of ad groups’ names'), 'repair');
  await waitFor(() => expect(screen.queryByLabelText(/^crown price/)).toBeNull());
  expect(screen.getByRole('dialog').textContent).toContain('The first 1 of 450');
  await user.click(screen.getByLabelText(/^crown repair/));
  await user.click(screen.getByLabelText('ads'));
  await user.click(look);
  const ship = await screen.findByRole('button', { name: 'Ship 3 changes' });
  const part = {
    campaigns: ['ct1'],
    groups: ['k12'],
    labels: ['spring'],
    kinds: ['campaign', 'group', 'keyword', 'negative'],
  };
  const sent = asked.find(({ path }) => path.endsWith('/part'))?.body as { part: typeof part };
  expect(sent.part.kinds).not.toContain('ad');
  expect(sent.part).toMatchObject({ campaigns: ['ct1'], groups: ['k12'], labels: ['spring'] });
  expect(within(screen.getByRole('group', { name: 'Difference' })).getByText('2')).toBeTruthy();
  await user.click(ship);
  expect(written).toEqual([['difference', sent.part]]);
  await user.click(screen.getByRole('button', { name: 'All 8 rows' }));
  expect(written.at(-1)).toEqual(['all', sent.part]);
  await user.click(screen.getByLabelText(/^Braces/));
  expect(screen.queryByRole('button', { name: 'Ship 3 changes' })).toBeNull();
});

test('without a kind of rows nothing can be looked at; kinds alone are a part of the whole plan', async () => {
  served();
  const { user } = open(true);
  const look = await screen.findByRole('button', { name: 'See what it tells' });
  const kinds = screen.getByRole('group', { name: /^Kinds of rows/ });
  await user.click(within(kinds).getByRole('button', { name: 'none of these' }));
  expect(screen.getByText('Choose a kind of rows at least.')).toBeTruthy();
  expect(look).toHaveProperty('disabled', true);
  await user.click(within(kinds).getByLabelText('keywords'));
  expect(screen.getByText('Of the whole plan these kinds of rows.')).toBeTruthy();
  await user.click(look);
  expect(await screen.findByRole('button', { name: 'Ship 8 rows' })).toBeTruthy();
});

test('a look that was stopped says so, and one that nobody waits for any more is stopped', async () => {
  served('stopped');
  const first = open();
  await first.user.click(await screen.findByLabelText(/^Crowns/));
  await first.user.click(screen.getByRole('button', { name: 'See what it tells' }));
  expect((await screen.findByRole('alert')).textContent).toBe('Stopped. Nothing was looked at.');
  first.unmount();
  const asked = served('running');
  const second = open();
  await second.user.click(await screen.findByLabelText(/^Crowns/));
  await second.user.click(screen.getByRole('button', { name: 'See what it tells' }));
  await waitFor(() => expect(asked.some(({ path }) => path.endsWith(`/jobs/${JOB}`))).toBe(true));
  second.unmount();
  await waitFor(() => expect(asked.some(({ path }) => path.includes('stop'))).toBe(true));
});

test('a receipt says of which part it is', () => {
  expect(
    partWords({
      campaigns: ['Crowns', 'Braces'],
      campaignCount: 3,
      groupCount: 14,
      labels: ['spring'],
      kinds: ['keyword', 'ad'],
    }),
  ).toBe('3 campaigns: Crowns, Braces and 1 more; 14 ad groups; label spring; only keywords, ads');
});
