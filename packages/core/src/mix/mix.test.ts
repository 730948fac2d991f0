import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { english } from '../text/index.ts';
import {
  countMix,
  type DropReason,
  emptyRecipe,
  entryWeights,
  lookUpAll,
  type Mixture,
  matrixOf,
  mix,
  type Pattern,
  type Recipe,
  type RecipeList,
  resolveLists,
  type Slot,
  sampleOf,
  shortenTo,
  TextIndex,
  textAt,
  textsOf,
} from './index.ts';
import { plainMix } from './plain-mix.ts';

const nothingElse = { shared: new Map(), places: [], brands: [], offers: [] };
const wide = { words: 50, length: 500 };

const own = (id: number, name: string, ...lines: string[]): RecipeList => ({
  id,
  kind: 'own',
  name,
  text: lines.join('\n'),
  takes: [],
});
const slot = (list: number): Slot => ({ kind: 'list', list, optional: false });
const maybe = (list: number): Slot => ({ kind: 'list', list, optional: true });
const word = (text: string): Slot => ({ kind: 'word', text });
const pattern = (...slots: Slot[]): Pattern => ({ id: 1, slots, flip: false });
const flipped = (...slots: Slot[]): Pattern => ({ id: 1, slots, flip: true });

const recipeOf = (lists: RecipeList[], patterns: Pattern[], more: Partial<Recipe> = {}): Recipe => ({
  ...emptyRecipe('r'),
  lists,
  patterns: patterns.map((one, at) => ({ ...one, id: at + 1 })),
  ...more,
});

const mixed = (recipe: Recipe, limits = wide, cap?: number): Mixture =>
  mix({
    recipe,
    lists: resolveLists(recipe.lists, nothingElse),
    pack: english,
    limits,
    ...(cap === undefined ? {} : { cap }),
  });
const made = (recipe: Recipe, limits = wide): string[] => [...textsOf(mixed(recipe, limits))];
const droppedTexts = (mixture: Mixture, reason: DropReason) =>
  mixture.listed[reason].map((place) => textAt(mixture, place));

const trait = own(1, 'trait', 'inflatable', 'touring');
const good = own(2, 'good', 'kayak', 'canoe');
const place = own(3, 'place', 'wrenport');

describe('the order in which combinations are made', () => {
  test('leftmost slowest, an optional slot’s nothing last', () => {
    expect(made(recipeOf([trait, good, place], [pattern(maybe(1), slot(2), maybe(3))]))).toEqual([
      'inflatable kayak wrenport',
      'inflatable kayak',
      'inflatable canoe wrenport',
      'inflatable canoe',
      'touring kayak wrenport',
      'touring kayak',
      'touring canoe wrenport',
      'touring canoe',
      'kayak wrenport',
      'kayak',
      'canoe wrenport',
      'canoe',
    ]);
  });

  test('flip adds the reverse after all of these; a pattern of one slot has none', () => {
    expect(made(recipeOf([good, place], [flipped(slot(2), word('in'), slot(3))]))).toEqual([
      'kayak in wrenport',
      'canoe in wrenport',
      'wrenport in kayak',
      'wrenport in canoe',
    ]);
    expect(made(recipeOf([good], [flipped(slot(2))]))).toEqual(['kayak', 'canoe']);
  });

  test('patterns follow each other, and the first that makes a text owns it', () => {
    const mixture = mixed(recipeOf([good, place], [pattern(slot(2), maybe(3)), pattern(slot(2))]));
    expect([...textsOf(mixture)]).toEqual(['kayak wrenport', 'kayak', 'canoe wrenport', 'canoe']);
    expect(mixture.madeBy).toEqual([4, 0]);
    expect(droppedTexts(mixture, 'made-before')).toEqual(['kayak', 'canoe']);
  });

  test('the same in another way is made once: two words of one list are as good as one word each of two', () => {
    const lists = [own(1, 'a', 'sea', 'sea kayak'), own(2, 'b', 'kayak hire', 'hire')];
    expect(made(recipeOf(lists, [pattern(slot(1), slot(2))]))).toEqual(['sea kayak hire', 'sea hire']);
  });
});

