import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  casingOf,
  cutAtWord,
  english,
  fillLine,
  firstNotAllowed,
  inCase,
  lengthOf,
  normalise,
  parseLine,
  withoutNotAllowed,
} from './index.ts';

describe('normal form', () => {
  test.each([
    ['  Kids’  Kayak – Hire ', "kids' kayak - hire"],
    ['“Sit‑on‑Top”', '"sit-on-top"'],
    ['ＫＡＹＡＫ\u00a0hire', 'kayak hire'],
    ['ka\u200byak\u00ad', 'kayak'],
    ['kayak\thire\r\n', 'kayak hire'],
    ['I\u0307nflatable', 'i̇nflatable'],
    ['caf\u0065\u0301 canoe', 'café canoe'],
    ['sup \u{1f6f6}\ufe0f', 'sup \u{1f6f6}'],
    ['kayak\0s', 'kayaks'],
    ['\ud800kayak', 'kayak'],
  ])('%j is %j', (raw, expected) => expect(normalise(raw)).toBe(expected));

  test('normalising twice changes nothing', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary', maxLength: 12 }), (text) => {
        const once = normalise(text);
        expect(normalise(once)).toBe(once);
      }),
      { numRuns: 5_000, seed: 11 },
    );
  });

  test('every single character is stable, alone and inside a word', () => {
    const unstable: string[] = [];
    for (let point = 0; point <= 0x1ffff; point++) {
      const once = normalise(`a${String.fromCodePoint(point)}b`);
      if (normalise(once) !== once) unstable.push(point.toString(16));
    }
    expect(unstable).toEqual([]);
  });
});

describe('characters that a keyword may not hold', () => {
  test.each([
    ['red kayak', undefined],
    ['sit-on-top', undefined],
    ['red, kayak', { at: 3, character: ',' }],
    ['red -kayak', { at: 4, character: '-' }],
    ['kayak-', { at: 5, character: '-' }],
    ['=cmd()', { at: 0, character: '=' }],
    ['<b>kayak', { at: 0, character: '<' }],
    ['a+b', { at: 1, character: '+' }],
  ])('%j: %j', (text, expected) => expect(firstNotAllowed(text)).toEqual(expected));

  test('taken out, they become spaces', () => {
    expect(withoutNotAllowed('<b>red</b> kayak - hire!')).toBe('b red /b kayak hire');
  });
});

describe('length', () => {
  test.each([
    ['Kayak', 5],
    ['café', 4],
    ['cafe\u0301', 4],
    ['東京', 4],
    ['Ｋａ', 4],
    ['ｶﾔｯｸ', 4],
    ['\u{1f6f6}', 2],
    ['', 0],
  ])('%j counts %i', (text, expected) => expect(lengthOf(text)).toBe(expected));

  test.each([
    ['inflatable sea kayak', 15, 'inflatable sea'],
    ['inflatable sea kayak', 14, 'inflatable sea'],
    ['inflatable sea kayak', 13, 'inflatable'],
    ['inflatable', 4, 'infl'],
    ['東京 kayak', 5, '東京'],
  ])('%j cut at %i is %j', (text, limit, expected) => expect(cutAtWord(text, limit)).toBe(expected));
});

describe('case styles', () => {
  const casing = casingOf(['SUP', 'Wrenport', 'iKayak', 'Fathom & Reed']);
  test.each([
    ['sit-on-top kayak for the sea', 'title', 'Sit-On-Top Kayak for the Sea'],
    ['the kayak is in', 'title', 'The Kayak is In'],
    ['cheap sup hire in wrenport', 'sentence', 'Cheap SUP hire in Wrenport'],
    ['cheap sup hire in wrenport', 'as-is', 'cheap SUP hire in Wrenport'],
    ['Sup And ikayak', 'lower', 'SUP and iKayak'],
    ['supper for two', 'title', 'Supper for Two'],
    ['fathom & reed paddles', 'title', 'Fathom & Reed Paddles'],
    ['2 person kayak', 'sentence', '2 person kayak'],
  ] as const)('%j in %s is %j', (text, style, expected) =>
    expect(inCase(text, style, english, casing)).toBe(expected),
  );
});

describe('lines and tokens', () => {
  const filled = (source: string, values: Record<string, string>) => {
    const read = parseLine(source);
    return 'line' in read ? fillLine(read.line, values) : read.problem;
  };
  test.each([
    ['@keyword hire', { keyword: 'kayak' }, 'kayak hire'],
    ['Hire @Keyword, @group.', { keyword: 'kayak', group: 'K' }, 'Hire kayak, K.'],
    ['@keyword on @site', { keyword: 'kayak' }, undefined],
    ['2 @ a time', {}, '2 @ a time'],
    ['a @keywords b', {}, { code: 'unknown-token', token: '@keywords', at: 3 }],
    ['@place(or Eastmere) @keyword(LIVE, or Kayaks, hired)', { keyword: 'kayak' }, 'Eastmere Kayaks, hired'],
    ['@keyword (and more)', { keyword: 'kayak' }, 'kayak (and more)'],
    ['@keyword(or Boats)', { keyword: 'kayak' }, 'kayak'],
    ['to @keyword(live', {}, { code: 'unclosed-token', token: '@keyword', at: 4 }],
    ['@keyword(or @place)', {}, { code: 'nested-token', token: '@place', at: 10 }],
    ['@keyword(or a (b))', {}, { code: 'nested-token', token: '(b', at: 10 }],
    ['@keyword(loud)', {}, { code: 'unknown-option', token: 'loud', at: 10 }],
    ['@keyword()', {}, { code: 'unknown-option', token: '', at: 10 }],
    ['@theme(live)', {}, { code: 'not-live', token: '@theme', at: 8 }],
  ])('%j', (source, values, expected) =>
    expect(filled(source, values as Record<string, string>)).toEqual(expected),
  );
});
