import { describe, expect, test } from 'vitest';
import {
  hardFields,
  type LabelledKeyword,
  labelledFields,
  labelledPlaces,
} from '../../fixtures/labelled-fields.ts';
import { english, normalise, seeded } from '../text/index.ts';
import {
  PoolWords,
  type Proposal,
  placeKeywords,
  propose,
  type Sift,
  Sifter,
  Signals,
  sentenceOf,
  signalsFor,
  suggestionsOf,
  type Theme,
  Tightness,
  Units,
  usualSizes,
} from './index.ts';

type Keyword = { text: string; searches: number };

function unitsOf(
  keywords: readonly Keyword[],
  places: readonly string[] = labelledPlaces,
  cpcOf?: (row: number) => number,
): Units {
  const norms = keywords.map(({ text }) => normalise(text));
  const words = new PoolWords(
    {
      length: norms.length,
      isIn: () => true,
      normOf: (row) => norms[row] as string,
      searchesOf: (row) => keywords[row]?.searches ?? 0,
      ...(cpcOf ? { cpcOf } : {}),
    },
    english,
  );
  return new Units(words, new Signals(words, signalsFor(english, null, places)));
}

const listed = (...texts: string[]): Keyword[] => texts.map((text, at) => ({ text, searches: 1_000 - at }));
const everyRow = (keywords: readonly unknown[]) => keywords.map((_, row) => row);
const proposed = (keywords: readonly Keyword[], options = usualSizes) =>
  propose(unitsOf(keywords), everyRow(keywords), options);

/** How well two ways of grouping agree, by pairs, less what chance would give: 1 is the same, 0 is chance. */
function adjustedRand(one: readonly number[], other: readonly number[]): number {
  const pairs = (count: number) => (count * (count - 1)) / 2;
  const tally = (keys: readonly (number | string)[]) => {
    const counts = new Map<number | string, number>();
    for (const key of keys) counts.set(key, (counts.get(key) ?? 0) + 1);
    return [...counts.values()].reduce((sum, count) => sum + pairs(count), 0);
  };
  const both = tally(one.map((group, at) => `${group},${other[at]}`));
  const [first, second] = [tally(one), tally(other)];
  const chance = (first * second) / pairs(one.length);
  return (both - chance) / ((first + second) / 2 - chance);
}

function judged(keywords: readonly LabelledKeyword[], { themes, unplaced }: Proposal) {
  // What is unplaced is a group of its own each.
  const groups = keywords.map((_, row) => -1 - row);
  themes.forEach(({ rows }, theme) => {
    for (const row of rows) groups[row] = theme;
  });
  const made = themes.filter(({ rows }) => rows.length > 0);
  const searches = (rows: readonly number[]) =>
    rows.reduce((sum, row) => sum + (keywords[row]?.searches ?? 0), 0);
  return {
    agreement: adjustedRand(
      groups,
      keywords.map(({ group }) => group),
    ),
    smallest: Math.min(...made.map(({ rows }) => rows.length)),
    largest: Math.max(...made.map(({ rows }) => rows.length)),
    tightness: made.reduce((sum, theme) => sum + theme.tightness, 0) / made.length,
    placed: 1 - searches(unplaced) / searches(everyRow(keywords)),
  };
}

