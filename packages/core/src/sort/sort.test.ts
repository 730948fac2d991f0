import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { asMicros } from '../money/index.ts';
import { english, type FunnelStage, normalise, seeded } from '../text/index.ts';
import {
  childrenOf,
  contestsOf,
  Forms,
  otherWords,
  PoolWords,
  placeKeywords,
  readSentence,
  readTerm,
  type Sift,
  Sifter,
  Signals,
  sentenceOf,
  siftProblems,
  signalsFor,
  stageOfRow,
  type Theme,
  themeProblems,
  tidySift,
  UNPLACED,
  writeTerm,
} from './index.ts';

const poolOf = (texts: readonly string[], searches: readonly number[] = []) => {
  const norms = texts.map(normalise);
  return new PoolWords(
    {
      length: norms.length,
      isIn: () => true,
      normOf: (row) => norms[row] as string,
      searchesOf: (row) => searches[row] ?? 10 * (norms.length - row),
      sourcesOf: (row) => [1 + (row % 2)],
      cpcOf: (row) => (row === 0 ? -1 : row * 100_000),
    },
    english,
  );
};

const POOL = [
  'kayak',
  'kayaks',
  'inflatable kayak',
  'kayak pump',
  'sit on top kayak',
  'top kayak to sit on',
  'sit-on-top kayaks',
  'paddle board',
  'paddleboard hire',
  'paddle-board lessons',
  'inflated kayak',
  'kyak',
  'glass',
  'カヤック レンタル',
];

const picked = (sift: Partial<Sift>, texts = POOL) =>
  Array.from(
    new Sifter(poolOf(texts)).matches({ has: [], not: [], ...sift }).rows,
    (row) => texts[row] as string,
  );

describe('terms', () => {
  test.each([
    ['kayaks', { words: ['kayaks'], exact: false, prefix: false }],
    ['=Kayaks', { words: ['kayaks'], exact: true, prefix: false }],
    ['inflat*', { words: ['inflat'], exact: false, prefix: true }],
    ['"Sit on  top"', { words: ['sit', 'on', 'top'], exact: false, prefix: false }],
    ['sit on top', { words: ['sit', 'on', 'top'], exact: false, prefix: false }],
    ['="sit on tops"', { words: ['sit', 'on', 'tops'], exact: true, prefix: false }],
    ['  ', { problem: 'empty' }],
    ['""', { problem: 'empty' }],
    ['a*', { problem: 'prefix-too-short' }],
    ['in*t', { problem: 'star-not-last' }],
    ['**', { problem: 'star-not-last' }],
    ['blow up*', { problem: 'prefix-in-run' }],
  ])('%j', (typed, read) => expect(readTerm(typed)).toEqual(read));

  test('writing and reading a term gives the same again', () => {
    for (const typed of ['kayaks', '=kayaks', 'inflat*', '"sit on top"', '="sit on tops"']) {
      const read = readTerm(typed);
      if ('problem' in read) throw new Error(typed);
      expect(writeTerm(read)).toBe(typed);
    }
  });
});

describe('sentences', () => {
  test.each([
    ['has kayak', { has: [['kayak']], not: [] }],
    [
      'has inflatable / blow up and has kayak but not pump, repair',
      { has: [['inflatable', '"blow up"'], ['kayak']], not: ['pump', 'repair'] },
    ],
    ['but not "and has"', { has: [], not: ['"and has"'] }],
    ['has 24/7 / =kayaks', { has: [['24/7', '=kayaks']], not: [] }],
    ['HAS kayak AND HAS hire', { has: [['kayak'], ['hire']], not: [] }],
    ['has kayak / Kayak', { has: [['kayak']], not: [] }],
    ['', { has: [], not: [] }],
  ])('%j', (sentence, sift) => expect(readSentence(sentence)).toEqual({ sift }));

  test('what can’t be read is told', () => {
    expect(readSentence('kayak')).toEqual({ problems: [{ code: 'no-has', typed: 'kayak' }] });
    expect(readSentence('has a*')).toEqual({
      problems: [{ code: 'term', typed: 'a*', why: 'prefix-too-short' }],
    });
    const many = Array.from({ length: 5_001 }, (_, at) => `word${at}`);
    expect(siftProblems({ has: [many], not: [] })).toEqual([
      { code: 'too-many-terms', count: 5_001, most: 5_000 },
    ]);
  });

  test('a sift written as a sentence reads as itself', () => {
    const term = fc.constantFrom('kayak', '=kayaks', 'inflat*', '"sit on top"', '24/7', 'not', '"but not"');
    fc.assert(
      fc.property(
        fc.array(fc.array(term, { minLength: 1, maxLength: 4 }), { maxLength: 4 }),
        fc.array(term, { maxLength: 3 }),
        (has, not) => {
          const sift = tidySift({ has, not });
          expect(readSentence(sentenceOf(sift))).toEqual({ sift });
        },
      ),
      { seed: 5 },
    );
  });
});

