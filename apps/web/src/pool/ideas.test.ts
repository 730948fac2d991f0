import { bareColumns } from '@sprig/contracts';
import { expect, test } from 'vitest';
import { Ideas } from './ideas.ts';
import { PoolStore } from './pool-store.ts';

const input = { language: 'en', functionWords: null, places: [], dismissed: [] as string[] };
const traits = ['red', 'blue', 'small', 'large', 'old', 'new'];
const goods = ['teapot', 'kettle', 'saucer', 'strainer', 'sauser'];

/** Every trait with every thing, but for two combinations. */
function ideasOf(slips: Record<string, string> = {}) {
  const store = new PoolStore();
  const all = traits.flatMap((trait) => goods.map((good) => `${trait} ${good}`));
  store.take(bareColumns(all.filter((text) => text !== 'old kettle' && text !== 'new sauser')));
  return new Ideas(store, () => slips);
}

test('nothing is made of a likely misspelling: no idea, no member of a class, none of its contexts', () => {
  const plain = ideasOf().gaps(input);
  expect(plain.ideas.map(({ text }) => text)).toEqual(expect.arrayContaining(['old kettle', 'new sauser']));
  expect(JSON.stringify(plain.classes)).toContain('sauser');
  const { ideas, classes } = ideasOf({ sauser: 'saucer' }).gaps(input);
  expect(ideas.map(({ text }) => text)).toContain('old kettle');
  expect(ideas.filter(({ text }) => text.includes('sauser'))).toEqual([]);
  expect(classes.length).toBeGreaterThan(0);
  for (const { fillers, contexts } of classes) {
    expect(fillers.join()).not.toContain('sauser');
    for (const { before, behind, there, count } of contexts) {
      expect(`${before} ${behind}`).not.toContain('sauser');
      expect(there).toHaveLength(fillers.length);
      expect(count).toBe(there.reduce((sum, is) => sum + is, 0));
    }
  }
});

test('what was dismissed is not proposed again', () =>
  expect(
    ideasOf()
      .gaps({ ...input, dismissed: ['old kettle'] })
      .ideas.map(({ text }) => text),
  ).not.toContain('old kettle'));
