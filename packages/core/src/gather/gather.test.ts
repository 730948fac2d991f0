import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  columnMark,
  guessEncoding,
  ListStream,
  readAmount,
  readCompetition,
  readCount,
  readList,
} from './index.ts';

const bytes = (...list: (number | string)[]) =>
  Uint8Array.from(
    list.flatMap((item) => (typeof item === 'number' ? [item] : [...item].map((c) => c.charCodeAt(0)))),
  );
const wide = (text: string, little: boolean) =>
  bytes(...[...text].flatMap((c) => (little ? [c.charCodeAt(0), 0] : [0, c.charCodeAt(0)])));
const sound = () => true;

describe('encoding of a file', () => {
  const text = 'kayak hire\nred kayak\n';
  test.each([
    ['UTF-8 with a mark', bytes(0xef, 0xbb, 0xbf, text), 'utf-8'],
    ['UTF-16 LE with a mark', bytes(0xff, 0xfe, ...wide(text, true)), 'utf-16le'],
    ['UTF-16 BE with a mark', bytes(0xfe, 0xff, ...wide(text, false)), 'utf-16be'],
    ['UTF-16 LE without', wide(text, true), 'utf-16le'],
    ['UTF-16 BE without', wide(text, false), 'utf-16be'],
    ['plain', bytes(text), 'utf-8'],
    ['a text with a stray NUL', bytes(text, 0, text), 'utf-8'],
  ])('%s', (_, file, encoding) =>
    expect(guessEncoding(file, sound)).toMatchObject({ status: 'text', encoding }),
  );

  test('bytes that are no UTF-8 are Windows-1252', () => {
    expect(guessEncoding(bytes('caf', 0xe9), () => false)).toMatchObject({ encoding: 'windows-1252' });
  });

  test.each([
    ['empty', bytes(), 'empty-file'],
    [
      'a picture',
      bytes(0x89, 'PNG', 13, 10, 26, 10, 0, 0, 0, 13, 'IHDR', 0, 0, 4, 0, 0, 0, 3, 0),
      'binary-file',
    ],
    ['control characters', bytes(1, 2, 3, 4, 'abc'), 'binary-file'],
  ])('%s is refused', (_, file, code) =>
    expect(guessEncoding(file, sound)).toEqual({ status: 'problem', code }),
  );
});

describe('figures', () => {
  const figure = (value: number, approximate = false) => ({
    status: 'figure',
    figure: { value, approximate },
  });
  test.each([
    ['1300', '.', figure(1300)],
    ['1,300', '.', figure(1300)],
    ['1.300', ',', figure(1300)],
    ['1 300', '.', figure(1300)],
    ['1\u202f300', ',', figure(1300)],
    ['2.4K', '.', figure(2400)],
    ['1K – 10K', '.', figure(3162, true)],
    ['100-1000', '.', figure(316, true)],
    ['< 10', '.', figure(5, true)],
    ['--', '.', { status: 'none' }],
    ['', '.', { status: 'none' }],
    ['n/a', '.', { status: 'none' }],
    ['many', '.', { status: 'unreadable' }],
    ['1,30', '.', { status: 'unreadable' }],
    ['99999999999', '.', { status: 'unreadable' }],
    ['-5', '.', { status: 'unreadable' }],
  ] as const)('%j searches', (cell, mark, expected) => expect(readCount(cell, mark)).toEqual(expected));

  test.each([
    ['£0.40', '.', figure(400_000)],
    ['0,40 €', ',', figure(400_000)],
    ['GBP 1,300.50', '.', figure(1_300_500_000)],
    ['1.300,5', ',', figure(1_300_500_000)],
    ['0.575', '.', figure(575_000)],
  ] as const)('%j of money', (cell, mark, expected) => expect(readAmount(cell, mark)).toEqual(expected));

  test.each([
    ['0.45', 1, figure(45)],
    ['45', 100, figure(45)],
    ['45%', 1, figure(45)],
    ['Low', 1, figure(17, true)],
    ['high', 100, figure(83, true)],
    ['--', 100, { status: 'none' }],
    ['450', 100, { status: 'unreadable' }],
  ] as const)('%j of competition, counted to %i', (cell, scale, expected) =>
    expect(readCompetition(cell, '.', scale)).toEqual(expected),
  );

  test('the decimal mark is told by cells that can be read one way only', () => {
    expect(columnMark(['0,40', '1,20 €', '12'], true)?.decimal).toBe(',');
    expect(columnMark(['1,300', '0.40'], true)?.decimal).toBe('.');
    expect(columnMark(['1.300,5'], true)?.decimal).toBe(',');
    expect(columnMark(['1,300'], true)?.decimal).toBe('.');
  });
});

const brief = (text: string, options = {}) => {
  const reading = readList(text, options);
  return {
    keywords: reading.keywords.map(({ norm, asked }) => (asked ? `${norm} ${asked}` : norm)),
    negatives: reading.negatives.map(({ norm, type }) => `${norm} ${type}`),
    problems: reading.problems.map(({ line, code }) => `${line} ${code}`),
  };
};