describe('sifting', () => {
  test.each<[string, Partial<Sift>, string[]]>([
    [
      'a word in any number',
      { has: [['kayaks']] },
      [
        'kayak',
        'kayaks',
        'inflatable kayak',
        'kayak pump',
        'sit on top kayak',
        'top kayak to sit on',
        'sit-on-top kayaks',
        'inflated kayak',
      ],
    ],
    ['a word as typed', { has: [['=kayaks']] }, ['kayaks', 'sit-on-top kayaks']],
    ['a run, not its words in another order', { has: [['sit on top']] }, ['sit on top kayak']],
    ['a prefix', { has: [['inflat*']] }, ['inflatable kayak', 'inflated kayak']],
    ['any of several', { has: [['pump', 'glasses']] }, ['kayak pump', 'glass']],
    [
      'several conditions',
      { has: [['kayak'], ['inflat*', 'sit-on-top']], not: ['inflated'] },
      ['inflatable kayak', 'sit-on-top kayaks'],
    ],
    [
      'only what is not wanted',
      { not: ['kayak', 'paddle', 'paddleboard', 'paddle-board', 'kyak'] },
      ['glass', 'カヤック レンタル'],
    ],
    ['another script', { has: [['カヤック']] }, ['カヤック レンタル']],
    ['nothing', { has: [['zorb']] }, []],
    ['all', {}, POOL],
    ['figures', { searchesFrom: 130 }, ['kayak', 'kayaks']],
    ['no figure is in no range', { cpcTo: asMicros(100_000) }, ['kayaks']],
    ['a source', { has: [['paddle']], source: 2 }, ['paddle board']],
    ['the same term twice', { has: [['kayak', 'kayak'], ['pump']] }, ['kayak pump']],
    ['a condition twice', { has: [['pump'], ['pump']] }, ['kayak pump']],
  ])('%s', (_, sift, expected) => expect(picked(sift)).toEqual(expected));

  test('keywords that are out, by their state; a theme never has them', () => {
    const states = ['in', 'cut', 'folded', 'blocked'] as const;
    const { pool, pack } = poolOf(['kayak', 'sea kayak', 'kayaks', 'kayak jobs', 'canoe']);
    const words = new PoolWords(
      { ...pool, isIn: (row) => row === 0 || row === 4, stateOf: (row) => states[row] ?? 'in' },
      pack,
    );
    const sifter = new Sifter(words);
    const rows = (state?: (typeof states)[number]) => [
      ...sifter.matches({ has: [['kayak']], not: [], ...(state && { state }) }).rows,
    ];
    expect([rows(), rows('in'), rows('cut'), rows('folded'), rows('blocked')]).toEqual([
      [0],
      [0],
      [1],
      [2],
      [3],
    ]);
    const cut: Theme = {
      id: 1,
      parent: null,
      name: 'Cut',
      sift: { has: [['kayak']], not: [], state: 'cut' },
      idea: false,
      colour: null,
      stage: null,
    };
    expect([...placeKeywords(words, { themes: [cut] })]).toEqual([0, 0, 0, 0, 0]);
  });

  test('the index gives what a plain scan gives', () => {
    const random = seeded(3);
    const vocabulary = [
      'kayak',
      'kayaks',
      'canoe',
      'hire',
      'sit',
      'on',
      'top',
      'inflatable',
      'inflating',
      'sea',
      'sea-kayak',
    ];
    const pick = <T>(list: readonly T[]) => list[Math.floor(random() * list.length)] as T;
    const some = <T>(most: number, make: () => T) =>
      Array.from({ length: Math.floor(random() * (most + 1)) }, make);
    const texts = Array.from({ length: 400 }, () =>
      [pick(vocabulary), ...some(4, () => pick(vocabulary))].join(' '),
    );
    const words = poolOf(texts);
    const sifter = new Sifter(words);
    const term = () =>
      pick([
        'kayak',
        '=kayaks',
        'inflat*',
        'se*',
        'sit on',
        '"on top"',
        '="on top"',
        'canoes',
        'nowhere',
        'hire',
      ]);
    for (let time = 0; time < 300; time++) {
      const sift = { has: some(3, () => [term(), ...some(2, term)]), not: some(2, term) };
      const within = random() < 0.5 ? texts.map((_, row) => row).filter(() => random() < 0.1) : undefined;
      const expected = (within ?? texts.map((_, row) => row)).filter((row) =>
        meetsPlainly(texts[row] as string, sift),
      );
      const found = sifter.matches(sift, within ? { within } : {});
      expect([...found.rows], sentenceOf(sift)).toEqual(expected);
      expect(found.searches).toBe(expected.reduce((sum, row) => sum + words.pool.searchesOf(row), 0));
    }
  });

  test('the most frequent other words, without the sift’s own and function words', () => {
    const words = poolOf(['kayak hire', 'kayaks for hire', 'kayak pump', 'canoe hire'], [5, 4, 7, 100]);
    const sift = { has: [['kayak']], not: [] };
    const found = otherWords(words, new Sifter(words).matches(sift), sift, 5);
    expect(found).toEqual([
      { text: 'hire', keywords: 2, searches: 9 },
      { text: 'pump', keywords: 1, searches: 7 },
    ]);
  });
});

