import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { caseStyles, casingOf, english, lengthOf, parseLine, writeLine } from '../text/index.ts';
import {
  type AdField,
  adFields,
  CompiledLine,
  compileLines,
  compilePattern,
  countFits,
  curesOf,
  type FormLimits,
  fitFields,
  fitLine,
  inNotation,
  limitsOf,
  patternOf,
  unfilledOf,
  versionsOf,
} from './index.ts';

const writing = { pack: english, casing: casingOf(['Wrenport']) };
const lines = (...sources: string[]) => compileLines(sources, 'as-is').lines;
const form: FormLimits = {
  headlines: { limit: 20, least: 1, most: 3, shown: 3 },
  descriptions: { limit: 20, least: 1, most: 2, shown: 2 },
  paths: { limit: 12, least: 0, most: 2, shown: 2 },
};
const limits = limitsOf(form);

describe('the first line that fits', () => {
  const field = {
    lines: lines('@keyword for hire in wrenport', '@keyword hire', 'Kayak hire'),
    style: 'as-is',
  } as const;
  test.each([
    ['sea kayak', 'sea kayak for hire in Wrenport', 0, 30],
    ['inflatable sea kayak', 'inflatable sea kayak hire', 1, 25],
    ['inflatable two person kayak', 'Kayak hire', 2, 10],
  ])('%s', (keyword, text, line, length) => {
    const limit = keyword === 'sea kayak' ? 30 : 25;
    const fit = { status: 'fits', text, line, length, live: [] };
    expect(fitLine(field, { keyword }, limit, writing)).toEqual(fit);
  });

  test('none fits: the shortest overrun is told', () => {
    const long = { lines: lines('@keyword for hire', '@keyword hire'), style: 'title' } as const;
    expect(fitLine(long, { keyword: 'inflatable kayak' }, 20, writing)).toEqual({
      status: 'unfilled',
      why: 'too-long',
      overrun: 1,
      line: 1,
      text: 'Inflatable Kayak Hire',
    });
  });

  test('a token without a value makes its line unusable, not blank, unless something stands in for it', () => {
    const field = { lines: lines('@group', 'Kayaks'), style: 'as-is' } as const;
    expect(fitLine(field, {}, 20, writing)).toMatchObject({ line: 1 });
    expect(fitLine({ lines: lines('@group'), style: 'as-is' }, {}, 20, writing)).toEqual({
      status: 'unfilled',
      why: 'no-line',
    });
    const instead = { lines: lines('Hire in @place(or Eastmere)'), style: 'as-is' } as const;
    expect(fitLine(instead, {}, 20, writing)).toMatchObject({ text: 'Hire in Eastmere' });
    expect(fitLine(instead, { place: 'Wrenport' }, 20, writing)).toMatchObject({ text: 'Hire in Wrenport' });
  });

  test.each([
    ['wide characters count two', '東京 @keyword', 'k', 6],
    ['a combining mark and its letter count one', '@keyword', 'cafe\u0301', 4],
    ['an emoji is wide', 'Go \u{1f6f6}', 'k', 5],
    ['full-width letters', '@keyword', 'ｋａ', 4],
  ])('%s', (_, line, keyword, length) => {
    const wide = { lines: lines(line), style: 'as-is' } as const;
    expect(fitLine(wide, { keyword }, length, writing)).toMatchObject({ status: 'fits', length });
    expect(fitLine(wide, { keyword }, length - 1, writing)).toMatchObject({ overrun: 1 });
  });

  test('right-to-left text is measured like any other', () => {
    const field = { lines: lines('@keyword'), style: 'title' } as const;
    expect(fitLine(field, { keyword: 'קיאק' }, 4, writing)).toMatchObject({ text: 'קיאק', length: 4 });
  });

  test('a line of spaces, or of nothing, is passed over', () => {
    expect(fitLine({ lines: lines('   ', '', 'Kayaks'), style: 'title' }, {}, 20, writing)).toMatchObject({
      line: 2,
    });
  });
});

