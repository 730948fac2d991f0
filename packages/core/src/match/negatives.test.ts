import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { NegativeIndex, type NegativeType, negativeBlocks, negativeTypes, writeNegative } from './index.ts';

describe('what a negative blocks', () => {
  test.each<[NegativeType, string, string, boolean]>([
    ['broad', 'jobs', 'kayak jobs', true],
    ['broad', 'free kayak', 'kayak for free', true],
    ['broad', 'free kayak', 'kayak', false],
    ['broad', 'job', 'kayak jobs', false],
    ['broad', 'kayak', 'kayaks', false],
    ['phrase', 'free plans', 'free plans for a canoe', true],
    ['phrase', 'free plans', 'plans free', false],
    ['phrase', 'free plans', 'free canoe plans', false],
    ['phrase', 'free', 'freed kayak', false],
    ['exact', 'sup meaning', 'sup meaning', true],
    ['exact', 'sup meaning', 'sup meaning slang', false],
  ])('%s %j against %j: %s', (type, norm, search, blocks) => {
    expect(negativeBlocks({ norm, type }, search)).toBe(blocks);
    expect(new NegativeIndex([{ id: 7, norm, type }]).blocking(search)).toBe(blocks ? 7 : undefined);
  });

  test('the index blocks what a scan of all negatives blocks', () => {
    const text = fc.array(fc.constantFrom('a', 'bb', 'ccc', 'dd', 'e'), { minLength: 1, maxLength: 4 });
    const negative = fc.record({ words: text, type: fc.constantFrom(...negativeTypes) });
    fc.assert(
      fc.property(fc.array(negative, { maxLength: 12 }), text, (list, words) => {
        const negatives = list.map(({ words: own, type }, id) => ({ id, norm: own.join(' '), type }));
        const search = words.join(' ');
        const scan = negatives.filter((one) => negativeBlocks(one, search)).map(({ id }) => id);
        const index = new NegativeIndex(negatives);
        // The same exact negative twice blocks no more than once.
        const byText = (ids: number[]) =>
          new Set(ids.map((id) => `${negatives[id]?.type} ${negatives[id]?.norm}`));
        expect(byText(index.allBlocking(search))).toEqual(byText(scan));
        expect(index.blocking(search) !== undefined).toBe(scan.length > 0);
      }),
    );
  });

  test.each<[NegativeType, string]>([
    ['broad', '-red kayak'],
    ['phrase', '-"red kayak"'],
    ['exact', '-[red kayak]'],
  ])('%s in notation', (type, notation) => expect(writeNegative('red kayak', type)).toBe(notation));
});
