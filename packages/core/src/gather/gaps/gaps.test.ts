import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { fields, labelledWorld } from '../../../fixtures/labelled-world.ts';
import { english, seeded } from '../../text/index.ts';
import { around, completions, findGaps, type GapPool, PoolContexts, whyWords } from './index.ts';

const poolOf = (norms: readonly string[]): GapPool => ({
  length: norms.length,
  normOf: (row) => norms[row] as string,
});
const gapsOf = (norms: readonly string[], more: object = {}) =>
  findGaps(poolOf(norms), { pack: english, ...more });
const grid = (rows: string[], columns: string[]) =>
  rows.flatMap((row) => columns.map((column) => `${row} ${column}`));
const TRAITS = ['red', 'blue', 'green', 'cast iron', 'small'];
const GOODS = ['teapot', 'kettle', 'mug', 'jug'];

describe('what is taken out of a labelled world', () => {
  // A tenth is taken out, and a fifth of other keywords that hang together with nothing is put in.
  test.each([
    ['tea', fields.tea],
    ['dentist', fields.dentist],
    ['software', fields.software],
  ] as const)('%s: of what is missing at least 80%% are among the first 2n', (_, field) => {
    const { norms } = labelledWorld(field, 5_000_000, 3);
    const random = seeded(5);
    const missing = new Set(norms.filter(() => random() < 0.1));
    const noise = Array.from(
      { length: norms.length / 5 },
      (_, at) => `odd${at} words${at % 13} here${at % 7}`,
    );
    const { gaps } = gapsOf([...norms.filter((norm) => !missing.has(norm)), ...noise], { most: 100_000 });
    const first = gaps.slice(0, 2 * missing.size).filter(({ text }) => missing.has(text));
    expect(first.length / missing.size).toBeGreaterThan(0.8);
  });

  test('one keyword out of a context that most of its class fill is proposed, with why', () => {
    const all = grid(TRAITS, GOODS);
    fc.assert(
      fc.property(fc.nat(all.length - 1), (out) => {
        const missing = all[out] as string;
        const { gaps } = gapsOf(all.filter((norm) => norm !== missing));
        const [gap] = gaps;
        expect(gap?.text).toBe(missing);
        expect(`${gap?.before} ${gap?.filler} ${gap?.behind}`.trim()).toBe(missing);
        expect(gap?.there).toBe((gap?.of as number) - 1);
        expect(gap?.fullness).toBeGreaterThan(0.5);
      }),
      { seed: 4, numRuns: 20 },
    );
  });
});

