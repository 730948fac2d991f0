import fc from 'fast-check';
import { expect, test } from 'vitest';
import { TextSet } from './index.ts';

test('a set of texts by their hashes says what a set of texts says', () => {
  fc.assert(
    fc.property(fc.array(fc.string({ maxLength: 6 }), { maxLength: 400 }), (texts) => {
      const set = new TextSet();
      const plain = new Set<string>();
      for (const text of texts) {
        expect(set.has(text)).toBe(plain.has(text));
        expect(set.metBefore(text)).toBe(plain.has(text));
        plain.add(text);
      }
    }),
  );
});

test('it grows', () => {
  const set = new TextSet();
  for (let at = 0; at < 50_000; at++) expect(set.metBefore(`kayak ${at}`)).toBe(false);
  for (let at = 0; at < 50_000; at += 7) expect(set.has(`kayak ${at}`)).toBe(true);
  expect(set.has('canoe')).toBe(false);
});
