import { expect, test } from 'vitest';
import { examplesOf, neutralExamples } from './examples.ts';

test('examples are of the plan’s own words', () =>
  expect(
    examplesOf([
      'implants',
      'dental implants cost',
      'teeth whitening',
      'how much are implants for all of it',
    ]),
  ).toEqual({
    keyword: 'dental implants cost',
    second: 'teeth whitening',
    word: 'implants',
    other: 'dental',
  }));

test.each([[[]], [['a b']], [['x'.repeat(60)]], [['1/4 5-6']]])(
  'neutral ones where %j has none',
  (keywords) => expect(examplesOf(keywords)).toBe(neutralExamples),
);

test('a pool of one keyword', () =>
  expect(examplesOf(['invoice software'])).toEqual({
    keyword: 'invoice software',
    second: 'invoice software',
    word: 'invoice',
    other: 'software',
  }));
