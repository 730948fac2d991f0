import { describe, expect, test } from 'vitest';
import { harrowlight, plainOutlet } from '../outlets/index.ts';
import {
  ADVISED_PLAN,
  type CheckedGroup,
  checkGroup,
  checkPlan,
  Findings,
  findingRules,
  outletRules,
  type PlanFacts,
} from './index.ts';

const groupOf = (texts: string[], more: Partial<CheckedGroup['group']> = {}): CheckedGroup => ({
  group: { name: 'Tea Pots', keywords: texts.length, ...more },
  rows: texts.map((text) => ({ text })),
  place: { name: 'Tea Pots' },
});
const rulesOf = (checked: CheckedGroup, outlet = plainOutlet) =>
  checkGroup(checked, outlet).map(({ rule, count, text }) => [rule, count, text]);

const sound: PlanFacts = {
  groups: 1,
  rows: 1,
  campaignName: 'Tea',
  site: 'https://teahouse.example',
  orphans: 0,
  bare: [],
  conflicts: [],
  mute: [],
  named: [{ rule: 'marker-in-name', text: 'Tea' }],
};
const ofPlan = (more: Partial<PlanFacts>) => {
  const found = new Findings();
  checkPlan(found, { ...sound, ...more });
  return found.list().map(({ rule, count, samples }) => [rule, count, samples.map(({ text }) => text)]);
};

describe('what is found of an ad group', () => {
  test('nothing in a sound one', () => expect(rulesOf(groupOf(['cast iron teapot', 'teapot']))).toEqual([]));

  describe.each([plainOutlet, harrowlight])('at the limits of $name', (outlet) => {
    const { keywordLength, keywordWords, groupName } = outlet.limits;
    const ofLength = (length: number) => 'x'.repeat(3) + 'y'.repeat(length - 3);
    const ofWords = (words: number) => Array.from({ length: words }, (_, at) => `w${at}`).join(' ');

    test.each([
      [keywordLength - 1, false],
      [keywordLength, false],
      [keywordLength + 1, true],
    ])('a keyword of %i characters', (length, isTold) => {
      const text = ofLength(length);
      expect(rulesOf(groupOf([text]), outlet)).toEqual(isTold ? [['keyword-too-long', 1, text]] : []);
    });

    test('a wide character counts two', () => {
      const text = `${ofLength(keywordLength - 1)}茶`;
      expect(rulesOf(groupOf([text]), outlet)).toEqual([['keyword-too-long', 1, text]]);
      const shorter = `${ofLength(keywordLength - 2)}茶`;
      expect(rulesOf(groupOf([shorter]), outlet)).toEqual([]);
    });

    test.each([
      [keywordWords - 1, false],
      [keywordWords, false],
      [keywordWords + 1, true],
    ])('a keyword of %i words', (words, isTold) => {
      const text = ofWords(words);
      expect(rulesOf(groupOf([text]), outlet)).toEqual(isTold ? [['keyword-too-many-words', 1, text]] : []);
    });

    test.each([
      [groupName, false],
      [groupName + 1, true],
    ])('a name of %i characters', (length, isTold) => {
      const found = rulesOf(groupOf(['tea'], { name: ofLength(length) }), outlet);
      expect(found.map(([rule]) => rule)).toEqual(isTold ? ['name-cut'] : []);
    });
  });

  test.each([
    [50, false],
    [51, true],
  ])('%i keywords', (keywords, isTold) => {
    const found = rulesOf(groupOf(['tea'], { keywords })).map(([rule]) => rule);
    expect(found).toEqual(isTold ? ['group-too-large'] : []);
  });

  test('a keyword in several match types is told once', () => {
    const text = 'y'.repeat(81);
    expect(rulesOf(groupOf([text, text, text]))).toEqual([['keyword-too-long', 1, text]]);
  });

  test('what was left to fill in, in its keywords and its name', () => {
    expect(
      rulesOf(groupOf(['tea xxtownxx', 'tea xxtownxx', 'tea in xxxx'], { name: 'Tea insert_town' })),
    ).toEqual([
      ['marker-in-keyword', 2, 'tea xxtownxx'],
      ['marker-in-name', 1, 'Tea insert_town'],
    ]);
  });
});