describe('what is dropped, and why', () => {
  test('the same content word twice, plural or not; not where repeats are allowed', () => {
    const lists = [own(1, 'a', 'kayak', 'kayaks'), own(2, 'b', 'kayak hire', 'canoe hire')];
    const recipe = recipeOf(lists, [pattern(slot(1), slot(2))]);
    const mixture = mixed(recipe);
    expect([...textsOf(mixture)]).toEqual(['kayak canoe hire', 'kayaks canoe hire']);
    expect(droppedTexts(mixture, 'repeated-word')).toEqual(['kayak kayak hire', 'kayaks kayak hire']);
    expect(made({ ...recipe, repeats: true })).toHaveLength(4);
  });

  test('function words may come twice beside a content word; alone they count themselves', () => {
    const lists = [own(1, 'a', 'hire of the kayak', 'the'), own(2, 'b', 'of the week', 'the', 'of')];
    const mixture = mixed(recipeOf(lists, [pattern(slot(1), slot(2))]));
    expect([...textsOf(mixture)]).toEqual([
      'hire of the kayak of the week',
      'hire of the kayak the',
      'hire of the kayak of',
      'the of the week',
      'the of',
    ]);
    expect(droppedTexts(mixture, 'repeated-word')).toEqual(['the the']);
  });

  test('a list with itself twice makes every ordered pair but a word with itself', () => {
    const mixture = mixed(recipeOf([own(1, 'a', 'kayak', 'canoe', 'sup')], [pattern(slot(1), slot(1))]));
    expect(mixture.made).toHaveLength(6);
    expect(mixture.dropped['repeated-word']).toBe(3);
  });

  test('words that make no keyword by themselves, and those of their list that do', () => {
    const lists = [own(1, 'Traits', 'cheap', 'folding', 'racks'), own(2, 'Things', 'kayak', 'near me')];
    const mixture = mixed(
      recipeOf(lists, [pattern(maybe(1), maybe(2))], {
        alone: [
          { side: { kind: 'list', list: 1 }, but: ['rack'] },
          { side: { kind: 'word', text: 'near me' }, but: [] },
        ],
      }),
    );
    expect([...textsOf(mixture)].filter((text) => !text.includes(' '))).toEqual(['racks', 'kayak']);
    expect(droppedTexts(mixture, 'alone')).toEqual(['cheap', 'folding', 'near me']);
    expect([...textsOf(mixture)]).toContain('cheap near me');
  });

  test('never together: words, runs of words across slots, lists', () => {
    const lists = [
      own(1, 'good', 'kayak'),
      own(2, 'where', 'near me', 'wrenport', 'me'),
      own(3, 'want', 'hire', 'jobs'),
    ];
    const shape = [pattern(slot(1), slot(3), word('in'), slot(2))];
    const near = mixed(
      recipeOf(lists, shape, {
        never: [
          [
            { kind: 'word', text: 'in' },
            { kind: 'word', text: 'near me' },
          ],
        ],
      }),
    );
    expect(droppedTexts(near, 'never-together')).toEqual(['kayak hire in near me', 'kayak jobs in near me']);
    const run = mixed(
      recipeOf(lists, shape, {
        never: [
          [
            { kind: 'word', text: 'in me' },
            { kind: 'word', text: 'jobs' },
          ],
        ],
      }),
    );
    expect(droppedTexts(run, 'never-together')).toEqual(['kayak jobs in me']);
    const list = mixed(
      recipeOf(lists, shape, {
        never: [
          [
            { kind: 'word', text: 'job' },
            { kind: 'list', list: 2 },
          ],
        ],
      }),
    );
    expect(list.dropped['never-together']).toBe(3);
  });

  test('a list is not kept from itself by a word of its own', () => {
    const lists = [own(1, 'good', 'kayak'), own(2, 'place', 'tallowby bay')];
    const never: Recipe['never'] = [
      [
        { kind: 'word', text: 'bay' },
        { kind: 'list', list: 2 },
      ],
    ];
    expect(made(recipeOf(lists, [pattern(slot(1), slot(2))], { never }))).toEqual(['kayak tallowby bay']);
    expect(made(recipeOf(lists, [pattern(slot(1), word('bay'), slot(2))], { never, repeats: true }))).toEqual(
      [],
    );
  });

  test('over the words or the length of the outlets', () => {
    const lists = [own(1, 'a', 'kayak', '東京'), own(2, 'b', 'hire', 'hire now please')];
    const limits = { words: 3, length: 9 };
    const mixture = mixed(recipeOf(lists, [pattern(slot(1), slot(2))]), limits);
    expect([...textsOf(mixture)]).toEqual(['東京 hire']);
    expect(droppedTexts(mixture, 'too-long')).toEqual([
      'kayak hire',
      'kayak hire now please',
      '東京 hire now please',
    ]);
  });

  test('nothing but optional slots: the empty keyword goes', () => {
    const mixture = mixed(recipeOf([good, place], [flipped(maybe(2), maybe(3))]));
    expect(mixture.dropped.empty).toBe(2);
    expect([...textsOf(mixture)]).toEqual([
      'kayak wrenport',
      'kayak',
      'canoe wrenport',
      'canoe',
      'wrenport',
      'wrenport kayak',
      'wrenport canoe',
    ]);
  });
});

