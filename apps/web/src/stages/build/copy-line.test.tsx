import { editCopy, type GroupPage, readStanding } from '@sprig/contracts';
import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { refusing, servedBy, shownAt } from '../../testing/rendered.tsx';
import { CopyLine } from './CopyLine.tsx';

const page = (key: string): GroupPage =>
  ({
    group: { key },
    rows: [{ text: 'green tea' }, { text: 'green tea' }, { text: 'tea pot' }],
    rowCount: 3,
  }) as GroupPage;
const copy = (own: number[] | null) => ({
  id: 3,
  of: 't2',
  name: 'Twin',
  ads: true,
  own: own && { keywords: own, campaign: 'c' },
});

function open(
  key: string,
  own: number[] | null,
  answer: () => unknown = () => ({ revision: 4, keywords: 2 }),
) {
  const asked = servedBy([
    [readStanding, () => ({ copies: [copy(own)], parts: [] })],
    [editCopy, answer],
  ]);
  const { user } = shownAt('/', <CopyLine plan={7} page={page(key)} />);
  return { user, sent: () => asked.filter(({ method }) => method === 'POST').map(({ body }) => body) };
}

test('a copy that follows can stop; an ad group that is no copy has no such line', async () => {
  const { user, sent } = open('x3.t2', null);
  await user.click(await screen.findByRole('button', { name: 'Stop following' }));
  await waitFor(() => expect(sent()).toEqual([{ key: 'x3.t2', own: 'as-is' }]));
});

test('one that is no copy says nothing', async () => {
  open('t2', null);
  await waitFor(() => expect(screen.queryByText(/copy/i)).toBeNull());
});

test('keywords of its own are typed, and what is refused stays as typed with its reason', async () => {
  const { user, sent } = open('x3.t2', [1, 2], () =>
    refusing({
      code: 'invalid',
      message: '1 keyword not in the pool, such as “oolong”. Take them in first.',
    }),
  );
  await user.click(await screen.findByRole('button', { name: /Keywords of its own/ }));
  const field = await screen.findByRole<HTMLTextAreaElement>('textbox');
  expect(field.value).toBe('green tea\ntea pot');
  await user.clear(field);
  await user.type(field, 'oolong');
  await user.keyboard('{Control>}{Enter}{/Control}');
  await waitFor(() => expect(sent()).toEqual([{ key: 'x3.t2', own: ['oolong'] }]));
  expect(await screen.findByText(/not in the pool, such as “oolong”/)).toBeTruthy();
});
