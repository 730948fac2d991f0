import { english } from '@sprig/core/text';
import { describe, expect, test } from 'vitest';
import { problemText } from './field-names.ts';
import { markRepeated } from './mark-repeated.ts';
import { themeChoices } from './theme-choices.ts';

describe('what repeats the search', () => {
  const marked = (text: string, search: string) =>
    markRepeated(text, search, english)
      .map((part) => (part.repeats ? `[${part.text}]` : part.text))
      .join('');
  test.each([
    ['Kayak Hire in Wrenport', 'kayaks for hire', '[Kayak Hire] in Wrenport'],
    ['Kayaks, Canoes & More', 'canoe', 'Kayaks, [Canoes] & More'],
    ['For the Sea', 'for the river', 'For the Sea'],
    ['Hire a Kayak', 'kayak hire', '[Hire] a [Kayak]'],
    ['  Two  Kayaks', 'two kayaks', '  [Two  Kayaks]'],
    ['Anything', '', 'Anything'],
    ['', 'kayak', ''],
  ])('%s for %s', (text, search, expected) => expect(marked(text, search)).toBe(expected));

  test('nothing is lost', () => {
    const text = ' Kayaks –  hire, “now” ';
    expect(
      markRepeated(text, 'kayak now', english)
        .map((part) => part.text)
        .join(''),
    ).toBe(text);
  });
});

test('themes by their paths, also where one stands in a circle', () => {
  expect(
    themeChoices([
      { id: 2, parent: 1, name: 'Hire' },
      { id: 1, parent: null, name: 'Kayaks' },
      { id: 3, parent: 9, name: 'Lost' },
    ]),
  ).toEqual([
    { id: 1, parent: null, name: 'Kayaks' },
    { id: 2, parent: 1, name: 'Kayaks › Hire' },
    { id: 3, parent: 9, name: 'Lost' },
  ]);
  expect(themeChoices([{ id: 1, parent: 1, name: 'Self' }])).toHaveLength(1);
});

test('objections say the field and what was found', () => {
  expect(problemText('headline1', 'capitals', 'FREE')).toBe('Headline 1: FREE is in capitals');
  expect(problemText('finalUrl', 'address-other-site', 'x.example')).toBe(
    'Final URL: x.example is not the plan’s site',
  );
  expect(problemText('description2', 'refused-before', '')).toBe('Description 2: was refused before');
});