describe('what can’t be made is told', () => {
  const problems = (recipe: Recipe, cap?: number) => mixed(recipe, wide, cap).compiled.problems;

  test('an empty list in a required slot makes nothing and says so; in an optional one it is left out', () => {
    const lists = [good, own(3, 'place', '', '  ')];
    const recipe = recipeOf(lists, [pattern(slot(2), slot(3)), pattern(slot(2), maybe(3))]);
    expect(problems(recipe)).toEqual([{ code: 'empty-list', pattern: 1, list: 3 }]);
    expect(made(recipe)).toEqual(['kayak', 'canoe']);
  });

  test('no slots, a list that is gone, a joining word that is none', () => {
    const recipe = recipeOf(
      [good],
      [pattern(), pattern(slot(9)), pattern(slot(2), word('[in')), pattern(slot(2))],
    );
    expect(problems(recipe)).toEqual([
      { code: 'no-slots', pattern: 1 },
      { code: 'no-list', pattern: 2 },
      { code: 'bad-word', pattern: 3, word: '[in' },
    ]);
    expect(made(recipe)).toEqual(['kayak', 'canoe']);
  });

  test('over the cap nothing is made, and the list to shorten is named', () => {
    const lines = (count: number) => Array.from({ length: count }, (_, at) => `w${at}`);
    const recipe = recipeOf(
      [own(1, 'a', ...lines(40)), own(2, 'b', ...lines(30))],
      [pattern(slot(1), slot(2))],
    );
    const mixture = mixed(recipe, wide, 1_000);
    expect(mixture.made).toHaveLength(0);
    expect(mixture.compiled.problems).toEqual([
      { code: 'over-cap', total: 1_200n, list: 1, from: 40, to: 33 },
    ]);
  });

  test('a recipe that is off makes nothing', () => {
    const recipe = recipeOf([good], [pattern(slot(2))], { on: false });
    expect(made(recipe)).toEqual([]);
    expect(mixed(recipe).compiled.count.total).toBe(0n);
  });
});

describe('the count', () => {
  test('is exact by multiplication, however large', () => {
    const sizes: Record<number, number> = { 1: 50_000, 2: 50_000, 3: 50_000, 4: 50_000 };
    const slots = [1, 2, 3, 4].map(maybe);
    expect(countMix([flipped(...slots)], (id) => sizes[id] ?? 0).total).toBe(2n * 50_001n ** 4n);
  });

  test('shortening to what is said fits, and one more does not', () => {
    const sizes = new Map([
      [1, 4_000],
      [2, 900],
    ]);
    const patterns = [flipped(slot(1), slot(2)), pattern(slot(2))];
    const advice = shortenTo(patterns, (id) => sizes.get(id) ?? 0);
    expect(advice).toEqual({ list: 1, from: 4_000, to: 1_110 });
    const total = (size: number) => countMix(patterns, (id) => (id === 1 ? size : 900)).total;
    expect(total(1_110)).toBeLessThanOrEqual(2_000_000n);
    expect(total(1_111)).toBeGreaterThan(2_000_000n);
  });

  test('where one list is not enough, no number is promised', () => {
    const patterns = [pattern(slot(1), slot(2), slot(3))];
    expect(shortenTo(patterns, () => 10_000)).toEqual({ list: 1, from: 10_000, to: null });
  });
});