describe('the whole plan at once', () => {
  test('the yardstick: the same is 1, all in one is 0', () => {
    expect(adjustedRand([1, 1, 2, 2], [5, 5, 9, 9])).toBe(1);
    expect(adjustedRand([1, 1, 1, 1], [5, 5, 9, 9])).toBe(0);
    expect(adjustedRand([1, 1, 2, 2], [5, 9, 5, 9])).toBeLessThan(0);
  });

  test.each(labelledFields.map((field) => [field.name, field.keywords] as const))('%s', (_, keywords) => {
    const found = judged(keywords, proposed(keywords));
    expect(found.agreement).toBeGreaterThanOrEqual(0.95);
    expect(found.smallest).toBeGreaterThanOrEqual(3);
    expect(found.largest).toBeLessThanOrEqual(20);
    expect(found.tightness).toBeGreaterThanOrEqual(0.85);
    expect(found.placed).toBeGreaterThanOrEqual(0.97);
  });

  test.each(hardFields.map((field, at) => [field.name, field.keywords, [0.7, 0.8][at] as number] as const))(
    '%s, where words hardly tell groups apart',
    (_, keywords, agreement) => {
      const found = judged(keywords, proposed(keywords));
      expect(found.agreement).toBeGreaterThanOrEqual(agreement);
      expect(found.smallest).toBeGreaterThanOrEqual(3);
      expect(found.largest).toBeLessThanOrEqual(20);
      expect(found.placed).toBeGreaterThanOrEqual(0.96);
    },
  );

  test('generated keywords of three fields, with and without the places known', () => {
    for (const [field, places] of [0, 1, 2].flatMap((at) => [
      [at, labelledPlaces] as const,
      [at, []] as const,
    ])) {
      const keywords = generated(field);
      const found = judged(keywords, propose(unitsOf(keywords, places), everyRow(keywords), usualSizes));
      expect(found.agreement).toBeGreaterThanOrEqual(0.9);
      expect(found.smallest).toBeGreaterThanOrEqual(3);
      expect(found.largest).toBeLessThanOrEqual(20);
      expect(found.tightness).toBeGreaterThanOrEqual(0.9);
      expect(found.placed).toBe(1);
    }
  });

  test('goods and traits come before what the searcher wants', () => {
    const texts = [
      ...['inflatable kayak', 'buy inflatable kayak', 'inflatable kayak price', 'best inflatable kayak'],
      ...['canoe', 'buy canoe', 'canoe price', 'best canoe'],
    ];
    const { themes, unplaced } = proposed(listed(...texts));
    expect(unplaced).toEqual([]);
    expect(themes.map(({ rows }) => rows.map((row) => texts[row]))).toEqual(
      expect.arrayContaining([texts.slice(0, 4), texts.slice(4)]),
    );
    expect(themes).toHaveLength(2);
  });

  test('what is wanted divides where nothing else does', () => {
    const wants = ['hire', 'price', 'for sale', 'review', 'near me'];
    const towns = ['wrenport', 'heronsea', 'in wrenport', 'in heronsea', ''];
    const keywords = listed(
      ...wants.flatMap((want) => towns.map((town) => `kayak ${want} ${town}`.trim())),
      'kayak',
      'kayaks wrenport',
      'kayak heronsea',
    );
    const { themes, unplaced } = proposed(keywords);
    expect(unplaced).toEqual([]);
    for (const { rows } of themes)
      expect(rows.length === 0 || (rows.length >= 3 && rows.length <= 20)).toBe(true);
    expect(themes.length).toBeGreaterThan(1);
    expect(new Set(themes.flatMap(({ rows }) => rows)).size).toBe(keywords.length);
  });

  test('forms joined, hyphenated and apart are one', () => {
    const { themes } = proposed(listed('paddle board', 'paddleboard', 'paddle-boards', 'paddleboards hire'));
    expect(themes.map(({ rows }) => rows)).toEqual([[0, 1, 2, 3]]);
  });

  test('nothing, one keyword, only function words, one word each, another script', () => {
    expect(proposed([])).toEqual({ themes: [], unplaced: [] });
    expect(proposed(listed('kayak'))).toEqual({ themes: [], unplaced: [0] });
    expect(
      proposed(listed('of the', 'in a', 'to')).themes.flatMap(({ rows }) => rows).length,
    ).toBeLessThanOrEqual(3);
    expect(proposed(listed('kayak', 'canoe', 'tent', 'oar')).unplaced).toEqual([0, 1, 2, 3]);
    const { themes } = proposed(listed('カヤック', 'カヤック レンタル', 'カヤック 価格', 'テント'));
    expect(themes.map(({ name, rows }) => [name, rows])).toEqual([['カヤック', [0, 1, 2]]]);
  });

  test('keywords that differ by the order of their words only are still divided', () => {
    const words = ['kayak', 'hire', 'wrenport', 'cheap'];
    const orders = words.flatMap((a) =>
      words.flatMap((b) =>
        words.flatMap((c) =>
          words.flatMap((d) => (new Set([a, b, c, d]).size === 4 ? [[a, b, c, d].join(' ')] : [])),
        ),
      ),
    );
    const { themes, unplaced } = proposed(listed(...orders));
    expect(orders).toHaveLength(24);
    expect(unplaced).toEqual([]);
    for (const { rows } of themes) expect(rows.length).toBeLessThanOrEqual(20);
  });

  test('a theme that frames others is named by what nearly all of it has', () => {
    const traits = ['', 'inflatable', 'carbon', 'kids', 'touring'];
    const list = listed(
      ...traits.flatMap((trait) =>
        ['X', 'buy X', 'X price', 'X hire', 'X sale', 'best X'].map((words) =>
          words.replace('X', `${trait} paddle board`).replaceAll('  ', ' ').trim(),
        ),
      ),
      ...['padle board', 'buy padle board', 'padle board price'],
    );
    const { themes } = proposed(list);
    expect(
      themes.filter(({ parent }) => parent === null).map(({ name, sift }) => [name, sentenceOf(sift)]),
    ).toEqual([['paddle board', 'has board']]);
  });

  test('a floor of searches lets small groups be', () => {
    const keywords = [
      { text: 'zorb', searches: 5_000 },
      { text: 'zorb hire', searches: 10 },
      { text: 'tent', searches: 10 },
    ];
    expect(proposed(keywords).themes).toEqual([]);
    const { themes, unplaced } = proposed(keywords, { ...usualSizes, floor: 1_000 });
    expect(themes.map(({ name, rows }) => [name, rows])).toEqual([['zorb', [0, 1]]]);
    expect(unplaced).toEqual([2]);
  });

  test('its rules place the keywords just where it says, in any field, and the same again', () => {
    for (const { keywords } of [...labelledFields, ...hardFields]) {
      const units = unitsOf(keywords);
      const proposal = propose(units, everyRow(keywords), usualSizes);
      const themes: Theme[] = proposal.themes.map(({ name, sift, parent }, at) => ({
        id: at + 1,
        parent: parent === null ? null : parent + 1,
        name,
        sift,
        idea: false,
        colour: null,
        stage: null,
      }));
      const placing = placeKeywords(units.words, { themes });
      const expected = new Uint32Array(keywords.length);
      proposal.themes.forEach(({ rows }, at) => {
        for (const row of rows) expected[row] = at + 1;
      });
      expect(placing).toEqual(expected);
      expect(propose(unitsOf(keywords), everyRow(keywords), usualSizes)).toEqual(proposal);
    }
  });
});

