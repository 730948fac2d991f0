import { expect, test } from 'vitest';
import { english } from '../text/index.ts';
import { noRewriting, type Rewriting, rewriter } from './index.ts';

const rewritten = (text: string, change: Partial<Rewriting>) => {
  const made = rewriter({ ...noRewriting, ...change }, english);
  return made.status === 'ready' ? made.rewrite(text) : made.code;
};

test.each<[string, Partial<Rewriting>, string]>([
  ['Kayak hire', {}, 'Kayak hire'],
  ['Kayak hire kayak', { find: 'kayak', replace: 'canoe' }, 'canoe hire canoe'],
  ['c++ kayak', { find: 'c++ ', replace: '' }, 'kayak'],
  ['kayak', { find: 'kayak', replace: '$1 $&' }, '$1 $&'],
  ['kayak hire', { find: '(\\w+) hire', replace: 'hire $1', isPattern: true }, 'hire kayak'],
  ['kayak', { find: '(', isPattern: true }, 'bad-pattern'],
  ['kayak hire', { find: 'H', replace: '$& $$', isPattern: true }, 'kayak h $ire'],
  [
    'two kayaks',
    { find: '(?<n>\\w+) (?<good>\\w+)', replace: '$<good> $<n>', isPattern: true },
    'kayaks two',
  ],
  ['KAYAK and kayak', { find: '^kayak|kayak$', replace: 'x', isPattern: true }, 'x and x'],
  ['caf\u00e9 CAF\u00c9', { find: '\\u00e9', replace: 'e', isPattern: true }, 'cafe CAFe'],
  ['kayak', { find: '', replace: 'x', isPattern: true }, 'kayak'],
  ['kayak  hire', { prefix: 'cheap ', suffix: ' wrenport' }, 'cheap kayak hire wrenport'],
  ['kayak for hire', { style: 'title' }, 'Kayak for Hire'],
  ['sit-on-top', { find: '-', replace: ' ' }, 'sit on top'],
])('%j with %j is %j', (text, change, expected) => expect(rewritten(text, change)).toBe(expected));

test('no expression takes longer than the text is long', () => {
  const text = 'a'.repeat(400);
  for (const find of ['(a+)+b', '(a|a)*c', '(a*)*d', '(.*)(.*)(.*)(.*)(.*)e'])
    expect(rewritten(text, { find, isPattern: true })).toBe(text);
  const many = { find: '((a{100}){100}){100}', isPattern: true };
  expect(rewritten(text, many)).toBe('bad-pattern');
});

test.each([
  ['(', '', 'missing closing ): `(`'],
  [
    '(?=a)',
    '',
    'invalid or unsupported Perl syntax: `(?=`. Looking ahead or behind, and speaking of an earlier group, are not possible here',
  ],
  ['(a)', '$2', 'nothing in brackets is called $2'],
  ['(?<n>a)', '$<m>', 'nothing in brackets is called $<m>'],
])('%s with %s is told in words', (find, replace, words) =>
  expect(rewriter({ ...noRewriting, find, replace, isPattern: true }, english)).toMatchObject({ words }),
);
