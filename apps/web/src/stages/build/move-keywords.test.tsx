import { placeByHand, readSort } from '@sprig/contracts';
import { screen, waitFor } from '@testing-library/react';
import { expect, test } from 'vitest';
import { servedBy, shownAt } from '../../testing/rendered.tsx';
import { keywordsOf, MoveKeywords, themesFound } from './MoveKeywords.tsx';

const theme = (id: number, name: string, parent: number | null = null) => ({
  id,
  parent,
  name,
  sift: null,
  idea: false,
  colour: null,
  stage: null,
});
const themes = [theme(1, 'Crowns'), theme(2, 'Prices', 1), theme(3, 'Crown care')];

test('themes are found by all words of their paths, the shortest first', () => {
  expect(themesFound(themes, 'crown').map(({ path }) => path)).toEqual([
    'Crowns',
    'Crown care',
    'Crowns › Prices',
  ]);
  expect(themesFound(themes, 'pri CROWNS')).toEqual([{ id: 2, path: 'Crowns › Prices' }]);
  expect(themesFound(themes, 'gums')).toEqual([]);
});

test('keyword rows are of keywords, each once, copies among them', () =>
  expect(keywordsOf(['k12:e', 'k12:p', 'x3.k7:b', 'no row'])).toEqual([12, 7]));

test('keywords move to a theme that is picked, or to a new one', async () => {
  const asked = servedBy([
    [
      readSort,
      () => ({
        themes,
        placed: [],
        settings: { stopWords: [] },
        seen: 0,
      }),
    ],
    [placeByHand, () => ({ revision: 4 })],
  ]);
  const sent = () => asked.filter(({ method }) => method === 'POST').map(({ body }) => body);
  let closed = 0;
  const { user } = shownAt('/', <MoveKeywords plan={7} rows={['k12:e', 'k7:b']} onClose={() => closed++} />);
  const field = screen.getByLabelText('Theme to move them to');
  await user.type(field, 'gums{Enter}');
  await waitFor(() => expect(closed).toBe(1));
  expect(sent()).toEqual([{ keywords: [12, 7], made: { name: 'gums', parent: null } }]);
});
