import { changeAllNegatives, orderAllNegatives, pageAllNegatives, readMe } from '@sprig/contracts';
import { screen, waitFor } from '@testing-library/react';
import { beforeEach, expect, test, vi } from 'vitest';
import { planState } from '../../../testing/plan-state.ts';
import { servedBy, shownAt } from '../../../testing/rendered.tsx';
import type { BuildActions } from '../use-build.ts';
import { ManyNegatives } from './ManyNegatives.tsx';
import { NegativeTable } from './NegativeTable.tsx';
import { changedWords } from './negative-words.ts';

const rows = [
  { key: 'p1', level: 'plan', text: 'free', type: 'broad', place: '', placeName: '', note: '', blocks: true },
  {
    key: 'n2',
    level: 'group',
    text: 'pain',
    type: 'broad',
    place: 't1',
    placeName: 'Crowns',
    note: '',
    blocks: false,
  },
  {
    key: 'ft1/e/crown price',
    level: 'fence',
    text: 'crown price',
    type: 'exact',
    place: 't1',
    placeName: 'Crowns',
    note: 'Prices',
    blocks: false,
  },
];

beforeEach(() => {
  // jsdom lays nothing out: the table has to be as high as its rows.
  vi.spyOn(HTMLElement.prototype, 'offsetHeight', 'get').mockReturnValue(600);
  vi.spyOn(HTMLElement.prototype, 'offsetWidth', 'get').mockReturnValue(1_200);
});

function open() {
  const asked = servedBy([
    [orderAllNegatives, () => ({ builtRevision: 5, keys: rows.map(({ key }) => key) })],
    [pageAllNegatives, () => ({ negatives: rows })],
    [changeAllNegatives, () => ({ revision: 6, changed: 1, left: 1 })],
    [readMe, () => ({})],
  ]);
  const opened = vi.fn();
  const shown = shownAt(
    '/',
    <NegativeTable plan={planState} campaigns={[{ key: 'c', name: 'Dentist' }]} onOpen={opened} />,
  );
  const changes = () => asked.filter(({ path }) => path.endsWith('/change')).map(({ body }) => body);
  return { ...shown, changes, opened };
}

test('types are changed in place and for the selection, and what was left is told', async () => {
  const { user, changes } = open();
  await user.selectOptions(await screen.findByLabelText('Match type of pain'), 'exact');
  expect(screen.queryByLabelText('Match type of crown price')).toBeNull();
  await screen.findByText(
    /Changed 1 negative keyword. 1 other stayed: fences and those of shared lists keep/,
  );
  await user.click(screen.getAllByRole('checkbox')[0] as HTMLElement);
  await user.selectOptions(screen.getByLabelText('Where the selection is to stand'), 'c');
  await waitFor(() => expect(changes()).toHaveLength(2));
  expect(changes()).toEqual([
    { keys: ['n2'], change: { kind: 'type', type: 'exact' } },
    { keys: rows.map(({ key }) => key), change: { kind: 'places', places: ['c'] } },
  ]);
});

test('before fences are taken away it is asked why; without a word nothing goes', async () => {
  const { user, changes } = open();
  await screen.findByText('crown price');
  await user.click(screen.getAllByRole('checkbox')[0] as HTMLElement);
  await user.click(screen.getByRole('button', { name: /Take 3 negatives away/ }));
  const why = screen.getByLabelText('Why these fences are taken away');
  await user.type(why, ' {Enter}');
  expect(changes()).toEqual([]);
  await user.type(why, 'both may show{Enter}');
  await waitFor(() => expect(changes()).toHaveLength(1));
  expect(changes()).toEqual([
    { keys: rows.map(({ key }) => key), change: { kind: 'remove', reason: ' both may show' } },
  ]);
});

test('the same negatives go to many places; what can’t be read is told before', async () => {
  servedBy([]);
  const addNegatives = vi.fn(async () => true);
  const { user } = shownAt(
    '/',
    <ManyNegatives
      places={['t1', 't2']}
      what="2 ad groups"
      actions={{ addNegatives } as unknown as BuildActions}
      onClose={() => {}}
    />,
  );
  const field = screen.getByLabelText('Negatives to add');
  await user.type(field, '"half open');
  expect(screen.getByRole('status').textContent).toContain('can’t be read');
  await user.clear(field);
  await user.type(field, 'free, "how to make"');
  await user.click(screen.getByRole('button', { name: 'Add 2 negatives' }));
  expect(addNegatives).toHaveBeenCalledWith(
    ['t1', 't2'],
    [
      { text: 'free', type: 'broad' },
      { text: 'how to make', type: 'phrase' },
    ],
  );
});

test.each([
  ['type', 3, 0, 'Changed 3 negative keywords.'],
  [
    'remove',
    1,
    2,
    'Took away 1 negative keyword. 2 others stayed: those of shared lists are taken away in Prune.',
  ],
  ['back', 1, 0, 'Put back 1 negative keyword.'],
] as const)('%s of %i with %i left says so', (kind, changed, left, words) =>
  expect(changedWords(kind, { changed, left })).toBe(words),
);
