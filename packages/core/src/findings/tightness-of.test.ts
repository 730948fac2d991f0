import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { english, normalise } from '../text/index.ts';
import { Tightness } from './tightness-of.ts';

/** The same by its definition, keyword by keyword. */
function byDefinition(texts: readonly string[]): number {
  const all = texts.map(
    (text) =>
      new Set(
        normalise(text)
          .split(' ')
          .filter((word) => word !== '' && !english.functionWords.has(word))
          .map(english.numberFold),
      ),
  );
  const shares = all.map((words) => {
    const shared = [...words].filter((word) => all.filter((own) => own.has(word)).length * 2 > texts.length);
    return words.size === 0 ? 1 : shared.length / words.size;
  });
  return texts.length < 2 ? 1 : shares.reduce((sum, share) => sum + share, 0) / texts.length;
}

const word = fc.constantFrom('kayak', 'kayaks', 'Canoe', 'for', 'the', 'hire', 'sit-on-tops', 'é', 'bass');
const text = fc.array(word, { maxLength: 5 }).map((words) => words.join(' '));

describe('how much keywords speak of the same', () => {
  test.each([
    [['sea kayak', 'sea kayaks', 'the sea kayak'], 1],
    [['sea kayak', 'canoe hire'], 0],
    [['sea kayak', 'sea canoe', 'sea hire'], 0.5],
    [['kayak'], 1],
    [[], 1],
  ])('%j: %d', (texts, share) => {
    expect(new Tightness(english).of(texts)).toBe(share);
  });

  test('is the same for one that has gone over other groups before', () => {
    fc.assert(
      fc.property(fc.array(fc.array(text, { maxLength: 8 }), { maxLength: 5 }), (groups) => {
        const tightness = new Tightness(english);
        for (const texts of groups) expect(tightness.of(texts)).toBeCloseTo(byDefinition(texts), 10);
      }),
    );
  });
});
