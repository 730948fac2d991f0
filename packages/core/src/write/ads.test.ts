import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { english, ListedWords } from '../text/index.ts';
import {
  alikeHeadlines,
  checkExtra,
  combinationOf,
  compilePattern,
  type ExtraBody,
  type FormLimits,
  fitFields,
  headlines,
  limitsOf,
  ordersOf,
  patternOf,
  RelevanceReader,
  thriceRead,
  tryInsertion,
} from './index.ts';

const writing = { pack: english, casing: null };
const form: FormLimits = {
  headlines: { limit: 30, least: 3, most: 12, shown: 3 },
  descriptions: { limit: 80, least: 1, most: 4, shown: 2 },
  paths: { limit: 15, least: 0, most: 2, shown: 2 },
};
const limits = limitsOf(form);
const words = { banned: new ListedWords(['Deepwell']), casing: new Set<string>() };
const reader = () => new RelevanceReader(english);

const assembled = (heads: string[], descriptions: string[] = ['On the water'], kept: number[] = []) => {
  const pattern = patternOf(
    {
      ...Object.fromEntries(heads.map((text, at) => [headlines[at], [text]])),
      ...Object.fromEntries(descriptions.map((text, at) => [`description${at + 1}`, [text]])),
    },
    'as-is',
    { form: 'assembled' },
  );
  kept.forEach((place, at) => {
    pattern.fields[headlines[at] as 'headline1'].kept = place;
  });
  const compiled = compilePattern(pattern);
  return { fields: fitFields(compiled, { keyword: 'canoe' }, limits, writing), kept: compiled.kept };
};

describe('relevance', () => {
  const fieldsOf = (lines: Parameters<typeof patternOf>[0]) =>
    fitFields(compilePattern(patternOf(lines)), {}, limits, writing);

  test('the share of content stems, headlines 0.6, descriptions and paths 0.2 each', () => {
    const fields = fieldsOf({
      headline1: ['Kayaks for hire'],
      description1: ['Hire by the hour'],
      path1: ['sea-kayak'],
    });
    const { score, missing } = reader().of(['sea kayak hire'], fields);
    // Of sea, kayak, hire: headlines have 2, descriptions 1, paths 2.
    expect(score).toBeCloseTo((0.6 * 2 + 0.2 * 1 + 0.2 * 2) / 3, 10);
    expect(missing).toEqual([]);
  });

  test('the mean over the keywords; what is missing with how many miss it', () => {
    const fields = fieldsOf({ headline1: ['Canoe'], description1: ['x'] });
    const { score, missing } = reader().of(['canoe hire', 'canoes', 'the hire of canoes'], fields);
    expect(score).toBeCloseTo((0.3 + 0.6 + 0.3) / 3, 10);
    expect(missing).toEqual([{ word: 'hire', keywords: 2 }]);
  });

  test('the score alone is the same, with one reader for group after group', () => {
    const word = fc.constantFrom(
      'sea',
      'kayak',
      'kayaks',
      'hire',
      'hired',
      'the',
      'of',
      '&',
      '-',
      '2024',
      'sit-on-top',
    );
    const text = fc.array(word, { minLength: 1, maxLength: 5 }).map((words) => words.join(' '));
    const one = reader();
    fc.assert(
      fc.property(
        fc.array(text, { maxLength: 6 }),
        text,
        text,
        text,
        (norms, headline, description, path) => {
          const first = fieldsOf({ headline1: [headline], description1: [description], path1: [path] });
          const second = fieldsOf({ headline1: [path], description1: [headline] });
          for (const fields of [first, second, first])
            expect(one.score(norms, fields)).toBeCloseTo(reader().of(norms, fields).score, 10);
        },
      ),
      { numRuns: 200 },
    );
  });

  test('between 0 and 1, and 1 where every part has every word', () => {
    const all = fieldsOf({ headline1: ['Sea kayaks'], description1: ['sea kayak'], path1: ['kayak-sea'] });
    expect(reader().of(['kayaks for the sea'], all).score).toBeCloseTo(1, 10);
    expect(reader().of(['to the'], all).score).toBe(0);
    expect(reader().of(['sea & kayak -'], all)).toMatchObject({ missing: [] });
    expect(reader().of([], all).score).toBe(0);
  });
});

describe('assembled ads', () => {
  test('the ways of showing one are counted', () => {
    const five = ['A', 'B', 'C', 'D', 'E'];
    expect(ordersOf(assembled(five).fields, {}, form)).toBe(5 * 4 * 3);
    const kept = assembled(five, ['x', 'y', 'z'], [1, 0, 1]);
    // Two for the first place, then three others in two places; three descriptions in two.
    expect(ordersOf(kept.fields, kept.kept, form)).toBe(2 * 3 * 2 * (3 * 2));
    expect(ordersOf(assembled(['A']).fields, {}, form)).toBe(1);
  });

  test('counted as enumerating them would', () => {
    const places = fc.array(fc.integer({ min: 0, max: 3 }), { minLength: 1, maxLength: 6 });
    fc.assert(
      fc.property(places, (kept) => {
        const { fields, kept: places } = assembled(
          kept.map((_, at) => `H${at}`),
          ['x'],
          kept,
        );
        expect(ordersOf(fields, places, form)).toBe(enumerated(kept).size);
      }),
    );
  });

  test('each way shows what is kept in its place, nothing twice, and in time everything', () => {
    const { fields, kept } = assembled(['A', 'B', 'C', 'D', 'E'], ['x', 'y', 'z'], [2]);
    const seen = new Set<string>();
    for (let n = 0; n < 12; n++) {
      const { headlines: heads, descriptions } = combinationOf(fields, kept, form, n);
      expect(heads[1]).toBe('A');
      expect(new Set(heads).size).toBe(3);
      for (const text of [...heads, ...descriptions]) seen.add(text);
    }
    expect([...seen].sort().join('')).toBe('ABCDExyz');
    expect(combinationOf(fields, {}, form, 0).headlines).toEqual(['A', 'B', 'C']);
  });

  test('headlines that say the same, whatever their form and order', () => {
    const { fields } = assembled(['Kayak hire', 'Hire kayaks', 'hire of a kayak', 'Canoe hire']);
    expect(alikeHeadlines(fields, reader())).toEqual([
      ['headline1', 'headline2'],
      ['headline1', 'headline3'],
    ]);
  });

  test('a word that may be read three times', () => {
    const often = assembled(['Kayak hire', 'Kayaks', 'Book now'], ['Kayak by the hour', 'Fun']);
    expect(thriceRead(often.fields, often.kept, form, reader())).toEqual(['kayak']);
    const kept = assembled(['Kayak hire', 'Kayaks', 'Book now'], ['Kayak by the hour'], [1, 1]);
    expect(thriceRead(kept.fields, kept.kept, form, reader())).toEqual([]);
  });
});

