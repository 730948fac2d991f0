import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { normalise } from '../text/index.ts';
import { matchTypes, readNotation, setOf, typesIn, writeNotation } from './index.ts';

const keyword = (text: string, type: string | null, marks: number[] = []) => ({
  status: 'read',
  text,
  negative: false,
  type,
  marks,
});
const negative = (text: string, type: string | null) => ({ ...keyword(text, type), negative: true });
const problem = (code: string, at: number, character?: string) => ({
  status: 'problem',
  code,
  at,
  ...(character ? { character } : {}),
});

describe('notation of a pasted keyword', () => {
  test.each([
    ['red kayak', keyword('red kayak', null)],
    ['  Red   Kayak ', keyword('Red Kayak', null)],
    ['"red kayak"', keyword('red kayak', 'phrase')],
    ['“red kayak”', keyword('red kayak', 'phrase')],
    ['" red kayak "', keyword('red kayak', 'phrase')],
    ['[red kayak]', keyword('red kayak', 'exact')],
    ['［ red kayak ］', keyword('red kayak', 'exact')],
    ['+red +kayak', keyword('red kayak', 'modified', [0, 1])],
    ['+red kayak ＋hire', keyword('red kayak hire', 'modified', [0, 2])],
    ['-red kayak', negative('red kayak', null)],
    ['-"red kayak"', negative('red kayak', 'phrase')],
    ['–[red kayak]', negative('red kayak', 'exact')],
    ["kids' sit-on-top", keyword("kids' sit-on-top", null)],
    ['sup \u{1f6f6}', keyword('sup \u{1f6f6}', null)],
  ])('%j', (raw, expected) => expect(readNotation(raw)).toEqual(expected));

  test.each([
    ['', problem('empty', 1)],
    ['   ', problem('empty', 1)],
    ['"red kayak', problem('unbalanced-quote', 1)],
    ['red kayak"', problem('unbalanced-quote', 10)],
    ['[red kayak', problem('unbalanced-bracket', 1)],
    ['red kayak]', problem('unbalanced-bracket', 10)],
    ['[[red]]', problem('unbalanced-bracket', 7)],
    ['["red"]', problem('mixed-marks', 2)],
    ['[red]]', problem('unbalanced-bracket', 6)],
    ['"', problem('unbalanced-quote', 1)],
    ['""', problem('empty-pair', 1)],
    ['[  ]', problem('empty-pair', 1)],
    ['+', problem('lone-plus', 1)],
    ['red + kayak', problem('lone-plus', 5)],
    ['red+kayak', problem('mark-inside', 4)],
    ['re"d kayak', problem('mark-inside', 3)],
    ['"red" kayak', problem('mark-inside', 5)],
    ['"+red kayak"', problem('mixed-marks', 2)],
    ['-+red', problem('mixed-marks', 2)],
    ['-', problem('empty', 1)],
    ['=cmd()', problem('not-allowed', 1, '=')],
    ['[red, kayak]', problem('not-allowed', 5, ',')],
    ['<script>kayak</script>', problem('not-allowed', 1, '<')],
    ['red -kayak', problem('not-allowed', 5, '-')],
    ['k'.repeat(401), problem('too-long', 401)],
  ])('%j is a problem with its place', (raw, expected) => expect(readNotation(raw)).toEqual(expected));

  test('characters not allowed are taken out only when asked', () => {
    expect(readNotation('red, kayak!', { takeOutNotAllowed: true })).toEqual(keyword('red kayak', null));
    expect(readNotation('!!', { takeOutNotAllowed: true })).toEqual(problem('empty', 1));
  });

  test('what is written is read again', () => {
    const words = fc.array(fc.stringMatching(/^[a-z0-9]{1,6}$/), { minLength: 1, maxLength: 5 });
    fc.assert(
      fc.property(words, fc.constantFrom(...matchTypes), (list, type) => {
        const text = list.join(' ');
        const read = readNotation(writeNotation(text, type));
        expect(read).toEqual(
          keyword(text, type === 'broad' ? null : type, type === 'modified' ? list.map((_, at) => at) : []),
        );
      }),
      { seed: 3 },
    );
  });

  /** Zero-width, soft hyphen, joiners, variation and direction marks, fillers, controls. */
  const INVISIBLE = [
    '\u200b',
    '\u00ad',
    '\u2060',
    '\u180e',
    '\ufe0f',
    '\u202e',
    '\u3164',
    '\0',
    '\u007f',
    '\u0085',
  ];

  test.each(INVISIBLE.map((mark) => [mark.codePointAt(0)?.toString(16), mark]))(
    'a line of nothing but U+%s is no keyword, whatever is around it',
    (_, mark = '') => {
      for (const line of [mark, ` ${mark} `, `"${mark}"`, `[${mark}]`, `-${mark}`, `-"${mark}"`, mark + mark])
        expect([line, readNotation(line)]).toEqual([line, expect.objectContaining({ status: 'problem' })]);
      expect(readNotation(`+${mark}`)).toMatchObject({ code: 'lone-plus' });
      expect(readNotation(`${mark} red +kayak`)).toMatchObject({ text: 'red kayak', marks: [1] });
    },
  );

  test('what is read always says something', () => {
    const piece = fc.constantFrom(...INVISIBLE, ' ', '"', '[', ']', '+', '-', 'kayak', 'é', '｀');
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 8 }), fc.boolean(), (pieces, takeOutNotAllowed) => {
        const read = readNotation(pieces.join(''), { takeOutNotAllowed });
        if (read.status === 'read') expect(normalise(read.text)).not.toBe('');
      }),
      { numRuns: 2_000 },
    );
  });

  test('never throws, whatever is pasted', () => {
    fc.assert(
      fc.property(fc.string({ unit: 'binary' }), (raw) => {
        expect(['read', 'problem']).toContain(readNotation(raw).status);
      }),
      { seed: 5, numRuns: 2_000 },
    );
  });

  test('sets of match types', () => {
    expect(setOf(['phrase', 'exact'])).toBe(12);
    expect(typesIn(5)).toEqual(['broad', 'phrase']);
  });
});