describe('case', () => {
  test.each([
    ['title', 'hire @keyword(lower) today', 'Hire SEA kayak Today'.replace('SEA', 'sea')],
    ['lower', '@keyword(title) HIRE', 'Sea Kayak hire'],
    ['sentence', '@keyword in wrenport', 'Sea kayak in Wrenport'],
    ['title', '@keyword(as-is) for the sea', 'sea kayak for the Sea'],
    ['title', 'a @keyword of the', 'A Sea Kayak of The'],
  ] as const)('%s: %s', (style, line, text) => {
    const field = { lines: lines(line), style };
    expect(fitLine(field, { keyword: 'sea kayak' }, 90, writing)).toMatchObject({ text });
  });

  test('what is held in another length keeps its parts: ß raised is two letters', () => {
    const field = { lines: lines('ßa @keyword(lower)'), style: 'title' } as const;
    expect(fitLine(field, { keyword: 'KAYAK' }, 20, writing)).toMatchObject({ text: 'SSa kayak' });
  });
});

describe('live tokens', () => {
  const insertion = {
    'as-is': '<k|@default>',
    lower: '<kl|@default>',
    sentence: '<ks|@default>',
    title: '<kt|@default>',
  };
  const written = (line: string, style: (typeof caseStyles)[number] = 'title') => {
    const fit = fitLine({ lines: lines(line), style }, { keyword: 'sea kayak' }, 40, writing);
    return fit.status === 'fits' ? [fit.text, fit.length, inNotation(fit.text, fit.live, insertion)] : [];
  };

  test('are shown with their default, as long as it is, and written in the outlet’s notation', () => {
    expect(written('@keyword(live) for hire')).toEqual(['Sea Kayak for Hire', 18, '<kt|Sea Kayak> for Hire']);
    expect(written('hire @keyword(live, lower, or Kayak & $1 more)')).toEqual([
      'Hire kayak & $1 more',
      20,
      'Hire <kl|kayak & $1 more>',
    ]);
  });

  test('an outlet that knows none gets what is fallen back on', () => {
    const fit = fitLine({ lines: lines('@keyword(live)'), style: 'title' }, { keyword: 'canoe' }, 9, writing);
    expect(fit.status === 'fits' && inNotation(fit.text, fit.live, null)).toBe('Canoe');
  });

  test('written against live: two versions of an ad', () => {
    const split = {
      by: 'live',
      field: 'headline1',
      lines: [],
      labels: ['written', 'live'],
      paused: null,
    } as const;
    const pattern = patternOf({ headline1: ['@keyword(live) hire', '@keyword'] }, 'title', {
      split: { ...split, lines: [], labels: ['written', 'live'] },
    });
    const [first, second] = versionsOf(pattern);
    const livesOf = (one: typeof first) => one?.compiled.fields.headline1.lines.map(({ hasLive }) => hasLive);
    expect([livesOf(first), first?.label]).toEqual([[false, false], 'written']);
    expect([livesOf(second), second?.label]).toEqual([[true, true], 'live']);
  });

  test('line against line: only that field differs', () => {
    const pattern = patternOf({ headline1: ['Hire today'], headline2: ['@keyword'] }, 'as-is', {
      split: {
        by: 'line',
        field: 'headline1',
        lines: ['Try it first'],
        labels: ['today', 'try'],
        paused: null,
      },
    });
    const texts = versionsOf(pattern).map(({ compiled }) => {
      const fields = fitFields(compiled, { keyword: 'canoe' }, limits, writing);
      return ['headline1', 'headline2'].map((name) => {
        const fit = fields[name as AdField];
        return fit?.status === 'fits' ? fit.text : '';
      });
    });
    expect(texts).toEqual([
      ['Hire today', 'canoe'],
      ['Try it first', 'canoe'],
    ]);
  });
});

