import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { readAdText } from '../ads/index.ts';
import { asMicros } from '../money/index.ts';
import {
  type CampaignFacts,
  campaignSettings,
  DAYS,
  fennelwick,
  guessColumns,
  guessedOutlet,
  plainOutlet,
} from '../outlets/index.ts';
import { caseStyles, casingOf, type LinePart, languagePack, parseLine, writeLine } from '../text/index.ts';
import { CompiledLine, inNotation } from '../write/index.ts';
import { lanesOfNames, minutesAhead, readSettings, readSheet, shiftSchedule } from './index.ts';

const days = fc.subarray([...DAYS], { minLength: 1 });
const times = fc
  .tuple(fc.integer({ min: 0, max: 1_439 }), fc.integer({ min: 1, max: 1_440 }))
  .filter(([from, to]) => from < to);
const schedule = fc.array(
  fc.tuple(days, times).map(([on, [from, to]]) => ({ days: on, from, to })),
  { maxLength: 3 },
);
const place = fc.record({
  name: fc.constantFrom('Eastmere', 'Wrenport (old town)', 'St. Anselm'),
  level: fc.constantFrom('country', 'region', 'town', 'postal'),
});
const step = fc.integer({ min: -900, max: 900 }).map((tenths) => tenths * 10);
const day = fc.constantFrom(null, '2027-03-31', '2028-02-29');
const facts: fc.Arbitrary<CampaignFacts> = fc.record({
  networks: fc
    .record({ search: fc.boolean(), partners: fc.boolean(), display: fc.boolean() })
    .filter(({ search, partners, display }) => search || partners || display),
  locations: fc.array(place, { maxLength: 3 }),
  locationsOut: fc.array(place, { maxLength: 2 }),
  presence: fc.constantFrom('in' as const, 'interested' as const, 'either' as const),
  languages: fc.subarray(['English', 'Welsh']),
  schedule,
  devices: fc.record({ desktop: step, phone: step, tablet: step }),
  delivery: fc.constantFrom('even' as const, 'fast' as const),
  strategy: fc.constantFrom('by-hand' as const, 'most-clicks' as const, 'target-cost' as const),
  targetCost: fc.option(fc.integer({ min: 1, max: 1e9 }).map((cents) => asMicros(cents * 10_000))),
  targetReturn: fc.option(fc.integer({ min: 1, max: 10_000_000 })),
  conversions: fc.subarray(['Booking', 'Call, over 60 s']),
  starts: day,
  ends: day,
  rotation: fc.constantFrom('best' as const, 'even' as const),
  sitesOut: fc.subarray(['games.example', 'chat.example']),
  goal: fc.constantFrom('none' as const, 'sales' as const, 'calls' as const),
  category: fc.constantFrom('', 'Teapots'),
  adults: fc.boolean(),
});

describe('settings', () => {
  test('what is written as cells is read back', () => {
    fc.assert(
      fc.property(facts, (written) => {
        const { facts: read, problems } = readSettings(campaignSettings(written));
        expect(problems).toEqual([]);
        // What is left empty is what is left to the outlet.
        const none = {
          locations: [],
          locationsOut: [],
          languages: [],
          schedule: [],
          devices: { desktop: 0, phone: 0, tablet: 0 },
          targetCost: null,
          targetReturn: null,
          conversions: [],
          starts: null,
          ends: null,
          sitesOut: [],
          goal: 'none',
          category: '',
          adults: false,
        };
        expect({ ...none, ...read }).toEqual(written);
      }),
    );
  });

  test.each([
    ['networks', 'Everywhere'],
    ['target-cost', 'cheap'],
    ['target-cost', '0'],
    ['target-return', '-5%'],
    ['schedule', 'Mon-Fri 9:00'],
    ['schedule', 'Fri-Mon 9:00-17:00'],
    ['schedule', 'Mon 17:00-9:00'],
    ['devices', 'Phone lots'],
    ['devices', 'Phone +2000%'],
    ['starts', '2027-02-30x'],
    ['rotation', 'Sometimes'],
  ] as const)('%s “%s” is told, and the rest is read', (value, text) => {
    const { facts: read, problems } = readSettings({ [value]: text, languages: 'Welsh' });
    expect(problems).toEqual([{ value, text }]);
    expect(read).toEqual({ languages: ['Welsh'] });
  });

  test('a schedule by another clock covers the same minutes of the week', () => {
    const week = 7 * 1_440;
    const minutesOf = (times: CampaignFacts['schedule'], ahead: number) => {
      const covered = new Set<number>();
      for (const { days: on, from, to } of times)
        for (const one of on)
          for (let at = from; at < to; at++)
            covered.add((DAYS.indexOf(one) * 1_440 + at + ahead + week) % week);
      return covered;
    };
    fc.assert(
      fc.property(schedule, fc.integer({ min: -840, max: 840 }), (times, ahead) => {
        const shifted = shiftSchedule(times, ahead);
        expect(minutesOf(shifted, 0)).toEqual(minutesOf(times, ahead));
        for (const { from, to, days: on } of shifted) {
          expect(from).toBeLessThan(to);
          expect(to).toBeLessThanOrEqual(1_440);
          expect(on.length).toBeGreaterThan(0);
        }
      }),
      { numRuns: 30 },
    );
    expect(minutesAhead('Asia/Kolkata', 'UTC', new Date('2026-11-26T00:00:00Z'))).toBe(330);
    expect(minutesAhead('UTC', 'America/New_York', new Date('2026-07-01T12:00:00Z'))).toBe(240);
  });
});