describe('one keyword a line', () => {
  test('notations, repeats, negatives and errors', () => {
    const text = [
      'red kayak',
      '"Red Kayak"',
      '[red kayak]',
      'red  kayak',
      '+sea +kayak',
      '-free',
      '-[free kayak]',
      '[open',
      '',
      'a,b',
    ];
    const reading = readList(text.join('\n'));
    expect(brief(text.join('\n'))).toEqual({
      keywords: ['red kayak 12', 'sea kayak 2'],
      negatives: ['free null', 'free kayak exact'],
      problems: ['8 unbalanced-bracket', '10 not-allowed'],
    });
    expect(reading.counts).toEqual({
      lines: 9,
      repeated: 1,
      askedAgain: 2,
      byNotation: { plain: 3, broad: 0, modified: 1, phrase: 1, exact: 2 },
    });
    expect(reading.keywords[1]?.marks).toEqual([0, 1]);
  });

  test('lines without notation take the match type of the paste', () => {
    expect(brief('kayak\n"canoe"', { askedAs: 'exact' }).keywords).toEqual(['kayak 8', 'canoe 4']);
  });

  test.each(['kayak\r\ncanoe\r\n', 'kayak\rcanoe', '\ufeffkayak\ncanoe', 'Keywords\nkayak\ncanoe'])(
    '%j',
    (text) => {
      expect(brief(text).keywords).toEqual(['kayak', 'canoe']);
    },
  );

  test('a line of 5 MB is one problem, cut for reading, and the rest goes in', () => {
    const reading = readList(`kayak\n${'x'.repeat(5_000_000)}\ncanoe`);
    expect(reading.keywords.map(({ norm }) => norm)).toEqual(['kayak', 'canoe']);
    expect(reading.problems).toMatchObject([{ line: 2, code: 'long-line' }]);
    expect(reading.problems[0]?.raw.length).toBe(501);
  });
});

describe('sheets', () => {
  test('CSV with titles, a header, quotes, thousands, extras and totals', () => {
    const text = [
      'Keyword report',
      '1 Oct – 31 Oct',
      'Keyword,Avg. monthly searches,CPC (GBP),Competition',
      'kayak hire,"1,300",£0.58,High',
      '"[sea kayak]",--,,Low',
      '"""paddle board""",1K – 10K,0.40,',
      'Total,"2,400",,',
    ].join('\n');
    const reading = readList(text);
    expect(reading.layout).toMatchObject({
      delimiter: ',',
      headerLine: 3,
      roles: ['keyword', 'searches', 'cpc', 'competition'],
      decimal: '.',
      currency: 'GBP',
    });
    expect(reading.keywords).toEqual([
      {
        line: 4,
        text: 'kayak hire',
        norm: 'kayak hire',
        asked: 0,
        marks: [],
        searches: { value: 1300, approximate: false },
        cpc: { value: 580_000, approximate: false },
        competition: { value: 83, approximate: true },
        extra: null,
      },
      {
        line: 5,
        text: 'sea kayak',
        norm: 'sea kayak',
        asked: 8,
        marks: [],
        searches: null,
        cpc: null,
        competition: { value: 17, approximate: true },
        extra: null,
      },
      {
        line: 6,
        text: 'paddle board',
        norm: 'paddle board',
        asked: 4,
        marks: [],
        searches: { value: 3162, approximate: true },
        cpc: { value: 400_000, approximate: false },
        competition: null,
        extra: null,
      },
    ]);
    expect(reading.setAside.map(({ line, why }) => `${line} ${why}`)).toEqual([
      '1 title',
      '2 title',
      '3 header',
      '7 totals',
    ]);
  });

  test('tabs without a header: columns by their shape', () => {
    const reading = readList('kayak\t1300\t0.40\nsea kayak\t90\t0.55\ncanoe\t--\t--\n');
    expect(reading.layout.roles).toEqual(['keyword', 'searches', 'cpc']);
    expect(reading.keywords.map(({ searches, cpc }) => [searches?.value, cpc?.value])).toEqual([
      [1300, 400_000],
      [90, 550_000],
      [undefined, undefined],
    ]);
  });

  test('semicolons with decimal commas, and a match type column', () => {
    const reading = readList(
      'Search term;Match type;Searches;CPC\nkayak;Exact;1.300;0,40\ncanoe;odd;90;1,5\n',
    );
    expect(reading.layout).toMatchObject({ delimiter: ';', decimal: ',' });
    expect(reading.keywords.map(({ asked, searches, cpc }) => [asked, searches?.value, cpc?.value])).toEqual([
      [8, 1300, 400_000],
      [0, 90, 1_500_000],
    ]);
    expect(reading.problems).toMatchObject([{ line: 3, code: 'match-word', character: 'odd', kept: true }]);
  });

  test('a quote that does not close costs its own line only', () => {
    const reading = readList('Keyword,Searches\nkayak,10\n"open,20\ncanoe,30\n"two\nlines",40\nsup,50\n');
    expect(reading.keywords.map(({ norm }) => norm)).toEqual(['kayak', 'canoe', 'two lines', 'sup']);
    expect(reading.problems).toMatchObject([{ line: 3, code: 'open-quote', at: 1 }]);
  });

  test('a header is known by any of its headings; its first column of words is the keyword', () => {
    const reading = readList('Suchbegriff;Search volume;CPC\ncafé canoe;1.300;0,40\nraft;880;1,00\n');
    expect(reading.layout).toMatchObject({
      headerLine: 1,
      roles: ['keyword', 'searches', 'cpc'],
      decimal: ',',
    });
    expect(reading.keywords.map(({ norm, searches }) => [norm, searches?.value])).toEqual([
      ['café canoe', 1300],
      ['raft', 880],
    ]);
    expect(readList('Gruppe;Wort;Volume\na;kayak;5\nb;canoe;6').layout.roles).toEqual([
      'keyword',
      'extra',
      'searches',
    ]);
  });

  test('the guess can be changed', () => {
    const text = 'a\tkayak\t10\nb\tcanoe\t20\n';
    expect(brief(text, { roles: ['skip', 'keyword', 'searches'] }).keywords).toEqual(['kayak', 'canoe']);
    expect(brief(text, { roles: ['keyword', 'skip', 'skip'] }).keywords).toEqual(['a', 'b']);
    expect(brief(text, { headerLine: 1, roles: ['skip', 'keyword', 'skip'] }).keywords).toEqual(['canoe']);
  });

  test('a figure that can not be read is told, and the keyword kept', () => {
    const reading = readList('Keyword,Searches\nkayak,lots\ncanoe,20\n');
    expect(reading.keywords.map(({ searches }) => searches)).toEqual([
      null,
      { value: 20, approximate: false },
    ]);
    expect(reading.problems).toMatchObject([{ line: 2, code: 'figure', kept: true, character: 'lots' }]);
  });
});

