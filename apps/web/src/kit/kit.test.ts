import { expect, test } from 'vitest';
import { valueAt, withValue } from '../data/document.ts';
import { asTextTable, asTsv } from './clipboard.ts';
import { copiedFigure, figuredText, moneyFiguredText } from './figured-text.ts';
import { bytes, count, counted, money, percent, tallied, tally } from './format.ts';
import { readMoney, readPercent, readWhole } from './read-typed.ts';

test('what is copied keeps its rectangle, whatever the cells hold', () => {
  const cells = [
    ['Keyword', 'Note'],
    ['a\tb', 'two\nlines'],
    ['say "hi"', '=cmd()'],
  ];
  expect(asTsv(cells)).toBe('Keyword\tNote\n"a\tb"\t"two\nlines"\n"say ""hi"""\t=cmd()');
});

test('for spreadsheets every cell is text, and nothing in it is markup', () => {
  const table = asTextTable([['+kayak', '<img src=x onerror=alert(1)>', '"&"']]);
  expect(table).toContain(`<td style="mso-number-format:'\\@'">+kayak</td>`);
  expect(table).toContain('&lt;img src=x onerror=alert(1)&gt;');
  expect(table).toContain('&quot;&amp;&quot;');
  expect(table).not.toContain('<img');
});

test.each([
  ['0.40', 400_000],
  ['£0.40', 400_000],
  ['0,40 €', 400_000],
  ['1,300', 1_300_000_000],
  ['GBP 12', 12_000_000],
  ['.5', 500_000],
  ['0.0000005', 1],
])('%s is an amount', (typed, value) => expect(readMoney(typed)).toEqual({ value }));

test.each(['', '-1', 'NaN', '1e9', 'ten', '1.2.3', '1000001'])('%j is no amount, in words', (typed) => {
  expect(readMoney(typed)).toHaveProperty('words');
});

test.each([
  ['125', 12_500],
  ['125%', 12_500],
  ['12,5 %', 1_250],
  ['1000', 100_000],
])('%s is a step', (typed, value) => expect(readPercent(typed)).toEqual({ value }));

test.each(['1001', '-5', 'all', ''])('%j is no step', (typed) =>
  expect(readPercent(typed)).toHaveProperty('words'),
);

test('where there is little room large numbers are short, all alike', () => {
  expect([0, 1, 9_999, 10_000, 12_862, 100_000, 1_200_000].map(tally)).toEqual([
    '0',
    '1',
    '9,999',
    '10k',
    '12.9k',
    '100k',
    '1.2m',
  ]);
  expect([tallied(1, 'keyword'), tallied(12_862, 'group')]).toEqual(['1 keyword', '12.9k groups']);
});

test('figures as the interface writes them', () => {
  expect([count(6014), count(null), count(-1), count(0)]).toEqual(['6,014', '–', '–', '0']);
  expect([
    figuredText(3_162, 'told', true),
    figuredText(90, 'hand'),
    figuredText(null, null, true),
    figuredText(3_162, 'estimated'),
    figuredText(7, 'estimated'),
    figuredText(318, 'made-up'),
  ]).toEqual(['about 3,162', '90', '–', '≈ 3,200', '≈ <10', '≈ 320']);
  expect([
    moneyFiguredText(583_000, 'told', 'GBP'),
    moneyFiguredText(583_000, 'taken', 'GBP'),
    moneyFiguredText(2_000, 'estimated', 'GBP'),
    moneyFiguredText(400_000, 'told', 'GBP', true),
  ]).toEqual(['£0.583', '≈ £0.58', '≈ £0.01', 'about £0.40']);
  expect([copiedFigure(318, 'told'), copiedFigure(318, 'estimated'), copiedFigure(null, null)]).toEqual([
    '318',
    '≈ 320',
    '',
  ]);
  expect([
    money(580_000, 'GBP'),
    money(575_000, 'GBP'),
    money(58_000_000, 'JPY'),
    money(1_000, 'KWD'),
  ]).toEqual(['£0.58', '£0.575', 'JP¥58', 'KWD\u00a00.001']);
  expect([counted(1, 'keyword'), counted(1204, 'row'), counted(2, 'address')]).toEqual([
    '1 keyword',
    '1,204 rows',
    '2 addresses',
  ]);
  expect([percent(12_500), percent(1_250)]).toEqual(['125%', '12.5%']);
  expect([bytes(66), bytes(385_000), bytes(4_100_000)]).toEqual(['66 B', '385 kB', '4.1 MB']);
});

test('one value of a document is changed in a copy', () => {
  const document = { ladder: { steps: { exact: 12_500, phrase: 10_000 } }, lines: ['a'] };
  const next = withValue(document, 'ladder.steps.exact', 13_000);
  expect(valueAt(next, 'ladder.steps.exact')).toBe(13_000);
  expect(valueAt(document, 'ladder.steps.exact')).toBe(12_500);
  expect(next.lines).toEqual(['a']);
});

test.each([
  ['1300', 1_300],
  [' 1,300 ', 1_300],
  ['1.300.000', 1_300_000],
  ['1 300', 1_300],
  ['1,30,000', 130_000],
  ['', null],
  ['–', null],
  ['1,5', undefined],
  ['1300.5', undefined],
  ['1,300.000', undefined],
  ['-4', undefined],
  ['many', undefined],
])('“%s” as a whole number is %s', (typed, value) => expect(readWhole(typed)).toBe(value));
