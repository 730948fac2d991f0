import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { english, numberFold } from '../text/index.ts';
import { withNumberForms } from './index.ts';

describe('plurals and singulars of a list', () => {
  test.each([
    ['crown', 'crown | crowns', 1, 0],
    ['tooth brushes', 'tooth brushes | tooth brush', 1, 0],
    ['accessory', 'accessory | accessories', 1, 0],
    ['knife', 'knife | knives', 1, 0],
    ['movie', 'movie | movies', 1, 0],
    ['sit-on-top', 'sit-on-top | sit-on-tops', 1, 0],
    ['crown | crowns', 'crown | crowns', 0, 0],
    ['crown | cap', 'crown | cap | crowns', 1, 0],
    ['canvas', 'canvas | canvases', 1, 0],
    ['chess', 'chess', 0, 1],
    ['gps', 'gps', 0, 1],
    ['mp3', 'mp3', 0, 1],
    ['', '', 0, 0],
    ['crown\n\ngps', 'crown | crowns\n\ngps', 1, 1],
  ])('%j becomes %j', (text, expected, added, without) =>
    expect(withNumberForms(text, english)).toEqual({ text: expected, added, without }),
  );

  test('twice is once, and every form that is added folds to what it is of', () => {
    const word = fc.constantFrom(
      'kettle',
      'boxes',
      'city',
      'leaf',
      'heroes',
      'glass',
      'news',
      'photo',
      'tax',
    );
    fc.assert(
      fc.property(fc.array(fc.array(word, { minLength: 1, maxLength: 3 }), { maxLength: 8 }), (lines) => {
        const text = lines.map((words) => words.join(' ')).join('\n');
        const once = withNumberForms(text, english);
        expect(withNumberForms(once.text, english).text).toBe(once.text);
        for (const line of once.text.split('\n')) {
          const [first = '', other] = line.split(' | ');
          const fold = (form: string) => form.split(' ').map(numberFold).join(' ');
          if (other !== undefined) expect(fold(other)).toBe(fold(first));
        }
      }),
      { seed: 22 },
    );
  });
});
