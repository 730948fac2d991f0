import {
  editOutset,
  keepOutset,
  listOutsets,
  noFacts,
  type OutsetView,
  outsetFields,
  outsetParts,
  takeOutset,
  tryOutset,
  usualSortSettings,
} from '@sprig/contracts';
import { defaultLayout } from '@sprig/core/build';
import { usualAddressRule } from '@sprig/core/write';
import { screen, waitFor, within } from '@testing-library/react';
import { Toaster } from 'sonner';
import { expect, test } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { KeepOutset } from './KeepOutset.tsx';
import { OutsetList } from './OutsetList.tsx';
import { wordsOfField, wordsOfLoss, wordsOfThings, wordsOfValue } from './outset-words.ts';
import { TakeOutset } from './TakeOutset.tsx';

const outset = (id: number, name: string, more: Partial<OutsetView> = {}): OutsetView => ({
  id,
  name,
  of: 'Teeth',
  currency: 'GBP',
  isDefault: false,
  parts: ['fences', 'ads'],
  keptAt: '2026-11-01T00:00:00Z',
  ...more,
});

/** The paths of what a document holds, down to what is no document. */
const pathsOf = (at: string, value: unknown): string[] =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
    ? Object.entries(value).flatMap(([name, inner]) => pathsOf(`${at}.${name}`, inner))
    : [at];

test('every field that an outset can set has words, and so has what stands in it', () => {
  const facts = noFacts();
  const layout = defaultLayout('Teeth', 'GBP');
  const { dismissed: _, ...sort } = usualSortSettings;
  const { measured: _measured, season: _season, ...assumptions } = facts.assumptions;
  const documents = { ...facts, assumptions, ...layout };
  const paths = [
    ...outsetParts.flatMap((part) =>
      [...outsetFields[part].facts, ...outsetFields[part].layout].flatMap((name) =>
        pathsOf(name, documents[name]),
      ),
    ),
    ...pathsOf('sort', sort),
    ...pathsOf('address', usualAddressRule()),
  ];
  expect(paths.length).toBeGreaterThan(80);
  expect(paths.filter((path) => wordsOfField(path) === undefined)).toEqual([]);
  expect([
    wordsOfValue('ladder.floor', 50_000, 'GBP'),
    wordsOfValue('ladder.steps.exact', 11_500, 'GBP'),
    wordsOfValue('verdicts.notSold', 0.5, 'GBP'),
    wordsOfValue('fences', 'tight', 'GBP'),
    wordsOfValue('lanes', layout.lanes, 'GBP'),
    wordsOfValue('places', [['Eastmere', 'east mere'], ['Heronsea']], 'GBP'),
    wordsOfValue('functionWords', null, 'GBP'),
    wordsOfValue('targetCost', null, 'GBP'),
    wordsOfValue('devices.phone', -2_000, 'GBP'),
    wordsOfThings({ at: 'set', count: 2 }),
    wordsOfThings({ at: 'branch', count: 1 }),
  ]).toEqual([
    '£0.05',
    '115%',
    '50%',
    'tight fences',
    'All: phrase, exact',
    'Eastmere, Heronsea',
    'the language’s own',
    'none',
    '-20%',
    '2 sets of settings',
    '1 branch with rules of its own',
  ]);
  expect(wordsOfLoss({ part: 'ladder', why: 'currency', names: ['ladder.floor'], count: 3 }, 'CHF')).toBe(
    'Least bid and 2 more: in CHF there, so as before here. Set what you need in this plan’s currency.',
  );
});

test('parts of an outset are chosen, what each does is shown, and just that is taken in', async () => {
  const asked = servedBy([
    [
      listOutsets,
      () => ({ outsets: [outset(1, 'Plain'), outset(2, 'Usual', { isDefault: true, of: 'Knives' })] }),
    ],
    [
      tryOutset,
      ({ body, params }) => {
        const { parts } = body as { parts: string[] };
        const lines = [
          { part: 'fences', at: 'fences', kind: 'set', names: [], count: 1, before: 'off', after: 'exact' },
          { part: 'ads', at: 'pattern', kind: 'added', names: ['Price', 'Near'], count: 14 },
        ].filter(({ part }) => parts.includes(part));
        const losses = [{ part: 'ads', why: 'no-theme', names: ['Price'], count: 1 }];
        return {
          lines: lines.map((line) => ({ before: null, after: null, ...line })),
          losses: losses.filter(({ part }) => parts.includes(part)),
          seen: `${params.outset}:${parts.join()}`,
        };
      },
    ],
    [takeOutset, () => ({ revision: 7 })],
  ]);
  let closed = 0;
  const { user } = shownAt(
    '/',
    <TakeOutset plan={5} name="Boilers" currency="CHF" onClose={() => closed++} />,
  );
  const dialog = await screen.findByRole('dialog', { name: 'Take an outset into Boilers' });
  // The default is offered first.
  expect(await within(dialog).findByLabelText('Outset')).toHaveProperty('value', '2');
  const rows = async (many: number) => {
    await waitFor(() => expect(within(dialog).getAllByRole('row')).toHaveLength(many + 1));
    return within(dialog)
      .getAllByRole('row')
      .slice(1)
      .map((row) => [...row.querySelectorAll('td')].map(({ textContent }) => textContent));
  };
  expect(await rows(2)).toEqual([
    ['FencesFences', 'no fences', 'exact fences'],
    ['14 ad patterns addedAd patterns', 'not there', 'Price, Near and 12 more'],
  ]);
  expect(dialog.textContent).toContain('“Price”: for themes that are not in this plan.');
  await user.click(within(dialog).getByLabelText('Ad patterns'));
  expect(await rows(1)).toHaveLength(1);
  expect(dialog.textContent).not.toContain('“Price”');
  await waitFor(() =>
    expect(within(dialog).getByRole('button', { name: 'Take it in' })).toHaveProperty('disabled', false),
  );
  await user.click(within(dialog).getByRole('button', { name: 'Take it in' }));
  await waitFor(() => expect(closed).toBe(1));
  expect(asked.find(({ path }) => path.endsWith('/take'))).toMatchObject({
    path: '/api/plans/5/outsets/2/take',
    body: { parts: ['fences'], seen: '2:fences' },
  });
});

