import { type HeldValue, holdMany, letGo, listHolds } from '@sprig/contracts';
import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { heard, servedBy, shownAt } from '../../testing/rendered.tsx';
import { useManyRows } from './use-many-rows.ts';

const held = (rowKey: string, field: string, outlet: string | null = null): HeldValue => ({
  id: 1,
  rowKey,
  field,
  outlet,
  value: 1,
  orphan: false,
  keyword: null,
  keywordId: 0,
  cut: false,
});

function Shown() {
  const many = useManyRows(7, 'keyword row');
  return (
    <>
      <p>
        {many.heldIn(['a', 'b']).length} held, {many.heldIn(['c']).length} elsewhere
      </p>
      {Object.entries(many.keys).map(([key, run]) => (
        <button key={key} type="button" onClick={() => run(['a', 'b'])}>
          {key}
        </button>
      ))}
    </>
  );
}

async function open(holds: HeldValue[]) {
  const asked = servedBy([
    [listHolds, () => ({ holds })],
    [letGo, () => ({ revision: 2 })],
    [holdMany, () => ({ revision: 2, held: 2 })],
  ]);
  const screenOf = shownAt('/', <Shown />);
  const sent = () => asked.filter(({ method }) => method !== 'GET').map(({ body }) => body);
  return { ...screenOf, sent, words: heard() };
}

test('what is held of the rows for all outlets is let go, and nothing else', async () => {
  const { user, sent, words } = await open([
    held('a', 'bid'),
    held('b', 'bid'),
    held('b', 'status'),
    held('a', 'headline1', 'quillmere'),
    held('c', 'bid'),
  ]);
  await screen.findByText('3 held, 1 elsewhere');
  await user.click(screen.getByRole('button', { name: 'l' }));
  await waitFor(() => expect(words()).toHaveLength(1));
  expect(sent()).toEqual([
    {
      places: [
        { rowKey: 'a', field: 'bid' },
        { rowKey: 'b', field: 'bid' },
        { rowKey: 'b', field: 'status' },
      ],
    },
  ]);
  expect(words()[0]?.words).toBe('Let 3 values go. The rule’s values are back.');
});

test('where nothing is held nothing is asked; paused and enabled say of how many', async () => {
  const { user, sent, words } = await open([held('c', 'bid')]);
  await screen.findByText('0 held, 1 elsewhere');
  for (const name of ['l', 'p', 'e']) await user.click(screen.getByRole('button', { name }));
  await waitFor(() => expect(words()).toHaveLength(2));
  expect(sent()).toEqual([
    { rowKeys: ['a', 'b'], field: 'status', value: 'paused' },
    { rowKeys: ['a', 'b'], field: 'status', value: 'enabled' },
  ]);
  expect(words().map((one) => one.words)).toEqual(['Paused 2 keyword rows.', 'Enabled 2 keyword rows.']);
});
