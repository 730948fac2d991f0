import { expect, test } from 'vitest';
import { english } from '../text/index.ts';
import { sitePhrases } from './index.ts';

test('runs of one to four words, weighed by where they stand and on how many pages', () => {
  const shop = { text: 'Teapots', where: 'navigation' as const };
  const phrases = sitePhrases(
    [
      { texts: [{ text: 'Cast iron teapots – handmade | Orrin', where: 'title' }, shop] },
      { texts: [{ text: 'Cast iron teapots and glass kettles for tea', where: 'heading' }, shop] },
      { texts: [{ text: 'photo 12', where: 'picture' }, shop] },
    ],
    english,
  );
  const of = (text: string) => phrases.find((one) => one.text === text);
  expect(phrases[0]).toMatchObject({ text: 'cast iron teapots', pages: 2, where: ['heading', 'title'] });
  expect(of('teapots')).toMatchObject({ pages: 3 });
  expect(of('handmade')).toBeDefined();
  // Two things, a function word at the end, a number alone, and what is only within a longer run.
  for (const text of ['teapots and glass', 'kettles for', '12', 'cast iron'])
    expect(of(text)).toBeUndefined();
  expect(sitePhrases([], english)).toEqual([]);
});