test('what was changed meanwhile is told, and the dialog stays; nothing chosen takes nothing', async () => {
  servedBy([
    [listOutsets, () => ({ outsets: [outset(1, 'Usual')] })],
    [
      tryOutset,
      () => ({
        lines: [
          { part: 'ads', at: 'pattern', kind: 'changed', names: ['A'], count: 1, before: null, after: null },
        ],
        losses: [],
        seen: 'x',
      }),
    ],
    [takeOutset, () => Response.json({ code: 'conflict', message: 'Look at it again.' }, { status: 409 })],
  ]);
  let closed = 0;
  const { user } = shownAt('/', <TakeOutset plan={5} name="B" currency="GBP" onClose={() => closed++} />);
  const take = await screen.findByRole('button', { name: 'Take it in' });
  await waitFor(() => expect(take).toHaveProperty('disabled', false));
  await user.click(take);
  expect((await screen.findByRole('alert')).textContent).toBe('Look at it again.');
  await user.click(screen.getByRole('button', { name: 'none' }));
  expect(take).toHaveProperty('disabled', true);
  expect(screen.getByRole('dialog').textContent).toContain('Choose a part at least.');
  expect(closed).toBe(0);
});

test('without an outset it is said how one comes to be', async () => {
  servedBy([[listOutsets, () => ({ outsets: [] })]]);
  shownAt('/', <TakeOutset plan={5} name="B" currency="GBP" onClose={() => {}} />);
  expect(await screen.findByText('No outsets yet')).toBeTruthy();
  expect(screen.queryByRole('button', { name: 'Take it in' })).toBeNull();
});

test('a plan’s rules are kept as a new outset or in the place of one; a name that is taken is told', async () => {
  const asked = servedBy([
    [listOutsets, () => ({ outsets: [outset(3, 'Usual', { isDefault: true })] })],
    [
      keepOutset,
      ({ body }) =>
        (body as { instead: number | null }).instead === null
          ? Response.json(
              { code: 'invalid', message: 'Another outset is called so.', at: 'name' },
              { status: 400 },
            )
          : { id: 3 },
    ],
    [editOutset, () => ({})],
  ]);
  let closed = 0;
  const { user } = shownAt('/', <KeepOutset plan={9} name="Usual" onClose={() => closed++} />);
  const dialog = await screen.findByRole('dialog');
  await within(dialog).findByRole('option', { name: /^Usual/ });
  await user.click(within(dialog).getByRole('button', { name: 'Keep the outset' }));
  expect((await screen.findByRole('alert')).textContent).toBe('Another outset is called so.');
  await user.selectOptions(within(dialog).getByLabelText('Kept as'), '3');
  await user.click(within(dialog).getByLabelText('Themes'));
  // It stays what new plans begin with, without another press.
  expect(within(dialog).getByLabelText(/^New plans begin/)).toHaveProperty('checked', true);
  await user.click(within(dialog).getByRole('button', { name: 'Keep the outset' }));
  await waitFor(() => expect(closed).toBe(1));
  const kept = asked.filter(({ path }) => path === '/api/plans/9/outsets');
  expect(kept.at(-1)?.body).toEqual({
    name: 'Usual',
    parts: outsetParts.filter((part) => part !== 'themes'),
    instead: 3,
  });
  expect(asked.some(({ method }) => method === 'PATCH')).toBe(false);
});

test('one that was removed is put back, as the default that it was', async () => {
  let there = true;
  const asked = servedBy([
    [listOutsets, () => ({ outsets: there ? [outset(4, 'Usual', { isDefault: true })] : [] })],
    [
      editOutset,
      ({ body }) => {
        const { isRemoved } = body as { isRemoved?: boolean };
        if (isRemoved !== undefined) there = !isRemoved;
        return {};
      },
    ],
  ]);
  const { user } = shownAt(
    '/',
    <>
      <OutsetList />
      <Toaster />
    </>,
  );
  await user.click(await screen.findByRole('button', { name: 'Remove the outset Usual' }));
  await waitFor(() => expect(screen.queryByText('new plans begin so')).toBeNull());
  await user.click(await screen.findByRole('button', { name: 'Put it back' }));
  expect(await screen.findByText('new plans begin so')).toBeTruthy();
  expect(asked.filter(({ method }) => method === 'PATCH').map(({ body }) => body)).toEqual([
    { isRemoved: true },
    { isRemoved: false, isDefault: true },
  ]);
});
