import { planHistory, readChange, undoOne } from '@sprig/contracts';
import { screen, within } from '@testing-library/react';
import { beforeEach, expect, test } from 'vitest';
import { queryClient } from '../data/query-client.ts';
import { Allowed } from '../kit/allowed.tsx';
import { refusing, servedBy, shownAt } from '../testing/rendered.tsx';
import { HistoryPanel } from './HistoryPanel.tsx';

beforeEach(() => queryClient.clear());

const entry = (revision: number, actor: string, by: number, more: object = {}) => ({
  revision,
  label: `Change ${revision}`,
  kind: 'edit',
  actor,
  by,
  at: '2026-12-01T10:00:00Z',
  undone: false,
  undoable: true,
  ...more,
});
const people = [
  { by: 1, actor: 'Maren' },
  { by: 2, actor: 'Tobin' },
];

function open(mayBuild = true) {
  const asked = servedBy([
    [
      planHistory,
      ({ query }) => ({
        people,
        changes: [entry(6, 'Tobin', 2), entry(5, 'Maren', 1), entry(4, 'Tobin', 2)].filter(
          ({ by }) => !query.get('by') || String(by) === query.get('by'),
        ),
      }),
    ],
    [
      readChange,
      () => ({
        came: [],
        went: ['Search notes'],
        parts: [{ table: 'holds', inserted: 0, removed: 0, changed: 2 }],
        samples: [
          {
            table: 'holds',
            row: 'k12:e',
            how: 'changed',
            fields: [{ field: 'bid', before: '500000', after: '<b>910000</b>' }],
          },
        ],
      }),
    ],
    [
      undoOne,
      ({ body }) =>
        (body as { force: boolean }).force
          ? { revision: 7, label: 'Change 6' }
          : refusing({ code: 'conflict', message: 'One value changed since. Step back all the same?' }, 409),
    ],
  ]);
  const page = (
    <Allowed may={(access) => mayBuild || access === 'read'}>
      <HistoryPanel plan={7} onClose={() => {}} />
    </Allowed>
  );
  return { ...shownAt('/', page), asked };
}

test('what was done is narrowed to one person, and opened to see what it did', async () => {
  const { user } = open();
  await screen.findByText('Change 6');
  await user.selectOptions(screen.getByLabelText('By whom'), 'by Maren');
  expect((await screen.findAllByText(/^Change/)).map(({ textContent }) => textContent)).toEqual(['Change 5']);
  await user.click(screen.getByText('Change 5'));
  expect(
    await screen.findByText('2 × value held by hand changed; the source Search notes went.'),
  ).toBeTruthy();
  const changed = screen.getByRole('list', { name: 'What it changed' });
  expect(changed.textContent).toContain('k12:e');
  expect(changed.textContent).toContain('500000 → <b>910000</b>');
});

test('one change is taken back; where it was changed since that is asked first', async () => {
  const { user, asked } = open();
  await user.click(await screen.findByText('Change 6'));
  await user.click(await screen.findByRole('button', { name: 'Undo this' }));
  expect((await screen.findByRole('alert')).textContent).toContain('changed since');
  await user.click(screen.getByRole('button', { name: 'All the same' }));
  expect(asked.filter(({ method }) => method === 'POST').map(({ body }) => body)).toEqual([
    { force: false },
    { force: true },
  ]);
});

test('who may not build reads it, and takes nothing back', async () => {
  const { user } = open(false);
  await user.click(await screen.findByText('Change 6'));
  const list = await screen.findByRole('list', { name: 'What it changed' });
  expect(within(list).getAllByRole('listitem')).toHaveLength(1);
  expect(screen.queryByRole('button', { name: 'Undo this' })).toBeNull();
});