describe('texts of ads', () => {
  const writing = { pack: languagePack('en'), casing: casingOf([]) };
  const part: fc.Arbitrary<LinePart> = fc.oneof(
    fc
      .constantFrom('Hire a ', ' today', ' (new)', '~', ' £5, off')
      .map((text) => ({ kind: 'text' as const, text })),
    fc
      .record({ style: fc.constantFrom(...caseStyles), or: fc.constantFrom('Kayak Hire', 'boats, big') })
      .map(({ style, or }) => ({ kind: 'token' as const, name: 'keyword' as const, live: true, style, or })),
  );

  test.each([plainOutlet, fennelwick])(
    'what $name fills in is the live token again',
    ({ ad: { insertion } }) => {
      fc.assert(
        fc.property(fc.array(part, { minLength: 1, maxLength: 4 }), (parts) => {
          const write = (source: string) => {
            const read = parseLine(source);
            const written =
              'line' in read && new CompiledLine(read.line).write({ keyword: 'sea kayak' }, 'as-is', writing);
            return written ? inNotation(written.text, written.live, insertion) : undefined;
          };
          const text = write(writeLine({ parts }));
          if (text === undefined) return;
          const read = readAdText(text, insertion);
          expect(read).toHaveProperty('source');
          if ('source' in read) expect(write(read.source)).toBe(text);
        }),
      );
    },
  );

  test('what would be taken for a token is told, and so is a default that no token can hold', () => {
    expect(readAdText('mail us@keyword', null)).toEqual({ problem: 'token', text: 'mail us@keyword' });
    expect(readAdText('all @home', null)).toEqual({ problem: 'token', text: 'all @home' });
    expect(readAdText('5 @ 3', null)).toEqual({ source: '5 @ 3' });
    expect(readAdText('<<keyword|a (b)>>', plainOutlet.ad.insertion)).toMatchObject({ problem: 'insertion' });
    expect(readAdText('<<keyword:title|Sea kayak>> hire', plainOutlet.ad.insertion)).toEqual({
      source: '@keyword(live, title, or Sea kayak) hire',
    });
    expect(readAdText('<<keyword:title|Sea kayak', plainOutlet.ad.insertion)).toEqual({
      source: '<<keyword:title|Sea kayak',
    });
  });
});

describe('columns that no outlet has', () => {
  const headings = [
    'Campaign name',
    'AdGroup',
    'Keyword text',
    'Type?',
    'Max. CPC',
    'Campaign budget',
    'Leads',
    'Notes',
  ];
  const sample = [
    ['Boats', 'Kayaks', 'sea kayak', 'Exact match', '1.234,50', '', 'https://saltmarshpaddle.example/', 'x'],
    ['Boats', 'Kayaks', 'kayak', 'Negative broad', '0,40', '', '', ''],
  ];

  test('are guessed by their headings, and by what stands in them', () => {
    expect(guessColumns(headings, sample)).toEqual([
      'campaign',
      'group',
      'keyword',
      'match-type',
      'bid',
      'daily-budget',
      'final-url',
      null,
    ]);
    expect(guessColumns(['Keyword', 'keyword'], [])).toEqual(['keyword', null]);
  });

  test('make an outlet by which the sheet is read', () => {
    const outlet = guessedOutlet('Sheet', headings, guessColumns(headings, sample), sample);
    expect(outlet.money.mark).toBe(',');
    const text = [headings, ...sample].map((row) => row.join('\t')).join('\n');
    const read = readSheet(text, outlet, 2);
    expect(read.problems).toEqual([]);
    expect(read.unknown).toEqual(['Notes']);
    expect(read.rows.map(({ row }) => row)).toMatchObject([
      { kind: 'keyword', text: 'sea kayak', type: 'exact', bid: 1_234_500_000 },
      { kind: 'negative', text: 'kayak', type: 'broad' },
    ]);
  });

  test('without match types, keywords tell them by their notation', () => {
    const columns = guessColumns(['Campaign', 'Ad group', 'Keyword'], []);
    const outlet = guessedOutlet('Sheet', ['Campaign', 'Ad group', 'Keyword'], columns, []);
    const read = readSheet(
      'Campaign,Ad group,Keyword\nBoats,Kayaks,[sea kayak]\nBoats,Kayaks,-kayak\nBoats,Kayaks,"""canoe"""\n',
      outlet,
      2,
    );
    expect(read.rows.map(({ row }) => row)).toMatchObject([
      { kind: 'keyword', text: 'sea kayak', type: 'exact' },
      { kind: 'negative', text: 'kayak', type: 'broad' },
      { kind: 'keyword', text: 'canoe', type: 'phrase' },
    ]);
  });
});

