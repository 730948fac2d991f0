import { describe, expect, test } from 'vitest';
import { limitsOf, readAdSheet, type SheetAd, type SheetGroup, writerSheet } from './index.ts';

const part = (limit: number, least: number, most: number) => ({ limit, least, most, shown: most });
const limits = limitsOf({ headlines: part(20, 1, 3), descriptions: part(40, 1, 2), paths: part(12, 0, 2) });
const groups: SheetGroup[] = [
  { key: 'k1', campaign: 'Kayaks', group: 'Kayak hire', keyword: 'kayak hire' },
  { key: 'k2', campaign: 'Canoes', group: 'Canoe hire', keyword: 'canoe hire' },
  { key: 'k3', campaign: 'Kayaks', group: 'Hire', keyword: 'hire' },
  { key: 'k4', campaign: 'Canoes', group: 'Hire', keyword: 'hire' },
];
const usual: SheetAd = { pattern: 1, version: 'a', name: 'Plain ad' };
const second: SheetAd = { pattern: 7, version: 'b', name: 'Live (b)' };
const read = (rows: string[][]) =>
  readAdSheet(rows.map((row) => row.join('\t')).join('\n'), groups, [usual, second], usual, limits);
const said = (rows: string[][]) =>
  read(rows).texts.map(
    ({ group, ad, field, text }) => `${group}/a${ad.pattern}${ad.version} ${field}: ${text}`,
  );

describe('a sheet for a writer', () => {
  test('each group once, with empty columns; filled in, it says what was written', () => {
    const sheet = writerSheet(groups, ['headline1', 'description1', 'finalUrl']);
    expect(sheet[0]).toEqual(['Campaign', 'Ad group', 'Keyword', 'Headline 1', 'Description 1', 'Final URL']);
    expect(sheet).toHaveLength(5);
    expect(read(sheet).texts).toEqual([]);
    const filled = sheet.map((row, at) =>
      at === 2 ? [...row.slice(0, 3), ' Canoes  today', '', 'site.example/canoes'] : row,
    );
    expect(said(filled)).toEqual(['k2/a1a headline1: Canoes today', 'k2/a1a finalUrl: site.example/canoes']);
    expect(read(filled)).toMatchObject({ rows: 4, problems: [], tooLong: 0, unknown: [] });
  });

  test('columns in any order; others are named; case does not matter', () => {
    const rows = [
      ['NOTES', 'headline 2', 'ad group', 'Campaign'],
      ['ask', 'By the hour', 'kayak HIRE', 'kayaks'],
    ];
    expect(said(rows)).toEqual(['k1/a1a headline2: By the hour']);
    expect(read(rows).unknown).toEqual(['NOTES']);
  });

  test('a column says which ad of the group is meant', () => {
    expect(
      said([
        ['Ad group', 'Ad', 'Path 1'],
        ['Kayak hire', 'live (B)', 'boats'],
        ['Canoe hire', '', 'boats'],
      ]),
    ).toEqual(['k1/a7b path1: boats', 'k2/a1a path1: boats']);
  });

  test('what can’t be taken is told with its line, and the rest is taken', () => {
    const { problems, texts, tooLong } = read([
      ['Campaign', 'Ad group', 'Ad', 'Headline 1', 'Headline 4', 'Final URL'],
      ['', 'Hire', '', 'x', '', ''],
      ['Boats', 'Hire', '', 'x', '', ''],
      ['Kayaks', 'Rafts', '', 'x', '', ''],
      ['', '', '', 'x', '', ''],
      ['Kayaks', 'Hire', 'Nobody', 'x', '', ''],
      ['Kayaks', 'Hire', '', 'Hire @nothing', 'too many', 'javascript:alert(1)'],
      ['Canoes', 'Hire', '', 'A headline that is far too long', '', ''],
    ]);
    expect(problems).toEqual([
      { line: 2, words: '2 ad groups are called “Hire”. Say the campaign too.' },
      { line: 3, words: 'There is no ad group “Hire” in “Boats”.' },
      { line: 4, words: 'There is no ad group “Rafts” in “Kayaks”.' },
      { line: 5, words: 'It names no ad group.' },
      { line: 6, words: 'No pattern is called “Nobody”.' },
      { line: 7, words: 'Headline 1: @nothing is no token.' },
      { line: 7, words: 'Headline 4: this form of ad has no such field.' },
      { line: 7, words: 'Final URL: “javascript:alert(1)” is no web address.' },
    ]);
    expect(texts).toHaveLength(1);
    expect(tooLong).toBe(1);
  });

  test('what is no sheet says so', () => {
    expect(read([['just words']]).problems[0]?.words).toContain('no sheet');
    expect(
      read([
        ['a', 'b'],
        ['c', 'd'],
      ]).problems[0]?.words,
    ).toContain('no column “Ad group”');
  });

  test('a quote that does not close costs its own line only', () => {
    const text = 'Ad group\tHeadline 1\n"Kayak hire\tA\nCanoe hire\tB\n';
    const { problems, texts } = readAdSheet(text, groups, [usual], usual, limits);
    expect(problems).toMatchObject([{ line: 2 }]);
    expect(texts).toMatchObject([{ group: 'k2', text: 'B' }]);
  });

  test('quotes, line breaks inside a cell, and commas', () => {
    const text = 'Ad group,Description 1\n"Kayak hire","Paddle, then\ndecide"\n';
    expect(readAdSheet(text, groups, [usual], usual, limits).texts).toMatchObject([
      { group: 'k1', text: 'Paddle, then decide' },
    ]);
  });
});