/** All ways by trying them: items with their kept places, 0 for none, in three places. */
function enumerated(kept: readonly number[]): Set<string> {
  const ways = new Set<string>();
  const put = (place: number, taken: readonly number[]) => {
    if (place > 3) return void ways.add(taken.join(' '));
    const own = kept.flatMap((one, at) => (one === place ? [at] : []));
    const free = kept.flatMap((one, at) => (one === 0 && !taken.includes(at) ? [at] : []));
    const choices = own.length > 0 ? own : free;
    if (choices.length === 0) return put(place + 1, [...taken, -1]);
    for (const at of choices) put(place + 1, [...taken, at]);
  };
  put(1, []);
  return ways;
}

describe('keywords inserted at search time', () => {
  const check = (line: string, keywords: string[], keyword = keywords[0] as string) => {
    const pattern = compilePattern(patternOf({ headline1: [line], description1: ['x'] }, 'title'));
    return tryInsertion(pattern, { keyword }, keywords, limits, writing, words);
  };

  test('which fit, which fall back, and what would be objected to', () => {
    const keywords = [
      'kayak hire',
      'kayak kayak hire',
      'deepwell kayak hire',
      'inflatable sea kayak for two hire',
    ];
    const [found] = check('@keyword(live, or Kayaks) in Wrenport', keywords);
    expect(found).toMatchObject({
      field: 'headline1',
      shown: 'Kayaks in Wrenport',
      fits: 2,
      fallsBack: 2,
      objections: 1,
      banned: 0,
    });
    expect(found?.worst[0]).toEqual({
      keyword: 'kayak kayak hire',
      text: 'Kayak Kayak Hire in Wrenport',
      problems: ['word-twice'],
    });
    expect(check('@keyword(live)', keywords)[0]).toMatchObject({ fits: 3, banned: 1 });
  });

  test('the five that read worst are told, the worst first', () => {
    const keywords = Array.from({ length: 20 }, (_, at) => (at === 13 ? 'kayak for the' : `kayak ${at}`));
    const worst = check('@keyword(live)', keywords)[0]?.worst ?? [];
    expect(worst).toHaveLength(5);
    expect(worst[0]?.keyword).toBe('kayak for the');
  });

  test('in a path spaces become hyphens, as in one that is written', () => {
    const pattern = compilePattern(patternOf({ path1: ['@keyword(live)'] }));
    const [found] = tryInsertion(pattern, { keyword: 'kayak' }, ['sea kayak'], limits, writing, words);
    expect(found).toMatchObject({ field: 'path1', objections: 0, worst: [{ text: 'sea-kayak' }] });
  });

  test('a field without a live token is not tried, nor one that is unfilled', () => {
    expect(check('@keyword hire', ['a'])).toEqual([]);
    expect(check('@keyword(live)', ['x'.repeat(40)])).toEqual([]);
  });

  test('every keyword is counted once', () => {
    const keyword = fc.array(fc.constantFrom('kayak', 'sea', 'for', 'inflatable'), {
      minLength: 1,
      maxLength: 6,
    });
    fc.assert(
      fc.property(fc.array(keyword, { minLength: 1, maxLength: 12 }), (list) => {
        const keywords = list.map((one) => one.join(' '));
        const [found] = check('@keyword(live, or Boats)', keywords);
        expect((found?.fits ?? 0) + (found?.fallsBack ?? 0)).toBe(keywords.length);
        expect(found?.worst.length).toBe(Math.min(5, found?.fits ?? 0));
      }),
    );
  });
});

describe('extras', () => {
  const extra = { sitelink: { text: 12, line: 20, most: 8 }, callout: { text: 12, most: 10 } };
  const fields = (body: ExtraBody) => checkExtra(body, extra).map(({ field }) => field);
  test.each<[ExtraBody, string[]]>([
    [{ kind: 'sitelink', text: 'Hire', line1: '', line2: '', address: 'https://a.example/hire' }, []],
    [
      { kind: 'sitelink', text: '', line1: 'By the hour', line2: '', address: 'hire' },
      ['text', 'line2', 'address'],
    ],
    [{ kind: 'callout', text: 'Open all year round' }, ['text']],
    [{ kind: 'callout', text: '東京東京東京' }, []],
    [{ kind: 'callout', text: '東京東京東京!' }, ['text']],
    [{ kind: 'phone', number: '01632 960123' }, []],
    [{ kind: 'phone', number: 'ring' }, ['number']],
  ])('%j', (body, expected) => expect(fields(body)).toEqual(expected));
});