describe('classes', () => {
  test('goods and traits come apart, each with the contexts that most of them fill and what is missing', () => {
    const { classes, gaps } = gapsOf(grid(TRAITS, GOODS).filter((norm) => norm !== 'cast iron mug'));
    const classWith = (filler: string) => classes.find(({ fillers }) => fillers.includes(filler));
    expect(gaps.map(({ text }) => text)).toEqual(['cast iron mug']);
    const [shown] = classes;
    const found = shown === classWith('mug') ? GOODS : TRAITS;
    expect([...(shown?.fillers ?? [])].sort()).toEqual([...found].sort());
    const missing = shown?.contexts.find(({ there }) => there.includes(0));
    expect(missing?.count).toBe(found.length - 1);
  });

  test('nothing is found where nothing hangs together', () => {
    expect(gapsOf([])).toEqual({ gaps: [], classes: [] });
    expect(gapsOf(['teapot']).gaps).toEqual([]);
    expect(gapsOf(Array.from({ length: 500 }, (_, at) => `a${at} b${at}`)).gaps).toEqual([]);
    expect(gapsOf(Array.from({ length: 3_000 }, (_, at) => `w${at}`)).gaps).toEqual([]);
  });

  test('a word does not stand twice, and what was dismissed does not come back', () => {
    const norms = [
      ...grid(['red', 'blue', 'mug'], ['mug', 'mugs', 'red', 'jug', 'pot']).filter(
        (norm) => norm !== 'mug mugs',
      ),
      'odd one',
    ];
    for (const { text } of gapsOf(norms).gaps)
      expect(new Set(text.split(' ').map(english.numberFold)).size).toBe(text.split(' ').length);
    const most = grid(TRAITS, GOODS).filter((norm) => norm !== 'red mug' && norm !== 'blue jug');
    expect(
      gapsOf(most, { isDismissed: (text: string) => text === 'red mug' }).gaps.map(({ text }) => text),
    ).toEqual(['blue jug']);
  });

  test('more searched comes first among those alike; a twin of what is there comes last', () => {
    const most = grid(TRAITS, GOODS).filter((norm) => norm !== 'red mug' && norm !== 'blue jug');
    const order = (searched: string) =>
      gapsOf(most, { searchesOf: (text: string) => (text === searched ? 9_000 : 3) }).gaps.map(
        ({ text }) => text,
      );
    expect(order('red mug')).toEqual(['red mug', 'blue jug']);
    expect(order('blue jug')).toEqual(['blue jug', 'red mug']);
    const twins = [...grid(TRAITS, [...GOODS, 'jugs'])].filter(
      (norm) => norm !== 'red jugs' && norm !== 'blue mug',
    );
    expect(gapsOf(twins).gaps.map(({ text }) => text)).toEqual(['blue mug', 'red jugs']);
  });
});

describe('around words', () => {
  const contexts = new PoolContexts(
    poolOf([
      ...grid(TRAITS, GOODS),
      'teapot for sale',
      'kettle for sale',
      'mug for sale',
      'best teapot',
      'best mug',
      'best jug',
    ]),
    english,
  );
  const found = around('cast iron teapot', { contexts, pack: english, places: ['stelby'] });
  const whyOf = (text: string) => found.find((one) => one.text === text)?.why.kind;

  test('what stands beside, what stands in its place, places, and what is common: none that is there', () => {
    expect(whyOf('cast iron teapot for sale')).toBe('beside');
    expect(whyOf('best cast iron teapot')).toBe('beside');
    expect(whyOf('cast iron teapot stelby')).toBe('place');
    expect(whyOf('cast iron teapot near me')).toBe('common');
    expect(found.map(({ text }) => text)).not.toContain('cast iron kettle');
    expect(new Set(found.map(({ text }) => text)).size).toBe(found.length);
    expect(found.map(whyWords).every((words) => words.length > 10)).toBe(true);
  });

  test('words that the pool lacks still have what is common', () => {
    const texts = around('hand thrown bowl', { contexts, pack: english, places: [] }).map(({ text }) => text);
    expect(texts).toContain('hand thrown bowl');
    expect(texts).toContain('best hand thrown bowl');
  });
});

test('lists found in the pool, and what would fit a list', () => {
  const contexts = new PoolContexts(poolOf(grid(TRAITS, GOODS)), english);
  const classes = contexts.classes(5).map((one) => [...one].sort());
  expect(classes).toContainEqual([...GOODS].sort());
  expect(classes).toContainEqual([...TRAITS].sort());
  expect(contexts.fitting(['teapot', 'mug'], 5).sort()).toEqual(['jug', 'kettle']);
  expect(contexts.fitting(['nothing like it'], 5)).toEqual([]);
});

test('completions grow word by word, the most usual first', () => {
  const norms = ['cast iron teapot', 'cast iron kettle', 'cast steel pan', 'mug'];
  expect(completions(norms, 'cast i', 9)).toEqual(['cast iron', 'cast iron kettle', 'cast iron teapot']);
  expect(completions(norms, 'c', 2)).toEqual(['cast', 'cast iron']);
  expect(completions(norms, ' ', 9)).toEqual([]);
  expect(completions(norms, 'zz', 9)).toEqual([]);
});
