import { expect, test } from 'vitest';
import { nextPath } from './next-path.ts';

test.each([
  ['/plans/7/build?view=rows#x', '/plans/7/build?view=rows#x'],
  ['/', '/'],
])('%s leads there', (wanted, path) => expect(nextPath(wanted)).toBe(path));

test.each([
  null,
  '',
  'https://evil.example/',
  '//evil.example',
  '/\\evil.example',
  '\\\\evil.example',
  '/\t/evil.example',
  'javascript:alert(1)',
  ' /plans',
  'plans/7',
  '/door?to=/door',
  'http://[',
])('%s leads to the list of plans, and to no other site', (wanted) => expect(nextPath(wanted)).toBe('/'));