describe('a whole ad', () => {
  const values = { keyword: 'sea kayak', group: 'Sea' };

  test('every field that the form has is filled or empty; paths have hyphens', () => {
    const pattern = patternOf(
      {
        headline1: ['@keyword hire'],
        headline4: ['Too many'],
        description1: ['on the water'],
        path1: ['@keyword'],
      },
      'title',
    );
    const fields = fitFields(compilePattern(pattern), values, limits, writing);
    expect(fields.headline1).toMatchObject({ text: 'Sea Kayak Hire' });
    expect(fields.description1).toMatchObject({ text: 'On the water' });
    expect(fields.path1).toMatchObject({ text: 'sea-kayak' });
    expect(fields.headline2).toEqual({ status: 'empty' });
    expect(fields.headline4).toBeUndefined();
    expect(unfilledOf(fields)).toEqual([]);
  });

  test('what is missing is listed in the order one reads it', () => {
    const pattern = patternOf({ headline1: ['@keyword hire for everybody'], path2: ['paddling for all'] });
    const fields = fitFields(compilePattern(pattern), values, limits, writing);
    expect(unfilledOf(fields)).toEqual(['headline1', 'description1', 'path2']);
  });

  test('a place is kept in assembled ads only', () => {
    const pattern = patternOf({ headline1: ['A'], headline2: ['B'] });
    pattern.fields.headline1.kept = 2;
    expect(compilePattern(pattern).kept).toEqual({});
    expect(compilePattern({ ...pattern, form: 'assembled' }).kept).toEqual({ headline1: 2 });
  });
});

describe('counting over groups', () => {
  const keywords = ['kayak', 'sea kayak tours', 'inflatable sea kayak hire', 'two person inflatable kayak'];
  const valuesOf = (at: number) => ({ keyword: keywords[at] as string });
  const compiled = compilePattern(
    patternOf({ headline1: ['@keyword hire today', '@keyword'], description1: ['On the water'] }, 'title'),
  );

  test('agrees with fitting each', () => {
    const counts = countFits(compiled, keywords.length, valuesOf, limits, writing);
    const each = keywords.map((keyword) => fitFields(compiled, { keyword }, limits, writing));
    expect(counts.misfits).toBe(each.filter((fields) => unfilledOf(fields).length > 0).length);
    expect(counts.fields.headline1).toEqual({ byLine: [1, 1], unfilled: 2, short: 0, leastOverrun: 5 });
    expect(counts.misfitPlaces).toEqual([2, 3]);
  });

  test('those filled with less than half of the room are told', () => {
    const short = compilePattern(patternOf({ headline1: ['@keyword'], description1: ['On the water'] }));
    const counts = countFits(short, 2, valuesOf, limits, writing);
    expect(counts.fields.headline1?.short).toBe(1);
    expect(counts.shortPlaces).toEqual([0]);
  });

  test('what cures most comes first, and each that follows cures others too', () => {
    const sources = ['@keyword for hire in Wrenport today'];
    const values = ['sea kayak', 'canoe', 'kayak', 'inflatable sea kayak'].map((keyword) => ({ keyword }));
    const cures = curesOf(sources, { style: 'title' }, values, 20, writing);
    expect(cures[0]).toEqual({ line: '@keyword', fits: 4, of: 4 });
    expect(cures).toHaveLength(1);
    const tight = curesOf(sources, { style: 'title' }, values, 18, writing);
    expect(tight[0]).toEqual({ line: '@keyword for hire', fits: 3, of: 4 });
    for (const { line, fits } of tight)
      expect(
        values.filter((one) => fitLine(compileLines([line], 'title'), one, 18, writing).status === 'fits'),
      ).toHaveLength(fits);
  });
});

const word = fc.constantFrom(
  'sea',
  'kayak',
  'inflatable',
  '東京',
  'for',
  'the',
  'SUP',
  'cafe\u0301',
  '\u{1f6f6}',
);
const keyword = fc.array(word, { minLength: 1, maxLength: 6 }).map((words) => words.join(' '));
const piece = fc.oneof(
  word,
  fc.constantFrom(
    '@keyword',
    '@keyword(lower)',
    '@keyword(live, title)',
    '@group',
    '@place(or Eastmere)',
    '@theme',
  ),
);
const source = fc.array(piece, { minLength: 1, maxLength: 5 }).map((pieces) => pieces.join(' '));
const field = fc.record({
  sources: fc.array(source, { maxLength: 4 }),
  style: fc.constantFrom(...caseStyles),
});