/** What the definition says, word for word. */
function meetsPlainly(text: string, { has, not }: Pick<Sift, 'has' | 'not'>): boolean {
  const typed = text.split(' ');
  const folded = typed.map(english.numberFold);
  const meets = (written: string) => {
    const term = readTerm(written);
    if ('problem' in term) return false;
    if (term.prefix) return typed.some((word) => word.startsWith(term.words[0] as string));
    const row = term.exact ? typed : folded;
    const wanted = term.exact ? term.words : term.words.map(english.numberFold);
    return row.some((_, at) => wanted.every((word, next) => row[at + next] === word));
  };
  return has.every((terms) => terms.some(meets)) && !not.some(meets);
}

describe('forms that the pool has', () => {
  const found = (typed: string) =>
    new Forms(poolOf(POOL)).of(typed).map(({ term, why, included }) => [term, why, included]);

  test.each([
    [
      'kayak',
      [
        ['=kayaks', 'number', true],
        ['kyak', 'slip', false],
      ],
    ],
    [
      '=kayak',
      [
        ['=kayaks', 'number', false],
        ['kyak', 'slip', false],
      ],
    ],
    [
      'paddleboard',
      [
        ['"paddle board"', 'joined', false],
        ['paddle-board', 'joined', false],
      ],
    ],
    [
      'paddle board',
      [
        ['paddleboard', 'joined', false],
        ['paddle-board', 'joined', false],
      ],
    ],
    [
      'kayk',
      [
        ['kayak', 'slip', false],
        ['kyak', 'slip', false],
      ],
    ],
    ['inflat*', []],
    ['zorb', []],
    ['', []],
  ])('of %j', (typed, expected) => expect(found(typed)).toEqual(expected));
});

describe('themes', () => {
  const theme = (
    id: number,
    parent: number | null,
    sentence: string | null,
    more: Partial<Theme> = {},
  ): Theme => {
    const read = sentence === null ? null : readSentence(sentence);
    if (read && !('sift' in read)) throw new Error(`${sentence}`);
    return {
      id,
      parent,
      name: `Theme ${id}`,
      sift: read?.sift ?? null,
      idea: false,
      colour: null,
      stage: null,
      ...more,
    };
  };

  test('what is wrong with a list of them', () => {
    expect(
      themeProblems([
        theme(1, 2, 'has a'),
        theme(2, 1, 'has b'),
        theme(3, 99, 'has c'),
        theme(4, null, 'has d', { name: 'Same' }),
        theme(5, null, 'has e', { name: ' same ' }),
        theme(6, 4, 'has f', { name: 'Same' }),
        theme(7, null, null, { sift: { has: [['a*']], not: [] } }),
        theme(8, 8, null),
      ]),
    ).toEqual([
      { code: 'circle', ids: [1, 2] },
      { code: 'circle', ids: [2, 1] },
      { code: 'unknown-parent', id: 3, parent: 99 },
      { code: 'name-twice', id: 5, name: ' same ' },
      { code: 'rule', id: 7 },
      { code: 'circle', ids: [8] },
    ]);
    const deep = Array.from({ length: 14 }, (_, at) => theme(at + 1, at === 0 ? null : at, 'has x'));
    expect(themeProblems(deep).map(({ code }) => code)).toEqual(['too-deep', 'too-deep']);
  });

  const TEXTS = ['kayak', 'inflatable kayak', 'inflatable canoe', 'canoe', 'kayak hire', 'tent'];
  const themes = [
    theme(1, null, 'has kayak'),
    theme(2, null, 'has inflatable'),
    theme(3, 1, 'has hire'),
    theme(4, 1, 'has tent'),
    theme(5, null, null),
    theme(6, 5, 'has canoe'),
  ];

  test('the first sibling has a keyword, and within it the first sub-theme', () => {
    expect([...placeKeywords(poolOf(TEXTS), { themes })]).toEqual([1, 1, 2, 6, 3, UNPLACED]);
  });

  test('what is held stays, in or out of a theme; a theme that is gone holds nothing', () => {
    const held = new Map([
      [0, 6],
      [1, UNPLACED],
      [3, 99],
    ]);
    expect([...placeKeywords(poolOf(TEXTS), { themes, held })]).toEqual([
      6,
      UNPLACED,
      2,
      UNPLACED,
      3,
      UNPLACED,
    ]);
  });

  test('who lost which keywords to whom', () => {
    expect(contestsOf(poolOf(TEXTS), { themes })).toEqual([
      { theme: 2, wonBy: 1, rows: [1] },
      { theme: 6, wonBy: 2, rows: [2] },
    ]);
  });

  test('each placed keyword meets its theme’s rule and its ancestors’, and no sibling before would have had it', () => {
    const vocabulary = ['kayak', 'canoe', 'hire', 'inflatable', 'sea', 'pump'];
    const rule = fc.record({
      parent: fc.nat({ max: 5 }),
      has: fc.array(fc.subarray(vocabulary, { minLength: 1, maxLength: 2 }), { maxLength: 2 }),
      not: fc.subarray(vocabulary, { maxLength: 1 }),
      byHand: fc.boolean(),
    });
    fc.assert(
      fc.property(
        fc.array(fc.subarray(vocabulary, { minLength: 1 }), { minLength: 1, maxLength: 12 }),
        fc.array(rule, { maxLength: 8 }),
        (keywords, rules) => {
          const texts = keywords.map((list) => list.join(' '));
          const list = rules.map(({ parent, has, not, byHand }, at) => ({
            ...theme(at + 1, parent < at ? parent + 1 : null, null),
            sift: byHand && at % 3 === 0 ? null : { has, not },
          }));
          const words = poolOf(texts);
          const once = placeKeywords(words, { themes: list });
          expect([...once]).toEqual(texts.map((text) => placedPlainly(text, list)));
          const again = placeKeywords(words, {
            themes: list,
            held: new Map([...once].map((at, row) => [row, at])),
          });
          expect(again).toEqual(once);
        },
      ),
      { seed: 9, numRuns: 400 },
    );
  });
});