describe('sheets of the same headings', () => {
  const text = 'Campaign,Ad group,Keyword,Match type,Status\nBoats,Kayaks,sea kayak,Exact,Enabled\n';
  test.each([
    ['negative-keywords.csv', 'negatives'],
    ['my negatives (2).csv', 'negatives'],
    ['keywords-2.csv', 'keywords'],
    ['export.csv', 'keywords'],
    ['', 'negatives'],
  ])('%s is read as one of %s', (name, kind) => {
    expect(readSheet(text, plainOutlet, 2, name)).toMatchObject({ kind, problems: [] });
  });
});

test('a file of nothing but delimiters, or of one open quote, is told and does no harm', () => {
  const rows = [
    ','.repeat(3_000_000),
    `Boats,Kayaks${',x'.repeat(2_000)}`,
    `Boats,"Kayaks"${',x'.repeat(1_998)}`,
  ];
  const wide = readSheet(`Campaign,Ad group\n${rows.join('\n')}\n`, plainOutlet, 2, 'ad-groups.csv');
  expect(wide.rows).toMatchObject([{ line: 4, row: { kind: 'group', group: 'Kayaks' } }]);
  expect(wide.problems).toMatchObject([
    { line: 2, code: 'broken-row' },
    { line: 3, code: 'broken-row' },
  ]);
  const open = readSheet(
    `Campaign,Ad group\nBoats,"Kayaks\n${'Boats,Canoes\n'.repeat(10_000)}`,
    plainOutlet,
    2,
    'ad-groups.csv',
  );
  expect(open.problems).toMatchObject([{ line: 2, code: 'broken-row' }]);
  expect(open.rows).toHaveLength(10_000);
});

describe('lanes in names', () => {
  test('are found where each ending has match types of its own', () => {
    const found = lanesOfNames([
      ['Kayak · Exact', new Set(['exact'])],
      ['Kayak · Wide', new Set(['broad', 'phrase'])],
      ['Sea kayak – Exact', new Set(['exact'])],
      ['Empty', new Set()],
    ] as const);
    expect(found?.lanes).toEqual([
      { name: 'Exact', types: 8 },
      { name: 'Wide', types: 5 },
    ]);
    expect(found?.split('Sea kayak – Exact')).toEqual(['Sea kayak', 'Exact']);
    expect(found?.split('sea_exact')).toEqual(['sea', 'exact']);
    expect(found?.split('Sea [exact]')).toEqual(['Sea', 'exact']);
  });

  test.each([
    [
      'one has no ending',
      [
        ['Kayak · Exact', ['exact']],
        ['Canoe', ['broad']],
      ],
    ],
    [
      'types overlap',
      [
        ['Kayak · A', ['exact']],
        ['Kayak · B', ['exact', 'broad']],
      ],
    ],
    [
      'there is only one',
      [
        ['Kayak · A', ['exact']],
        ['Canoe · A', ['exact']],
      ],
    ],
  ] as const)('are none where %s', (_, names) => {
    expect(lanesOfNames(names.map(([name, types]) => [name, new Set(types)] as const))).toBeNull();
  });
});

test('plain sheets of older versions are read: extras were called assets', () => {
  const sheet =
    'Campaign,Ad group,Asset,Text,Line 1,Line 2,Phone number,Final URL,Status\nTents,,Callout,Free pegs,,,,,Enabled\n';
  const read = readSheet(sheet, plainOutlet, 2, 'assets.csv');
  expect(read).toMatchObject({ kind: 'extras', problems: [], unknown: [] });
  expect(read.rows.map(({ row }) => row)).toMatchObject([{ kind: 'extra', extra: { text: 'Free pegs' } }]);
  const all =
    'Row,Campaign,Ad group,Keyword,Match type,Asset,Text,Status\nAsset,Tents,,,,Callout,Free pegs,Enabled\nKeyword,Tents,Ridge,ridge tent,Exact,,,Paused\n';
  const combined = readSheet(all, plainOutlet, 2);
  expect(combined).toMatchObject({ kind: 'combined', problems: [], unknown: [] });
  expect(combined.rows.map(({ row }) => row.kind)).toEqual(['extra', 'keyword']);
});
