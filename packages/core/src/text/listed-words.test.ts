import { describe, expect, test } from 'vitest';
import { ListedWords } from './index.ts';

describe('names are found as look-alikes are', () => {
  const rivals = new ListedWords(['Fathom & Reed', 'Timberline', 'Oak', 'Lakeside Knives', 'QZ']);
  test.each([
    ['fathom & reed kayak', 'Fathom & Reed'],
    ['fathom and reed', 'Fathom & Reed'],
    ['buy fathom reed canoe', 'Fathom & Reed'],
    ['fathomandreed', 'Fathom & Reed'],
    ['fathomreed kayak', 'Fathom & Reed'],
    ['fathom-and-reed', 'Fathom & Reed'],
    ['Fathom and Reeds', 'Fathom & Reed'],
    ['fathom and reed’s kayaks', 'Fathom & Reed'],
    ['timberlines', 'Timberline'],
    ['timber line tents', 'Timberline'],
    ['timber-lines', 'Timberline'],
    ['lakeside knife', 'Lakeside Knives'],
    ['oaks for sale', 'Oak'],
    ['qz kayak', 'QZ'],
    ['q z kayak', null],
    ['fathom kayak', null],
    ['reed fathom', null],
    ['oakham', null],
    ['soak', null],
    ['timber', null],
    ['', null],
  ])('“%s”: %s', (text, expected) => expect(rivals.in(text)).toBe(expected));

  test('also in the host of an address, joined with other words', () =>
    expect(rivals.inAddress('https://shop-timberlines.example/a')).toBe('Timberline'));

  test('an empty list finds nothing', () => {
    expect(new ListedWords([]).in('anything')).toBeNull();
    expect(new ListedWords(['', '&']).isEmpty).toBe(true);
  });
});
