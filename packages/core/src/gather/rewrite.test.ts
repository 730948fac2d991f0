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
  ['kayak  hire', { prefix: 'cheap ', suffix: ' wrenport' }, 'cheap kayak hire wrenport'],
  ['kayak for hire', { style: 'title' }, 'Kayak for Hire'],
  ['sit-on-top', { find: '-', replace: ' ' }, 'sit on top'],
])('%j with %j is %j', (text, change, expected) => expect(rewritten(text, change)).toBe(expected));