/** The definition as a walk for one keyword. */
function placedPlainly(text: string, themes: readonly Theme[]): number {
  const children = childrenOf(themes);
  const walk = (parent: number | null): number => {
    for (const { id, sift } of children.get(parent) ?? []) {
      if (sift && !meetsPlainly(text, sift)) continue;
      const below = walk(id);
      if (below !== UNPLACED) return below;
      if (sift) return id;
    }
    return UNPLACED;
  };
  return walk(null);
}

describe('funnel stages', () => {
  const stageOf = (text: string, places: string[] = ['Wrenport', 'Tallowby Bay']) =>
    new Signals(poolOf([text]), signalsFor(english, null, places)).stageOf(0);

  test.each<[string, FunnelStage | null]>([
    ['how to paddle a kayak', 'early'],
    ['what is a kayak', 'early'],
    ['best kayak', 'comparing'],
    ['kayak reviews', 'comparing'],
    ['kayak vs canoe', 'comparing'],
    ['buy kayak', 'ready'],
    ['kayak prices', 'ready'],
    ['kayak hire', 'ready'],
    ['kayak near me', 'ready'],
    ['kayak wrenport', 'ready'],
    ['kayak tallowby bay', 'ready'],
    ['tallowby kayak', null],
    ['me near kayak', null],
    ['how to buy a kayak', 'early'],
    ['best price for kayak', 'comparing'],
    ['kayak', null],
  ])('%s: %s', (text, stage) => expect(stageOf(text)).toBe(stage));

  test('by hand before words, words before the theme, the theme before the one above', () => {
    const words = poolOf(['kayak hire', 'kayak', 'canoe', 'tent']);
    const signals = new Signals(words, signalsFor(english, null, []));
    const themes: Theme[] = [
      { id: 1, parent: null, name: 'Boats', sift: null, idea: false, colour: null, stage: 'comparing' },
      {
        id: 2,
        parent: 1,
        name: 'Kayaks',
        sift: { has: [['kayak']], not: [] },
        idea: false,
        colour: null,
        stage: null,
      },
      {
        id: 3,
        parent: 1,
        name: 'Canoes',
        sift: { has: [['canoe']], not: [] },
        idea: false,
        colour: null,
        stage: 'early',
      },
    ];
    const placing = placeKeywords(words, { themes });
    const byId = new Map(themes.map((theme) => [theme.id, theme]));
    const stage = (row: number, held = new Map<number, FunnelStage>()) =>
      stageOfRow(row, signals, held, placing, byId);
    expect(stage(0)).toEqual({ stage: 'ready', from: 'words' });
    expect(stage(0, new Map([[0, 'early']]))).toEqual({ stage: 'early', from: 'hand' });
    expect(stage(1)).toEqual({ stage: 'comparing', from: 'theme' });
    expect(stage(2)).toEqual({ stage: 'early', from: 'theme' });
    expect(stage(3)).toBeNull();
  });
});
