import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { gapIn, ListedWords, parseLine } from '../text/index.ts';
import { namedParts, rivalLines } from './rival-lines.ts';

describe('lines of somebody else’s ad', () => {
  test('headlines of one line apart, addresses left out, each once; a name is a gap', () => {
    const pasted =
      'Canines by Bristle & Comb | From £20 · Book Today\nbristleandcomb.example/offers\nhttps://bristle.example\n\nAsk Bristle and Comb for a visit at home, on any day of the week.\nFrom £20\n';
    const lines = rivalLines(pasted, ['Bristle & Comb']);
    expect(lines.map(({ line, isLong }) => [line, isLong])).toEqual([
      ['Canines by @gap(your own name)', false],
      ['From £20', false],
      ['Book Today', false],
      ['Ask @gap(your own name) for a visit at home, on any day of the week.', true],
    ]);
  });

  test.each([
    ['bristlecomb brushes', 'bristlecomb'],
    ['The Bristle-and-Comb’s best', 'Bristle-and-Comb’s'],
    ['Nothing of theirs', ''],
    ['', ''],
  ])('the name in “%s”', (text, name) => {
    const parts = namedParts(text, new ListedWords(['Bristle & Comb']));
    expect(parts.flatMap((part) => (part.isName ? [part.text] : []))).toEqual(name === '' ? [] : [name]);
  });

  test('whatever was pasted: the parts are the line, it can be read as one of ours, and names no rival', () => {
    const word = fc.constantFrom(
      'Acme',
      'acmes',
      'Acme-Tools',
      '@keyword',
      'a@b',
      '(x)',
      'sale',
      '&',
      '½',
      '@',
    );
    fc.assert(
      fc.property(fc.array(word, { maxLength: 9 }), (words) => {
        const listed = new ListedWords(['Acme', 'Acme Tools']);
        for (const { parts, line } of rivalLines(words.join(' '), ['Acme', 'Acme Tools'])) {
          expect(parts.map(({ text }) => text).join('')).toBe(words.join(' ').trim());
          const read = parseLine(line);
          expect('line' in read).toBe(true);
          expect('line' in read && gapIn(read.line) !== null).toBe(parts.some(({ isName }) => isName));
          for (const { text, isName } of parts) if (!isName) expect(listed.in(text)).toBeNull();
        }
      }),
    );
  });
});