describe('what is found of a plan', () => {
  test('nothing of a sound one', () => expect(ofPlan({})).toEqual([]));

  test.each<[Partial<PlanFacts>, unknown[]]>([
    [{ groups: 0 }, ['no-keywords', 1, []]],
    [{ campaignName: '  ' }, ['no-campaign-name', 1, []]],
    [{ site: '' }, ['no-site', 1, []]],
    [{ orphans: 3 }, ['orphans', 3, []]],
    [{ bare: [{ key: 'c', name: 'Tea' }] }, ['no-extras', 1, ['Tea']]],
    [{ conflicts: [{ text: '-pot', blocked: 4 }] }, ['own-keyword-blocked', 4, ['-pot']]],
    [{ mute: [{ key: 'k1', name: 'Kettles' }] }, ['no-phone', 1, ['Kettles']]],
    [{ named: [{ rule: 'marker-in-name', text: 'Tea {CITY}' }] }, ['marker-in-name', 1, ['Tea {CITY}']]],
    [
      { named: [{ rule: 'marker-in-extra', text: 'Open in [town]' }] },
      ['marker-in-extra', 1, ['Open in [town]']],
    ],
  ])('%j: %j', (more, expected) => expect(ofPlan(more)).toEqual([expected]));

  test.each([
    [{ rows: ADVISED_PLAN.rows }, []],
    [{ rows: ADVISED_PLAN.rows + 1 }, ['plan-large']],
    [{ groups: ADVISED_PLAN.groups }, []],
    [{ groups: ADVISED_PLAN.groups + 1 }, ['plan-large']],
  ])('%j: %j', (more, rules) => expect(ofPlan(more).map(([rule]) => rule)).toEqual(rules));
});

describe('findings', () => {
  test('are summed up by their rule and field, blockers first', () => {
    const found = new Findings();
    found.add('orphans');
    found.addGroup('k1', [{ rule: 'few-ads', field: null, count: 1, text: 'Tea' }], 20);
    found.addGroup('k2', [{ rule: 'few-ads', field: null, count: 2, text: 'Pots' }], 30);
    found.addGroup('k3', [{ rule: 'few-ads', field: null, count: 1, text: 'Cups' }], null);
    found.add('no-ad', { key: 'k4', text: 'Lids' });
    expect(
      found.list().map(({ severity, rule, count, searches }) => [severity, rule, count, searches]),
    ).toEqual([
      ['blocker', 'no-ad', 1, null],
      ['warning', 'few-ads', 4, 50],
      ['tip', 'orphans', 1, null],
    ]);
  });

  test('what they speak of tells them apart, in whatever order it is found', () => {
    const factsOf = (...keys: string[]) => {
      const found = new Findings();
      for (const key of keys) found.add('few-ads', { key, text: key });
      return found.list()[0]?.facts;
    };
    expect(factsOf('a', 'b')).toBe(factsOf('b', 'a'));
    expect(factsOf('a', 'b')).not.toBe(factsOf('a', 'c'));
    expect(factsOf('a')).not.toBe(factsOf('a', 'b'));
  });

  test('of ad groups the first five are kept, of all else more; as many as are asked for where all are listed', () => {
    const few = { rule: 'few-ads' as const, field: null, count: 1 };
    const kept = (most?: ConstructorParameters<typeof Findings>[0]) => {
      const found = new Findings(most);
      for (let at = 1; at <= 7; at++) {
        found.addGroup(`k${at}`, [{ ...few, text: `Group ${at}` }]);
        found.add('marker-in-name', { key: `c${at}`, text: `Campaign ${at}`, count: at });
      }
      return new Map(found.list().map((one) => [one.rule, one]));
    };
    const usual = kept();
    expect(usual.get('few-ads')).toMatchObject({ count: 7, place: { stage: 'write', key: 'k1' } });
    expect(usual.get('few-ads')?.samples.map(({ key }) => key)).toEqual(['k1', 'k2', 'k3', 'k4', 'k5']);
    expect(usual.get('marker-in-name')?.samples).toHaveLength(7);
    expect(usual.get('marker-in-name')?.samples.map(({ count }) => count)).toEqual([
      undefined,
      ...[2, 3, 4, 5, 6, 7],
    ]);
    const all = kept({ groups: 6, others: 2 });
    expect(all.get('few-ads')?.samples).toHaveLength(6);
    expect(all.get('marker-in-name')?.samples).toHaveLength(2);
    // What was accepted holds whatever is kept to be read.
    expect(all.get('few-ads')?.facts).toBe(usual.get('few-ads')?.facts);
  });

  test('every rule is of the plan or of its outlets', () => {
    const ofOutlets = findingRules.filter((rule) => outletRules.has(rule));
    expect(ofOutlets).toContain('field-unfilled');
    expect(ofOutlets).toContain('keyword-too-long');
    for (const rule of ['no-extras', 'no-phone', 'marker-in-extra', 'address-no-answer', 'orphans'] as const)
      expect(outletRules.has(rule)).toBe(false);
  });
});
