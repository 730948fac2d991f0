import { expect, test } from 'vitest';
import {
  bitOf,
  codeOf,
  countIn,
  matchRules,
  matchTypes,
  narrownessOf,
  setOf,
  typeOf,
  typesIn,
} from './index.ts';

test('what is stored of a match type never changes', () =>
  expect(Object.fromEntries(matchTypes.map((type) => [type, [codeOf(type), matchRules[type].key]]))).toEqual({
    broad: [0, 'b'],
    modified: [1, 'm'],
    phrase: [2, 'p'],
    exact: [3, 'e'],
  }));

test('no two types share a code, a key or words, and every one is listed', () => {
  expect([...matchTypes].sort()).toEqual(Object.keys(matchRules).sort());
  for (const part of ['code', 'key', 'words'] as const)
    expect(new Set(matchTypes.map((type) => matchRules[type][part])).size).toBe(matchTypes.length);
  for (const type of matchTypes) expect(matchRules[type].key).toMatch(/^[a-z]$/);
});

test('a stored code is read back as its type, and one of no type is told', () => {
  for (const type of matchTypes) expect(typeOf(codeOf(type))).toBe(type);
  expect(() => typeOf(9)).toThrow('No match type has the code 9.');
});

test('sets hold what was put in, in the order of display', () => {
  for (let set = 0; set < 16; set++) {
    expect(setOf(typesIn(set))).toBe(set);
    expect(countIn(set)).toBe(typesIn(set).length);
  }
  expect(setOf(['exact', 'broad'])).toBe(bitOf('broad') | bitOf('exact'));
  expect(typesIn(setOf(['exact', 'broad']))).toEqual(['broad', 'exact']);
  expect(narrownessOf('exact')).toBeGreaterThan(narrownessOf('phrase'));
});