const someWords = fc.constantFrom(
  'kayak',
  'kayaks',
  'canoe',
  'sea',
  'sea kayak',
  'hire',
  'in',
  'the',
  'near me',
  'me',
  'bay',
  'tallowby bay',
  'of the',
  'kids’',
);
const someLine = fc.array(someWords, { minLength: 1, maxLength: 3 }).map((forms) => forms.join('|'));
const someList = fc.array(someLine, { maxLength: 5 });
const someSlot = fc.oneof(
  fc.record({
    kind: fc.constant('list' as const),
    list: fc.integer({ min: 1, max: 3 }),
    optional: fc.boolean(),
  }),
  fc.record({
    kind: fc.constant('word' as const),
    text: fc.constantFrom('in', 'near', 'sea', 'the', 'kayak'),
  }),
);
const someSide = fc.oneof(
  fc.record({
    kind: fc.constant('word' as const),
    text: fc.constantFrom('kayak', 'in', 'near me', 'sea kayak', 'the bay', 'me'),
  }),
  fc.record({ kind: fc.constant('list' as const), list: fc.integer({ min: 1, max: 3 }) }),
);
const someRecipe = fc
  .record({
    texts: fc.tuple(someList, someList, someList),
    patterns: fc.array(
      fc.record({ slots: fc.array(someSlot, { minLength: 1, maxLength: 4 }), flip: fc.boolean() }),
      { minLength: 1, maxLength: 3 },
    ),
    never: fc.array(fc.tuple(someSide, someSide), { maxLength: 2 }),
    alone: fc.array(
      fc.record({
        side: someSide,
        but: fc.array(fc.constantFrom('kayak', 'sea kayak', 'in'), { maxLength: 1 }),
      }),
      { maxLength: 2 },
    ),
    repeats: fc.boolean(),
    firstFormOnly: fc.boolean(),
  })
  .map(({ texts, patterns, ...rules }) =>
    recipeOf(
      texts.map((lines, at) => own(at + 1, `list ${at + 1}`, ...lines)),
      patterns.map((one) => ({ ...one, id: 0 })),
      rules,
    ),
  );

describe('properties', () => {
  test('the fast way makes and drops what the plain way does, in the same order', () => {
    fc.assert(
      fc.property(someRecipe, fc.constantFrom(wide, { words: 4, length: 18 }), (recipe, limits) => {
        const mixture = mixed(recipe, limits);
        const sound = new Set(mixture.compiled.patterns.map(({ id }) => id));
        const plain = plainMix(
          { ...recipe, patterns: recipe.patterns.filter(({ id }) => sound.has(id)) },
          resolveLists(recipe.lists, nothingElse),
          limits,
        );
        expect([...textsOf(mixture)]).toEqual(plain.made);
        for (const reason of Object.keys(plain.dropped) as DropReason[])
          expect([reason, droppedTexts(mixture, reason)]).toEqual([
            reason,
            plain.dropped[reason].slice(0, 500),
          ]);
      }),
      { numRuns: 600, seed: 4 },
    );
  });

  test('the count is what is made and what is dropped; without anything dropped it is what is made', () => {
    fc.assert(
      fc.property(someRecipe, (recipe) => {
        const mixture = mixed(recipe);
        const dropped = Object.values(mixture.dropped).reduce((sum, count) => sum + count, 0);
        const sound = mixture.compiled.patterns;
        const counted = sound.reduce((sum, { once, flip }) => sum + (flip ? 2 * once : once), 0);
        expect(mixture.made.length + dropped).toBe(counted);
        if (sound.length === recipe.patterns.length)
          expect(mixture.compiled.count.total).toBe(BigInt(counted));
      }),
      { numRuns: 300, seed: 5 },
    );
    const lines = (name: string) => Array.from({ length: 9 }, (_, at) => `${name}${at}`);
    const plain = recipeOf(
      [own(1, 'a', ...lines('a')), own(2, 'b', ...lines('b'))],
      [flipped(slot(1), maybe(2))],
    );
    const mixture = mixed(plain);
    // Only what flip says a second time: the words of the first list alone.
    expect(mixture.dropped).toMatchObject({ 'made-before': 9 });
    expect(mixture.made.length + 9).toBe(Number(mixture.compiled.count.total));
  });

  test('the same recipe gives the same, and no text twice', () => {
    fc.assert(
      fc.property(someRecipe, (recipe) => {
        const texts = made(recipe);
        expect(made(structuredClone(recipe))).toEqual(texts);
        expect(new Set(texts).size).toBe(texts.length);
      }),
      { numRuns: 100, seed: 6 },
    );
  });

  test('taking flip off gives back what was there before', () => {
    fc.assert(
      fc.property(someRecipe, (recipe) => {
        const [first] = recipe.patterns;
        const plain = { ...recipe, patterns: [{ ...(first as Pattern), flip: false }] };
        const turned = { ...recipe, patterns: [{ ...(first as Pattern), flip: true }] };
        const before = made(plain);
        expect(made(turned).slice(0, before.length)).toEqual(before);
        expect(made({ ...turned, patterns: plain.patterns })).toEqual(before);
      }),
      { numRuns: 200, seed: 7 },
    );
  });
});