describe('properties', () => {
  const line = fc.oneof(
    fc.string({ unit: 'binary', maxLength: 20 }),
    fc.constantFrom('"', '[red kayak]', '+a +b', '-x', 'k\t1', 'k,1', '"a""b",2', '', '\0'),
  );
  test('every line that is not blank is accounted for, and nothing throws', () => {
    fc.assert(
      fc.property(fc.array(line, { maxLength: 30 }), (lines) => {
        const reading = readList(lines.join('\n'), { delimiter: null, headerLine: null });
        const { keywords, negatives, problems, counts } = reading;
        const total =
          keywords.length + negatives.length + problems.length + counts.repeated + counts.askedAgain;
        expect(total).toBe(counts.lines);
      }),
      { seed: 21, numRuns: 1_000 },
    );
  });

  test('any text at all is read without an error', () => {
    fc.assert(
      fc.property(fc.array(line, { maxLength: 30 }), (lines) => {
        expect(readList(lines.join('\n')).counts.lines).toBeGreaterThanOrEqual(0);
      }),
      { seed: 22, numRuns: 1_000 },
    );
  });

  test('a list read in pieces says what it says whole, wherever it is cut', () => {
    const piece = fc.oneof(line, fc.constantFrom('\r\n', '\r', 'a;1,5\r\nb;2', '"x\ny";3\n'));
    fc.assert(
      fc.property(fc.array(piece, { maxLength: 12 }), (pieces) => {
        const said = (list: string[]) => {
          const told: unknown[] = [];
          const tell = (what: unknown) => void told.push(what);
          const sink = { keyword: tell, negative: tell, problem: tell, setAside: tell, noted: tell };
          const stream = new ListStream({}, sink);
          for (const one of list) stream.push(one);
          return [stream.end(), told];
        };
        expect(said(pieces)).toEqual(said([pieces.join('')]));
      }),
      { seed: 23, numRuns: 1_000 },
    );
  });

  test('past the lines that tell the layout, a quoted field may still run over the end of a piece', () => {
    const rows = Array.from({ length: 6_000 }, (_, at) => `"kayak\n${at}",${at}`);
    const text = `Keyword,Searches\n${rows.join('\n')}\n`;
    const whole = readList(text).keywords.map(({ line: at, norm, searches }) => [at, norm, searches?.value]);
    const told: unknown[] = [];
    const none = () => {};
    const stream = new ListStream(
      {},
      {
        keyword: ({ line: at, norm, searches }) => told.push([at, norm, searches?.value]),
        negative: none,
        problem: (problem) => told.push(problem),
        setAside: none,
        noted: none,
      },
    );
    for (let at = 0; at < text.length; at += 997) stream.push(text.slice(at, at + 997));
    stream.end();
    expect(told).toEqual(whole);
    expect(whole).toHaveLength(6_000);
  });
});

describe('currency of a list', () => {
  test.each([
    ['Keyword,CPC (EUR)\nkayak,0.40', 'EUR'],
    ['Keyword,CPC\nkayak,£0.40', 'GBP'],
    ['Keyword,CPC\nkayak,0.40', null],
  ])('%j: %s', (text, currency) => expect(readList(text).layout.currency).toBe(currency));

  test('amounts at a rate are rounded once', () => {
    const [kayak] = readList('Keyword,CPC (EUR)\nkayak,1.00', { rate: 862_345 }).keywords;
    expect(kayak?.cpc).toEqual({ value: 862_345, approximate: false });
  });
});