const FIELDS = [
  [
    ['lawn mower', 'hedge trimmer', 'leaf blower', 'chainsaw', 'garden hose'],
    ['', 'cordless', 'petrol', 'electric', 'robot', 'heavy duty'],
  ],
  [
    ['frying pan', 'saucepan', 'casserole dish', 'stock pot', 'wok', 'chef knife'],
    ['', 'non stick', 'cast iron', 'copper', 'ceramic', 'induction'],
  ],
  [
    ['suitcase', 'backpack', 'travel pillow', 'toiletry bag', 'duffel bag'],
    ['', 'cabin size', 'leather', 'waterproof', 'wheeled', 'memory foam'],
  ],
] as const;
const AROUND =
  `X|buy X|X for sale|cheap X|best X|X review|X price|X near me|Xs|how much is X|X in wrenport|X heronsea|X cost|X online
|where to buy X|X offers|what is the best X|X deals|X delivery|Xs for sale|X wrenport|order X|compare X`
    .replaceAll('\n', '')
    .split('|');

/** Three to twenty keywords for each trait and good. */
function generated(field: number): LabelledKeyword[] {
  const random = seeded(field + 1);
  const [goods, traits] = FIELDS[field] as (typeof FIELDS)[number];
  return goods.flatMap((good, at) =>
    traits.flatMap((trait, next) => {
      const count = 3 + Math.floor(random() * 18);
      const order = AROUND.map((around) => [random(), around] as const).sort(([a], [b]) => a - b);
      return order.slice(0, count).map(([, around], place) => ({
        text: around.replace('X', `${trait} ${good}`.trim()),
        searches: Math.ceil(9_000 / (1 + place)),
        group: at * traits.length + next,
      }));
    }),
  );
}