describe('looking texts up elsewhere', () => {
  test('finds each text that is there, and no other', () => {
    const mixture = mixed(recipeOf([trait, good, place], [pattern(maybe(1), slot(2), maybe(3))]));
    const pool = new TextIndex(['canoe', 'kayaks', 'touring kayak', 'inflatable canoe wrenport']);
    const found = lookUpAll(mixture, pool);
    const texts = [...textsOf(mixture)];
    expect(texts.flatMap((text, at) => ((found[at] as number) >= 0 ? [[text, found[at]]] : []))).toEqual([
      ['inflatable canoe wrenport', 3],
      ['touring kayak', 2],
      ['canoe', 0],
    ]);
  });
});

describe('the matrix', () => {
  const recipe = recipeOf(
    [
      own(1, 'trait', 'inflatable', 'sea'),
      own(2, 'good', 'kayak|kayaks', 'canoe'),
      own(3, 'place', 'wrenport', 'heronsea'),
    ],
    [pattern(maybe(1), slot(2), maybe(3)), flipped(slot(3), slot(2))],
  );
  const mixture = mixed(recipe);
  const texts = [...textsOf(mixture)];
  const searches = (at: number) => (texts[at]?.length ?? 0) * 10;

  test('each cell is the sum over the combinations that hold both entries', () => {
    const view = { rows: 1, columns: 2, rest: [] };
    const matrix = matrixOf(mixture, view, searches, (at) => texts[at] === 'sea canoe');
    expect(matrix.rowNames).toEqual(['inflatable', 'sea', null]);
    expect(matrix.columnNames).toEqual(['kayak', 'canoe']);
    const sum = (...list: string[]) => list.reduce((all, text) => all + text.length * 10, 0);
    expect(matrix.searches[2]).toBe(
      sum(
        'sea kayak wrenport',
        'sea kayak heronsea',
        'sea kayak',
        'sea kayaks wrenport',
        'sea kayaks heronsea',
        'sea kayaks',
      ),
    );
    expect(matrix.searches[3]).toBe(sum('sea canoe wrenport', 'sea canoe heronsea'));
    expect([...matrix.combinations]).toEqual([6, 3, 6, 3, 6, 3]);
    expect([...matrix.cut]).toEqual([0, 0, 0, 1, 0, 0]);
    expect([...matrix.cutSearches]).toEqual([0, 0, 0, 'sea canoe'.length * 10, 0, 0]);
    // What flip and the second pattern make without a trait slot: places before goods.
    expect(matrix.elsewhere).toBe(texts.length - 27);
  });

  test('the other slots are chosen: an entry, or left out', () => {
    const at = (entry: number | null) =>
      matrixOf(mixture, { rows: 1, columns: 2, rest: [{ list: 3, entry }] }, searches, () => false);
    expect([...at(1).combinations]).toEqual([2, 1, 2, 1, 2, 1]);
    expect(at(null).searches[3]).toBe('sea canoe'.length * 10);
    expect(at(1).searches[3]).toBe('sea canoe heronsea'.length * 10);
  });

  test('turned combinations stand in the same cells', () => {
    const matrix = matrixOf(
      mixture,
      { rows: 3, columns: 2, rest: [{ list: 1, entry: null }] },
      () => -1,
      () => false,
    );
    expect(matrix.rowNames).toEqual(['wrenport', 'heronsea', null]);
    // kayak wrenport and wrenport kayak, with plurals; canoe wrenport and wrenport canoe.
    expect([...matrix.unknown]).toEqual([4, 2, 4, 2, 2, 1]);
  });

  test('entries are weighed over all combinations that hold them', () => {
    const weights = entryWeights(mixture, searches, () => false);
    const total = (list: number, entry: number, names: string[]) => {
      const held = texts.filter((text) => names.some((name) => ` ${text} `.includes(` ${name} `)));
      expect(weights.find((one) => one.list === list)?.searches[entry]).toBe(
        held.reduce((sum, text) => sum + text.length * 10, 0),
      );
      expect(weights.find((one) => one.list === list)?.combinations[entry]).toBe(held.length);
    };
    total(1, 0, ['inflatable']);
    total(2, 0, ['kayak', 'kayaks']);
    total(3, 1, ['heronsea']);
  });
});

test('a random sample is the same each time, rising, and never longer than what there is', () => {
  expect(sampleOf(5, 10)).toEqual([0, 1, 2, 3, 4]);
  const sample = sampleOf(1_000_000, 50, 3);
  expect(sampleOf(1_000_000, 50, 3)).toEqual(sample);
  expect(new Set(sample).size).toBe(50);
  expect(sample).toEqual(sample.toSorted((a, b) => a - b));
});
