import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  AnswerIndex,
  canAnswer,
  type IndexedRow,
  type MatchType,
  matchTypes,
  NegativeIndex,
  negativeBlocks,
  noSynonyms,
  synonymsOf,
} from '../match/index.ts';
import { english } from '../text/index.ts';
import { auditFences, countFences, type FenceKind, type FencePlan, makeFences } from './index.ts';

const matching = { pack: english, synonyms: noSynonyms };
const plan = (rows: readonly IndexedRow[], more: Partial<FencePlan> = {}): FencePlan => ({
  index: new AnswerIndex(rows, matching),
  groups: 1 + Math.max(0, ...rows.map(({ owner }) => owner)),
  classOf: new Uint8Array(50),
  overlaps: () => true,
  searchesOf: () => -1,
  ...more,
});
const row = (owner: number, norm: string, ...types: MatchType[]): IndexedRow[] =>
  types.map((type) => ({ owner, norm, type }));
const written = (given: FencePlan, kind: FenceKind) => {
  const { group, text, phrase, keeper, length } = makeFences(given, kind);
  return Array.from({ length }, (_, at) => {
    const norm = given.index.textNorms[text[at]!]!;
    return `${group[at]} -${phrase[at] ? `"${norm}"` : `[${norm}]`} for ${keeper[at]}`;
  });
};

describe('fences', () => {
  const worked = [...row(0, 'kayak hire', 'broad'), ...row(1, 'kayak hire wrenport', 'exact', 'phrase')];

  test('the worked example', () => {
    expect(written(plan(worked), 'exact')).toEqual(['0 -[kayak hire wrenport] for 1']);
    expect(written(plan(worked), 'tight')).toEqual(['0 -"kayak hire wrenport" for 1']);
    expect(written(plan(worked), 'off')).toEqual([]);
  });

  test.each([
    [
      'another order is answered by broad',
      [...row(0, 'kayak hire', 'broad'), ...row(1, 'hire kayak', 'exact')],
      ['0 -[hire kayak] for 1'],
    ],
    [
      'a phrase does not answer another order',
      [...row(0, 'kayak hire', 'phrase'), ...row(1, 'hire kayak', 'exact')],
      [],
    ],
    [
      'an exact keyword of another number answers',
      [...row(0, 'kayaks', 'exact'), ...row(1, 'kayak', 'exact')],
      ['0 -[kayak] for 1', '1 -[kayaks] for 0'],
    ],
    ['who has it too is not fenced', [...row(0, 'kayak', 'exact', 'broad'), ...row(1, 'kayak', 'exact')], []],
    [
      'its own phrase of the same text is fenced for the exact one',
      [...row(0, 'kayak', 'phrase'), ...row(1, 'kayak', 'exact')],
      ['0 -[kayak] for 1'],
    ],
    ['what answers nothing gets nothing', [...row(0, 'canoe', 'broad'), ...row(1, 'kayak', 'exact')], []],
  ] as [string, IndexedRow[], string[]][])('exact: %s', (_, rows, expected) =>
    expect(written(plan(rows), 'exact')).toEqual(expected),
  );

  test.each(['broad', 'modified', 'phrase'] as const)('a plan of %s keywords alone is fenced', (type) => {
    const rows = [
      ...row(0, 'kayak hire', type),
      ...row(1, 'kayak hire wrenport', type),
      ...row(2, 'canoe', type),
    ];
    expect(written(plan(rows), 'exact')).toEqual(['0 -[kayak hire wrenport] for 1']);
    expect(written(plan(rows), 'tight')).toEqual(['0 -"kayak hire wrenport" for 1']);
    const open = auditFences(plan(rows), () => false);
    expect([open.tried, open.kept]).toEqual([3, 2]);
    const fenced = auditFences(
      plan(rows),
      (group, search) => group === 0 && search === 'kayak hire wrenport',
    );
    expect([fenced.tried, fenced.kept]).toEqual([3, 3]);
  });

  test('a search stays with who holds it in the narrowest match type', () => {
    const rows = [
      ...row(0, 'kayak', 'broad'),
      ...row(1, 'kayak', 'modified'),
      ...row(2, 'kayak', 'phrase'),
      ...row(3, 'kayak', 'exact'),
    ];
    expect(written(plan(rows), 'exact')).toEqual([
      '0 -[kayak] for 3',
      '1 -[kayak] for 3',
      '2 -[kayak] for 3',
    ]);
    expect(written(plan(rows.slice(0, 3)), 'exact')).toEqual(['0 -[kayak] for 2', '1 -[kayak] for 2']);
    expect(written(plan(rows.slice(0, 2)), 'exact')).toEqual(['0 -[kayak] for 1']);
  });

  test('tight: a phrase that would block one of the group’s own keywords is not made', () => {
    const rows = [
      ...row(0, 'kayak hire', 'broad'),
      ...row(0, 'cheap kayak hire wrenport', 'exact'),
      ...row(1, 'kayak hire wrenport', 'phrase', 'exact'),
    ];
    expect(written(plan(rows), 'tight')).toEqual([
      '0 -[kayak hire wrenport] for 1',
      '1 -[cheap kayak hire wrenport] for 0',
    ]);
  });

  test('tight: exact fences that a phrase of the same group covers are not made', () => {
    const rows = [
      ...row(0, 'kayak', 'broad'),
      ...row(1, 'kayak hire', 'phrase', 'exact'),
      ...row(1, 'kayak hire wrenport', 'exact'),
      ...row(1, 'hire kayak wrenport', 'exact'),
    ];
    expect(written(plan(rows), 'tight')).toEqual(['0 -"kayak hire" for 1', '0 -[hire kayak wrenport] for 1']);
  });

  test('groups that never meet the same search need no fence', () => {
    const apart = plan(worked, { classOf: [0, 1], overlaps: (a, b) => a === b });
    expect(written(apart, 'exact')).toEqual([]);
    expect(written(apart, 'tight')).toEqual([]);
  });

  test('over a group’s limit the most searched come first, and the others are counted', () => {
    const rows = [
      ...row(0, 'kayak', 'broad'),
      ...row(1, 'kayak a', 'exact'),
      ...row(1, 'kayak b', 'exact'),
      ...row(1, 'kayak c', 'exact'),
    ];
    const searches: Record<string, number> = { 'kayak a': 5, 'kayak b': 90, 'kayak c': 20 };
    const given = plan(rows, { limit: 2 });
    const fences = makeFences(
      { ...given, searchesOf: (text) => searches[given.index.textNorms[text]!] ?? -1 },
      'exact',
    );
    expect(Array.from(fences.text, (text) => given.index.textNorms[text])).toEqual(['kayak b', 'kayak c']);
    expect(fences.left).toBe(1);
  });
});