describe('suggestions', () => {
  const keywords = labelledFields[0]?.keywords ?? [];
  const units = unitsOf(keywords);
  const proposal = propose(units, everyRow(keywords), usualSizes);

  test('the most searched first, each with what it would take alone, and why', () => {
    const found = suggestionsOf(proposal, null, everyRow(keywords), units, new Set());
    expect(found[0]).toMatchObject({ name: 'teeth whitening', keywords: 16, inside: 1 });
    expect(found[0]?.examples).toContain('teeth whitening cost');
    expect(found.map(({ searches }) => searches)).toEqual(
      found.map(({ searches }) => searches).sort((a, b) => b - a),
    );
    for (const { tightness } of found) expect(tightness).toBeGreaterThan(0.5);
  });

  test('each with the median CPC of its keywords that have one', () => {
    const priced = unitsOf(keywords, undefined, (row) => (row % 2 === 0 ? -1 : row * 10_000));
    const [first] = suggestionsOf(proposal, null, everyRow(keywords), priced, new Set());
    const [plain] = suggestionsOf(proposal, null, everyRow(keywords), units, new Set());
    expect(plain?.cpc).toBeNull();
    const taken = new Set(new Sifter(priced.words).matches(first?.sift as Sift, {}).rows);
    expect(taken.size).toBe(first?.keywords);
    const cpcs = keywords
      .flatMap((_, row) => (taken.has(row) && row % 2 === 1 ? [row * 10_000] : []))
      .sort((a, b) => a - b);
    const middle = cpcs.length >> 1;
    const median =
      cpcs.length % 2 === 1
        ? cpcs[middle]
        : Math.floor(((cpcs[middle - 1] as number) + (cpcs[middle] as number) + 1) / 2);
    expect(first?.cpc).toBe(median);
  });

  test('each can be taken alone: what another is to have is kept out by name', () => {
    const boats = ['paddle', 'carbon paddle', 'wooden paddle', 'paddle bag'].flatMap((text) => [
      text,
      `buy ${text}`,
      `${text} price`,
    ]);
    const boards = ['paddle board', 'inflatable paddle board', 'carbon paddle board'].flatMap((text) => [
      text,
      `buy ${text}`,
      `${text} price`,
    ]);
    const list = listed(...boats, ...boards, 'surf board', 'buy surf board', 'surf board price');
    const found = suggestionsOf(
      propose(unitsOf(list), everyRow(list), usualSizes),
      null,
      everyRow(list),
      unitsOf(list),
      new Set(),
    );
    const sentences = Object.fromEntries(
      found.map(({ name, sift, keywords }) => [name, [sentenceOf(sift), keywords]]),
    );
    expect(sentences).toMatchObject({ paddle: ['has paddle but not board', 12], board: ['has board', 12] });
  });

  test('one that was dismissed does not come again; inside are its sub-themes', () => {
    const [first] = suggestionsOf(proposal, null, everyRow(keywords), units, new Set());
    if (!first) throw new Error('none');
    const rest = suggestionsOf(proposal, null, everyRow(keywords), units, new Set([sentenceOf(first.sift)]));
    expect(rest.map(({ name }) => name)).not.toContain(first.name);
    const inside = suggestionsOf(proposal, first.at, everyRow(keywords), units, new Set());
    expect(inside.map(({ name }) => name)).toEqual(['teeth whitening kit']);
  });
});

describe('tightness', () => {
  const of = (...texts: string[]) => {
    const keywords = listed(...texts);
    return new Tightness(unitsOf(keywords)).of(everyRow(keywords));
  };
  test.each<[string[], number]>([
    [[], 1],
    [['kayak'], 1],
    [['kayak', 'kayak hire', 'buy kayaks wrenport'], 1],
    [['red kayak', 'blue kayak'], 0.5],
    [['kayak', 'red kayak', 'tent'], (1 + 0.5 + 0) / 3],
    [['kayak', 'canoe'], 0],
  ])('%j is %d', (texts, tightness) => expect(of(...texts)).toBeCloseTo(tightness, 10));
});