describe('properties', () => {
  test('a used line always fits, and no line above it does', () => {
    fc.assert(
      fc.property(field, keyword, fc.integer({ min: 1, max: 60 }), ({ sources, style }, text, limit) => {
        const compiled = compileLines(sources, style);
        const values = { keyword: text, group: text };
        const fit = fitLine(compiled, values, limit, writing);
        const before = fit.status === 'fits' ? fit.line : compiled.lines.length;
        if (fit.status === 'fits') expect(lengthOf(fit.text)).toBeLessThanOrEqual(limit);
        for (const line of compiled.lines.slice(0, before)) {
          const above = line.write(values, style, writing);
          expect(above === undefined || above.length > limit).toBe(true);
        }
      }),
    );
  });

  test('no token is left in what is written, nor in the outlet’s notation', () => {
    const notation = {
      'as-is': '<@default>',
      lower: '<@default>',
      sentence: '<@default>',
      title: '<@default>',
    };
    fc.assert(
      fc.property(field, keyword, ({ sources, style }, text) => {
        const fit = fitLine(compileLines(sources, style), { keyword: text }, 200, writing);
        if (fit.status !== 'fits') return;
        expect(fit.text).not.toMatch(/@/);
        expect(inNotation(fit.text, fit.live, notation)).not.toMatch(/@/);
      }),
    );
  });

  test('the choice of lines does not depend on the order of groups', () => {
    fc.assert(
      fc.property(field, fc.array(keyword, { minLength: 1, maxLength: 8 }), ({ sources, style }, texts) => {
        const once = compileLines(sources, style);
        const forwards = texts.map((text) => fitLine(once, { keyword: text }, 20, writing));
        const backwards = texts.toReversed().map((text) => fitLine(once, { keyword: text }, 20, writing));
        expect(backwards.toReversed()).toEqual(forwards);
        const fresh = texts.map((text) =>
          fitLine(compileLines(sources, style), { keyword: text }, 20, writing),
        );
        expect(fresh).toEqual(forwards);
      }),
    );
  });

  test('a line that is read and written again is the same', () => {
    fc.assert(
      fc.property(source, (typed) => {
        const read = parseLine(typed);
        if ('problem' in read) throw new Error(typed);
        expect(parseLine(writeLine(read.line))).toEqual(read);
      }),
    );
  });

  test('live stretches are where they say they are', () => {
    fc.assert(
      fc.property(field, keyword, ({ sources, style }, text) => {
        for (const typed of sources) {
          const read = parseLine(typed);
          if ('problem' in read) continue;
          const written = new CompiledLine(read.line).write({ keyword: text, group: text }, style, writing);
          for (const { from, to } of written?.live ?? [])
            expect(written?.text.slice(from, to).toLowerCase()).toBe(text.toLowerCase());
        }
      }),
    );
  });
});

test('fields are told in one order, each once', () => {
  expect(new Set(adFields).size).toBe(adFields.length);
  expect(adFields.indexOf('headline15')).toBe(14);
});

test('a line filled in part by part is what it is when put in its case as a whole', () => {
  const casing = casingOf(['Wrenport', 'Sea Kayak Co.', 'SUP', 'for-two', 'Kayak/Canoe']);
  const own = { pack: english, casing };
  const text = fc.constantFrom(
    'sea',
    'kayak',
    'kayak co.',
    'for',
    'the',
    'sup',
    'wrenport',
    'two  three',
    'é',
    'for-two',
  );
  const value = fc.array(text, { minLength: 1, maxLength: 3 }).map((words) => words.join(' '));
  const between = fc.constantFrom(' ', '? ', '-', '', ', ', ' co. ', '/');
  const made = fc
    .array(fc.tuple(piece, between), { minLength: 1, maxLength: 5 })
    .map((pairs) => pairs.map(([one, gap]) => one + gap).join(''));
  const values = fc.record({ keyword: value, group: value });
  const across = parseLine('@keyword @keyword');
  // Two tokens with nothing but a space between: a form may lie across them.
  if ('line' in across)
    expect(new CompiledLine(across.line).write({ keyword: 'kayak co. sea' }, 'as-is', own)?.text).toBe(
      'kayak co. Sea Kayak Co. sea',
    );
  fc.assert(
    fc.property(made, fc.constantFrom(...caseStyles), values, (typed, style, filled) => {
      const read = parseLine(typed);
      if ('problem' in read) return;
      const line = new CompiledLine(read.line);
      expect(line.write(filled, style, own)).toEqual(line.whole(filled, style, own));
    }),
    { numRuns: 2_000 },
  );
});