describe('the audit', () => {
  test('says who else could answer, and who is blocked for its own', () => {
    const rows = [
      ...row(0, 'kayak hire', 'broad'),
      ...row(1, 'kayak hire wrenport', 'exact'),
      ...row(2, 'canoe', 'exact'),
    ];
    const given = plan(rows);
    const audit = auditFences(given, (group, search) => group === 2 && search === 'canoe');
    expect(audit).toEqual({
      tried: 3,
      kept: 1,
      failed: 2,
      failures: [
        { row: 1, ownBlocked: false, others: [0] },
        { row: 2, ownBlocked: true, others: [] },
      ],
    });
    expect(auditFences(given, () => false, 1).failures).toHaveLength(1);
  });
});

const VOCABULARY = 'kayak kayaks hire rental wrenport red for'.split(' ');
const like = { pack: english, synonyms: synonymsOf([['hire', 'rental']], english) };
const anyText = fc
  .uniqueArray(fc.constantFrom(...VOCABULARY), { minLength: 1, maxLength: 4 })
  .map((words) => words.join(' '));
/** Each text in one group only: a plan without duplicates. */
const anyRows = fc
  .uniqueArray(fc.record({ norm: anyText, types: fc.integer({ min: 1, max: 15 }), owner: fc.nat(4) }), {
    selector: ({ norm }) => norm,
    maxLength: 14,
  })
  .map((list) =>
    list.flatMap(({ norm, types, owner }) =>
      matchTypes.flatMap((type, at): IndexedRow[] => (types & (1 << at) ? [{ norm, type, owner }] : [])),
    ),
  );

describe.each(['exact', 'tight'] as const)('properties of %s fences', (kind) => {
  const fenced = (rows: IndexedRow[]) => {
    const given = { ...plan(rows), index: new AnswerIndex(rows, like) };
    const { group, text, phrase, length } = makeFences(given, kind);
    const fences = Array.from({ length }, (_, at) => ({
      group: group[at]!,
      norm: given.index.textNorms[text[at]!]!,
      type: phrase[at] ? ('phrase' as const) : ('exact' as const),
    }));
    return { given, fences };
  };

  test('the audit reaches 100% on plans without duplicates, and the count is known before', () => {
    fc.assert(
      fc.property(anyRows, (rows) => {
        const { given, fences } = fenced(rows);
        const blocks = new Map<number, NegativeIndex>();
        for (let group = 0; group < 5; group++)
          blocks.set(
            group,
            new NegativeIndex(fences.filter((one) => one.group === group).map((one, id) => ({ ...one, id }))),
          );
        const audit = auditFences(
          given,
          (group, search) => blocks.get(group)?.blocking(search) !== undefined,
        );
        expect(audit.failures).toEqual([]);
        expect(audit.kept).toBe(audit.tried);
        expect(countFences(given, kind)).toBe(fences.length);
      }),
      { seed: 21, numRuns: 600 },
    );
  });

  test('no fence blocks an exact keyword of its own group, and no phrase any keyword of it', () => {
    fc.assert(
      fc.property(anyRows, (rows) => {
        for (const { group, norm, type } of fenced(rows).fences)
          for (const own of rows) {
            if (own.owner !== group || (type === 'exact' && own.type !== 'exact')) continue;
            expect(negativeBlocks({ norm, type }, own.norm)).toBe(false);
          }
      }),
      { seed: 22, numRuns: 600 },
    );
  });

  test('each exact fence is needed: without it some other group could answer', () => {
    fc.assert(
      fc.property(anyRows, (rows) => {
        const { fences } = fenced(rows);
        for (const fence of fences) {
          if (fence.type !== 'exact') continue;
          const others = fences.filter((one) => one !== fence && one.group === fence.group);
          expect(others.some((one) => negativeBlocks(one, fence.norm))).toBe(false);
          const own = rows.filter(({ owner }) => owner === fence.group);
          expect(own.some((one) => canAnswer(one, fence.norm, like))).toBe(true);
          // Someone else holds it, in a narrower match type than the group does, if the group does.
          const typesOf = (isOwn: boolean) =>
            rows
              .filter(({ owner, norm }) => norm === fence.norm && (owner === fence.group) === isOwn)
              .map(({ type }) => matchTypes.indexOf(type));
          expect(Math.max(...typesOf(false))).toBeGreaterThan(Math.max(-1, ...typesOf(true)));
        }
      }),
      { seed: 23, numRuns: 600 },
    );
  });
});
