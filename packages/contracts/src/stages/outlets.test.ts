import { plainOutlet, shippedOutlets } from '@sprig/core/outlets';
import { describe, expect, test } from 'vitest';
import { readOutletJson } from './outlets.ts';

const broken = (change: (outlet: Record<string, never>) => void) => {
  const copy = structuredClone(plainOutlet) as never;
  change(copy);
  const read = readOutletJson(JSON.stringify(copy));
  return read.status === 'problem' ? read.problems : [];
};
// biome-ignore lint/suspicious/noExplicitAny: each case breaks the type on purpose
type Any = any;

describe('an outlet as JSON', () => {
  test.each(shippedOutlets.map((outlet) => [outlet.key, outlet] as const))(
    '%s reads as it is',
    (_, outlet) => {
      expect(readOutletJson(JSON.stringify(outlet, null, 2))).toEqual({ status: 'outlet', outlet });
    },
  );

  test('one that was kept before outlets advised anything advises what is usual', () => {
    const { advised, ...before } = plainOutlet;
    expect(readOutletJson(JSON.stringify(before))).toEqual({ status: 'outlet', outlet: plainOutlet });
    expect(advised.plain).toEqual({ least: 3, most: 8 });
  });

  const cases: [what: string, change: (o: Any) => void, at: string, words: RegExp][] = [
    [
      'a limit of 0',
      (o) => {
        o.limits.keywordLength = 0;
      },
      'limits.keywordLength',
      /1 at least/,
    ],
    [
      'a limit in words',
      (o) => {
        o.limits.groupName = 'many';
      },
      'limits.groupName',
      /whole number/,
    ],
    [
      'half a limit',
      (o) => {
        o.limits.groupName = 1.5;
      },
      'limits.groupName',
      /whole number/,
    ],
    [
      'more ads advised at least than at most',
      (o) => {
        o.advised.plain.least = 9;
      },
      'advised.plain.least',
      /at least than at most/,
    ],
    [
      'a missing part',
      (o) => {
        delete o.words;
      },
      'words',
      /./,
    ],
    [
      'a part that there is none of',
      (o) => {
        o.colour = 'red';
      },
      'colour',
      /no such part/,
    ],
    [
      'two columns with one heading',
      (o) => {
        o.sheets[2].columns[1].heading = ' campaign ';
      },
      'sheets.2.columns.1.heading',
      /Two columns have the heading/,
    ],
    [
      'no heading',
      (o) => {
        o.sheets[2].columns[1].heading = '';
      },
      'sheets.2.columns.1.heading',
      /needs a heading/,
    ],
    [
      'a value that is none',
      (o) => {
        o.sheets[0].columns[0].value = 'weather';
      },
      'sheets.0.columns.0.value',
      /no such value/,
    ],
    [
      'one value in two columns',
      (o) => {
        o.sheets[2].columns[1].value = 'campaign';
      },
      'sheets.2.columns.1.value',
      /same value/,
    ],
    [
      'two sheets of a kind',
      (o) => {
        o.sheets[1].kind = 'campaigns';
      },
      'sheets.1.kind',
      /two sheets of campaigns/,
    ],
    [
      'two files of a name',
      (o) => {
        o.sheets[1].fileName = 'campaigns';
      },
      'sheets.1.fileName',
      /Two sheets are named/,
    ],
    [
      'a file name with a way out',
      (o) => {
        o.sheets[1].fileName = '../x';
      },
      'sheets.1.fileName',
      /Small letters/,
    ],
    [
      'a sheet without its column',
      (o) => {
        o.sheets[2].columns.splice(2, 1);
      },
      'sheets.2.columns',
      /column for the keyword is missing/,
    ],
    [
      'no sheet',
      (o) => {
        o.sheets = [];
      },
      'sheets',
      /needs a sheet/,
    ],
    [
      'two sheets with the same headings',
      (o) => {
        o.sheets[3].columns = structuredClone(o.sheets[2].columns);
      },
      'sheets.3.columns',
      /same headings/,
    ],
    [
      'a combined sheet that does not tell its rows',
      (o) => {
        o.sheets[6].columns.shift();
      },
      'sheets.6.columns',
      /what each row is/,
    ],
    [
      'one word for two match types',
      (o) => {
        o.words.matchTypes.exact = 'phrase';
      },
      'words.matchTypes.exact',
      /could not be told apart/,
    ],
    [
      'one word for two states',
      (o) => {
        o.words.paused = 'Enabled';
      },
      'words.paused',
      /could not be told apart/,
    ],
    [
      'a notation without its keyword',
      (o) => {
        o.words.notation.exact = '[]';
      },
      'words.notation.exact',
      /Write @ once/,
    ],
    [
      'one notation for two types',
      (o) => {
        o.match = 'notation';
        o.sheets[2].columns[2].value = 'keyword-notation';
        o.words.notation.phrase = '@';
      },
      'words.notation.phrase',
      /same notation/,
    ],
    [
      'matching by a column that is not there',
      (o) => {
        for (const sheet of o.sheets)
          sheet.columns = sheet.columns.filter((one: Any) => one.value !== 'match-type');
      },
      'match',
      /no sheet of keywords has one/,
    ],
    [
      'matching by a setting that is not there',
      (o) => {
        o.match = 'setting';
      },
      'match',
      /no sheet of campaigns/,
    ],
    [
      'insertion without its default',
      (o) => {
        o.ad.insertion.lower = '<<keyword>>';
      },
      'ad.insertion.lower',
      /@default/,
    ],
    [
      'more fields needed than allowed',
      (o) => {
        o.ad.plain.headlines.least = 5;
      },
      'ad.plain.headlines.least',
      /More are needed/,
    ],
    [
      'a least bid off the step',
      (o) => {
        o.bidIncrement = 50_000;
        o.bids.least = 70_000;
      },
      'bids.least',
      /no multiple/,
    ],
    [
      'bids by network without a column',
      (o) => {
        o.bids.perNetwork = true;
      },
      'bids.perNetwork',
      /no sheet has a column/,
    ],
    [
      'an encoding that there is none of',
      (o) => {
        o.file.encoding = 'morse';
      },
      'file.encoding',
      /./,
    ],
    [
      'a mark that the encoding has not',
      (o) => {
        o.file.encoding = 'windows-1252';
        o.file.byteOrderMark = true;
      },
      'file.byteOrderMark',
      /no byte order mark/,
    ],
    [
      'a key that is no key',
      (o) => {
        o.key = 'My Outlet';
      },
      'key',
      /Small letters/,
    ],
    [
      'a column that may not stand in a sheet',
      (o) => {
        o.sheets[2].columns[1] = { heading: 'Phone', value: 'extra-number' };
      },
      'sheets.2.columns.1.value',
      /nothing to put here/,
    ],
    [
      'negatives of several types with nothing that tells which',
      (o) => {
        for (const sheet of o.sheets)
          if (sheet.kind === 'negatives' || sheet.kind === 'combined')
            sheet.columns = sheet.columns.filter((one: Any) => one.value !== 'match-type');
        o.match = 'setting';
      },
      'negativeTypes',
      /no column of theirs tells which/,
    ],
    [
      'sites for adults that may be shown nowhere',
      (o) => {
        o.adultSites = { taken: true, networks: [] };
      },
      'adultSites.networks',
      /shown nowhere/,
    ],
    [
      'no match type',
      (o) => {
        o.matchTypes = [];
      },
      'matchTypes',
      /one match type/,
    ],
  ];
  test.each(cases)('%s is named', (_, change, at, words) => {
    const problems = broken(change as never);
    expect(problems.map((one) => one.at)).toContain(at);
    expect(problems.find((one) => one.at === at)?.words).toMatch(words);
  });

  test('an outlet that says nothing of sites for adults takes them everywhere', () => {
    const { adultSites: _, ...older } = plainOutlet;
    expect(readOutletJson(JSON.stringify(older))).toEqual({ status: 'outlet', outlet: plainOutlet });
  });

  test('what is no JSON is told with its place', () => {
    expect(readOutletJson('{\n  "key": oops\n}')).toMatchObject({
      status: 'problem',
      problems: [{ at: '', words: expect.stringMatching(/^Not JSON: line 2, column 10/) }],
    });
    expect(readOutletJson('')).toMatchObject({ problems: [{ words: 'Not JSON: there is nothing.' }] });
    const long = readOutletJson(' '.repeat(500_001));
    expect(long.status === 'problem' && long.problems[0]?.words).toMatch(/^Longer/);
  });

  test('a problem in one part leaves the others to be told, too', () => {
    const problems = broken((o: Any) => {
      o.limits.keywordLength = 0;
      o.file.encoding = 'morse';
      o.sheets[0].columns[0].value = 'weather';
    });
    expect(problems.map(({ at }) => at).sort()).toEqual([
      'file.encoding',
      'limits.keywordLength',
      'sheets.0.columns.0.value',
    ]);
  });
});

test('an outlet that an older version saved is the same outlet, under the names of today', () => {
  const now = JSON.stringify(plainOutlet);
  const then = now
    .replace('"extras":{', '"assets":{')
    .replace('"extraKinds"', '"assetKinds"')
    .replace('"extra":"Extra"', '"asset":"Extra"')
    .replaceAll('"value":"extra-', '"value":"asset-')
    .replace('"kind":"extras"', '"kind":"assets"');
  expect(then).not.toBe(now);
  expect(readOutletJson(then)).toEqual({ status: 'outlet', outlet: plainOutlet });
});
