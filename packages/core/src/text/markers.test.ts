import { describe, expect, test } from 'vitest';
import { markerIn, markerInAddress } from './index.ts';

describe('markers left in a text', () => {
  test.each([
    ['Buy xxkeywordxx today', 'xxkeywordxx'],
    ['XX Town XX plumbers', 'XX Town XX'],
    ['Plumbers in XXXX', 'XXXX'],
    ['Dentist in {CITY}', '{CITY}'],
    ['Dentist in {{ city }}', '{{ city }}'],
    ['Teapots {}', '{}'],
    ['Shop [keyword] now', '[keyword]'],
    ['Shop <your brand> now', '<your brand>'],
    ['Vans in insert_town', 'insert_town'],
    ['INSERT_YOUR_BRAND vans', 'INSERT_YOUR_BRAND'],
    ['insert keyword here', 'insert keyword here'],
    ['Only at PRODUCT_NAME', 'PRODUCT_NAME'],
    ['From %price% a day', '%price%'],
    ['Lorem ipsum dolor', 'Lorem ipsum'],
  ])('%s: %s', (text, found) => expect(markerIn(text)).toBe(found));

  test.each([
    'Size XXL shirts',
    'XXX films',
    'XX century clocks',
    'how to insert text in a photo',
    'insert date in a sheet',
    'Save 20% on price, 5% on offer',
    'Teapots [new]',
    'snake_case converter',
    'a < b and c > d',
    '$5 and $10',
    'exxon', // an xx within a word
    '',
  ])('none in %j', (text) => expect(markerIn(text)).toBeNull());

  test.each([
    ['https://tea.example/xxkeywordxx', 'xxkeywordxx'],
    ['https://tea.example/insert_town', 'insert_town'],
    ['https://tea.example/?place=%5Btown%5D', '[town]'],
    ['https://tea.example/XXXX', 'XXXX'],
  ])('in the address %s: %s', (address, found) => expect(markerInAddress(address)).toBe(found));

  test.each([
    'https://tea.example/pots?utm_term={keyword}&utm_source=a',
    'https://tea.example/%7Bcity%7D',
    'https://tea.example/%E0%A4%A?a=xx',
    'https://tea.example/insert-text',
  ])('none in the address %s', (address) => expect(markerInAddress(address)).toBeNull());
});
