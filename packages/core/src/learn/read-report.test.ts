import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  AccountLines,
  grainCode,
  isoDay,
  layoutOfText,
  type ReportOptions,
  type ReportReading,
  ReportStream,
  readReport,
  reportRoleOf,
} from './index.ts';

const records = (text: string, delimiter = '\t') =>
  text.split('\n').map((line, at) => ({ line: at + 1, fields: line.split(delimiter) }));
const read = (text: string, options?: ReportOptions): ReportReading => {
  const reading = readReport(records(text), options);
  if (!reading) throw new Error('no headings');
  return reading;
};
const M = 1_000_000;

describe('a report', () => {
  test('with amounts of two currencies: those of the other are told, and not added', () => {
    const { facts, problems, layout } = read(
      [
        'Day\tCampaign\tCost\tConversions\tClicks',
        '2026-11-01\tPots\t£4.00\t1\t3',
        '2026-11-02\tPots\t£5.00\t1\t4',
        '2026-11-03\tPots\t$6.00\t1\t5',
        '2026-11-04\tPots\t7.00\t1\t6',
      ].join('\n'),
    );
    expect(layout.currency).toBe('GBP');
    expect(problems).toEqual([{ line: 4, code: 'currency', column: 'Cost', text: '$6.00' }]);
    expect(facts.map(({ told }) => [told.cost, told.clicks])).toEqual([
      [4 * M, 3],
      [5 * M, 4],
      [null, 5],
      [7 * M, 6],
    ]);
  });

  describe('of two accounts', () => {
    const text = [
      'Day\tAccount name\tCampaign\tClicks\tCost',
      '2026-11-01\tSpring\tPots\t3\t£1.00',
      '2026-11-01\tAutumn\tPots\t90\t€2.00',
      '2026-11-02\tspring \tPots\t4\t£3.00',
      '2026-11-03\t\tPots\t5\t£4.00',
    ].join('\n');
    const clicks = ({ facts }: ReportReading) => facts.map(({ told }) => told.clicks);

    test('the first is read, rows of the other are told and not added', () => {
      const reading = read(text);
      expect(reading.problems).toEqual([]);
      expect(reading.others).toEqual(['Autumn']);
      expect(clicks(reading)).toEqual([3, 4, 5]);
    });

    test.each([
      ['Spring', [3, 4], 'GBP'],
      ['AUTUMN', [90], 'EUR'],
      ['Winter', [], null],
    ])('%s alone is read, in its own currency; a row of none is told', (account, own, currency) => {
      const reading = read(text, { account });
      expect(clicks(reading)).toEqual(own);
      expect(reading.layout.currency).toBe(currency);
      expect(reading.problems).toEqual([{ line: 5, code: 'account', column: 'Account name', text: '' }]);
    });

    test('one that comes late is laid out by its own lines, wherever they are cut', () => {
      const early = Array.from({ length: 900 }, () => '2026-11-01\tSpring\tPots\t3\t£1.00');
      const whole = [...text.split('\n').slice(0, 2), ...early, '2026-11-01\tAutumn\tPots\t90\t€2.00'].join(
        '\n',
      );
      const lines = new AccountLines('Autumn');
      for (const at of [0, 7, 4_001, 9_000]) lines.push(whole.slice(at, { 0: 7, 7: 4_001, 4001: 9_000 }[at]));
      expect(lines.areEnough).toBe(false);
      const beginning = lines.end();
      expect(beginning.split('\n')).toHaveLength(61);
      expect(layoutOfText(beginning, { account: 'Autumn' })?.currency).toBe('EUR');
      const seen: unknown[] = [];
      const stream = new ReportStream(
        { account: 'Autumn' },
        ({ currency }) => ({
          fact: ({ told }) => seen.push([currency, told.cost]),
          problem: (problem) => seen.push(problem),
          setAside: () => seen.push('aside'),
          repeated: () => seen.push('repeated'),
          otherwise: () => seen.push('otherwise'),
          other: () => {},
        }),
        () => seen.push('broken'),
        beginning,
      );
      stream.push(whole);
      stream.end();
      expect(seen).toEqual([['EUR', 2 * M]]);
    });
  });

  test('of keywords by day: names, figures, grain', () => {
    const { layout, facts, problems } = read(
      [
        'Day\tCampaign\tAd group\tKeyword\tMatch type\tImpressions\tClicks\tCost\tAvg. position\tConversions',
        '2026-11-01\tTeapots\tCast iron\tcast iron teapot\tExact\t1,200\t36\t£18.40\t2.4\t1.5',
        '2026-11-01\tTeapots\tCast iron\t"tea pot"\t\t90\t0\t0.00\t--\t0',
      ].join('\n'),
    );
    expect(grainCode(layout.grain)).toBe('keyword/day');
    expect(layout.open).toEqual([]);
    expect(problems).toEqual([]);
    expect(facts.map(({ names }) => names)).toEqual([
      { campaign: 'Teapots', group: 'Cast iron', keyword: 'cast iron teapot', match: 'exact' },
      { campaign: 'Teapots', group: 'Cast iron', keyword: 'tea pot', match: 'phrase' },
    ]);
    expect(facts[0]?.told).toEqual({
      impressions: 1_200,
      clicks: 36,
      cost: 18.4 * M,
      conversions: 1.5 * M,
      value: null,
      position: 2_400,
      share: null,
      lostBudget: null,
      lostRank: null,
    });
    // No position is no figure; nothing spent is nought.
    expect(facts[1]?.told).toMatchObject({ cost: 0, conversions: 0, position: null });
    expect(isoDay(facts[0]?.time.from ?? (0 as never))).toBe('2026-11-01');
  });

  test('titles tell the range, totals on top are set aside, commas stand before decimals', () => {
    const { layout, facts, setAside, otherwise } = read(
      [
        'Kampagnen',
        '01.11.2026 – 28.11.2026',
        '',
        'Kampagne\tImpressionen\tKlicks\tKosten\tKlickrate',
        'Gesamt\t1.300\t39\t19,50\t3,00 %',
        'Teekannen\t1.000\t30\t15,00\t3,00 %',
        'Tassen\t300\t9\t4,50\t3,00 %',
      ].join('\n'),
    );
    expect(layout.range && [isoDay(layout.range.from), isoDay(layout.range.to)]).toEqual([
      '2026-11-01',
      '2026-11-28',
    ]);
    expect(grainCode(layout.grain)).toBe('campaign/range');
    expect(layout.titles).toEqual(['Kampagnen', '01.11.2026 – 28.11.2026']);
    expect(setAside.map(({ line }) => line)).toEqual([5]);
    expect(facts.map(({ names, told }) => [names.campaign, told.impressions, told.cost])).toEqual([
      ['Teekannen', 1_000, 15 * M],
      ['Tassen', 300, 4.5 * M],
    ]);
    expect(otherwise).toEqual([]);
  });

  test('a campaign that is called Total is a campaign, and the total below is none', () => {
    const { facts, setAside } = read(
      [
        'From 2026-11-01 to 2026-11-07',
        'Campaign\tImpressions\tClicks',
        'Teapots\t500\t5',
        'Total\t100\t2',
        'Cups\t300\t3',
        'Total\t900\t10',
        '\t900\t10',
      ].join('\n'),
    );
    expect(facts.map(({ names }) => names.campaign)).toEqual(['Teapots', 'Total', 'Cups']);
    expect(setAside.map(({ line }) => line)).toEqual([6, 7]);
  });

  test('nor is one of several names that is the word for a total', () => {
    const { facts, setAside } = read(
      [
        '2026-11-01 to 2026-11-07',
        'Campaign\tAd group\tClicks',
        'Total\tCast iron\t5',
        'Cups\tTotal\t2',
      ].join('\n'),
    );
    expect(facts.map(({ names }) => names.group)).toEqual(['Cast iron', 'Total']);
    expect(setAside).toEqual([]);
  });

  test('an empty cell under what is counted is none of it; under a position it tells nothing', () => {
    const { facts } = read(
      ['Day\tCampaign\tImpressions\tClicks\tAvg. position', '2026-11-30\tTea\t9\t\t--'].join('\n'),
    );
    expect(facts[0]?.told).toMatchObject({ clicks: 0, position: null, conversions: null });
  });

  test('a mark that may part thousands follows a column that tells', () => {
    const { layout, facts } = read(
      ['Day\tCampaign\tClicks\tCost\tAvg. CPC', '2026-11-30\tTea\t4\t1.250\t0.45'].join('\n'),
    );
    expect(layout.open).toEqual([]);
    expect(facts[0]?.told.cost).toBe(1.25 * M);
  });

  test('days that the report is of count as told, with rows or without', () => {
    const { said } = read(
      ['2026-11-01 to 2026-11-03', 'Day\tCampaign\tClicks', '2026-11-02\tTeapots\t4'].join('\n'),
    );
    expect(said.map(({ from }) => isoDay(from))).toEqual(['2026-11-01', '2026-11-02', '2026-11-03']);
  });

  test('what no column and no title tells is asked, and nothing is read until then', () => {
    const text = ['Campaign\tClicks\tCost', 'Teapots\t4\t1.250'].join('\n');
    const open = read(text);
    expect(open.layout.open).toEqual(['decimal', 'range']);
    expect(open.facts).toEqual([]);
    const range = { from: 20_000 as never, to: 20_006 as never };
    expect(read(text, { range, decimal: ',' }).facts[0]?.told.cost).toBe(1_250 * M);
    expect(read(text, { range, decimal: '.' }).facts[0]?.told.cost).toBe(1.25 * M);
    const days = ['Day\tCampaign\tClicks', '03/04/2026\tTeapots\t4'].join('\n');
    expect(read(days).layout.open).toEqual(['day-order']);
    expect(isoDay(read(days, { dayOrder: 'month-first' }).facts[0]?.time.from ?? (0 as never))).toBe(
      '2026-03-04',
    );
  });

  test('what can’t be read is told with its line and its column', () => {
    const { facts, problems } = read(
      [
        'Day\tCampaign\tKeyword\tMatch type\tHour\tImpressions\tClicks',
        '2026-11-31\tTeapots\ttea\tExact\t3\t10\t1',
        '2026-11-30\tTeapots\ttea\tSomehow\t3\t10\t1',
        '2026-11-30\tTeapots\ttea\tExact\t25\t10\t1',
        '2026-11-30\tTeapots\ttea\tExact match (close variant)\t11 PM\t10\tmany',
      ].join('\n'),
    );
    expect(problems).toEqual([
      { line: 2, code: 'day', column: 'Day', text: '2026-11-31' },
      { line: 3, code: 'match-type', column: 'Match type', text: 'Somehow' },
      { line: 4, code: 'hour', column: 'Hour', text: '25' },
      { line: 5, code: 'figure', column: 'Clicks', text: 'many' },
    ]);
    expect(facts.map(({ line, names }) => [line, names.match, names.hour])).toEqual([
      [3, null, '3'],
      [5, 'exact', '23'],
    ]);
  });

  test('a line that is there twice is counted once; what a left-out column tells apart is kept apart', () => {
    const { facts, repeated } = read(
      [
        'Day\tCampaign\tClicks\tSomething',
        '2026-11-30\tTeapots\t4\tleft',
        '2026-11-30\tTeapots\t4\tright',
        '2026-11-30\tTeapots\t4\tleft',
        '2026-11-30\tteapots \t5\tleft',
      ].join('\n'),
    );
    expect(repeated).toEqual([4]);
    expect(facts.map(({ line }) => line)).toEqual([2, 3, 5]);
    expect(new Set(facts.map(({ place }) => place)).size).toBe(3);
    expect(new Set(facts.map(({ campaign }) => campaign))).toEqual(new Set(['teapots']));
  });

  test('what the report says and its other figures don’t make is told; rounding is not', () => {
    const { otherwise } = read(
      [
        'Day\tCampaign\tImpressions\tClicks\tCost\tCTR\tAvg. CPC',
        '2026-11-30\tTeapots\t300\t10\t5.00\t3.33%\t0.50',
        '2026-11-30\tCups\t300\t10\t5.00\t3.5%\t0.51',
        '2026-11-30\tPlates\t0\t0\t0.00\t0.00%\t0.00',
      ].join('\n'),
    );
    expect(otherwise.map(({ line, role }) => [line, role])).toEqual([
      [3, 'ctr'],
      [3, 'cpc'],
    ]);
    expect(otherwise[0]?.told).toBeCloseTo(0.035, 9);
    expect(otherwise[0]?.worked).toBeCloseTo(1 / 30, 9);
  });

  test('a return may be above one, and is hundredths only with their sign', () => {
    const { otherwise } = read(
      [
        'Day\tCampaign\tCost\tValue\tReturn',
        '2026-11-29\tTeapots\t5.00\t20.00\t4.0',
        '2026-11-30\tTeapots\t5.00\t20.00\t3.0',
      ].join('\n'),
    );
    expect(otherwise.map(({ line, told, worked }) => [line, told, worked])).toEqual([[3, 3, 4]]);
    const percent = read('Day\tCampaign\tCost\tValue\tReturn\n2026-11-30\tTea\t5.00\t20.00\t400%');
    expect(percent.otherwise).toEqual([]);
  });

  test('shares with a sign, without one, and as parts of one', () => {
    const share = (cells: string[]) =>
      read(
        [
          'Day\tCampaign\tImpressions\tImpression share',
          ...cells.map((cell, at) => `2026-11-0${at + 1}\tTea\t10\t${cell}`),
        ].join('\n'),
      ).facts.map(({ told }) => told.share);
    expect(share(['45%', '7.5%'])).toEqual([4_500, 750]);
    expect(share(['45', '0.5'])).toEqual([4_500, 50]);
    expect(share(['0.45', '0.075'])).toEqual([4_500, 750]);
    expect(share(['--', '45%'])).toEqual([null, 4_500]);
  });

  test('an outlet’s own headings and words go before what others call them', () => {
    const own: ReportOptions = {
      headings: [
        { heading: 'Seen', role: 'impressions' },
        { heading: 'Value', role: 'cost' },
        { heading: 'Bunch', role: 'group' },
      ],
      matchWords: new Map([['open', 'broad' as const]]),
    };
    const { layout, facts } = read(
      ['Date\tBunch\tKeyword\tMatching\tSeen\tValue', '2026-11-30\tCast iron\ttea\tOpen\t10\t2.50'].join(
        '\n',
      ),
      own,
    );
    expect(layout.roles).toEqual(['day', 'group', 'keyword', 'match-type', 'impressions', 'cost']);
    expect(facts[0]?.names).toMatchObject({ group: 'Cast iron', match: 'broad' });
    expect(facts[0]?.told.cost).toBe(2.5 * M);
  });

  test.each([
    ['Cost', '£1.20', 'GBP'],
    ['Cost', '1,20 €', 'EUR'],
    ['Cost (CHF)', '1.20', 'CHF'],
    ['Cost', '1.20', null],
    ['CPA', '1.20', null],
  ])('the currency of “%s” %s is %s', (heading, cell, currency) => {
    const text = [`Day\tCampaign\tClicks\t${heading}`, `2026-11-30\tTea\t4\t${cell}`].join('\n');
    expect(read(text).layout.currency).toBe(currency);
  });

  test('columns picked by hand are taken as they are picked', () => {
    const { facts } = read(['Datum\tA\tKlicks', '30.11.2026\tTee\t4'].join('\n'), {
      roles: ['day', 'campaign', 'clicks'],
    });
    expect(facts[0]?.names).toEqual({ campaign: 'Tee' });
  });

  test('a keyword list is no report', () => {
    expect(readReport(records('Keyword\tSearches\tCPC\nkayak\t900\t0.60'))).toBeNull();
    expect(readReport(records('kayak\ncanoe'))).toBeNull();
    expect(readReport([])).toBeNull();
  });

  test.each([
    ['Coût', 'cost'],
    ['Impressões', 'impressions'],
    ['Kliknięcia', 'clicks'],
    ['Kosten pro Conversion', 'cost-per-conversion'],
    ['Avg. pos.', 'position'],
    ['Search impression share', 'share'],
    ['Cost (GBP)', 'cost'],
    ['Landing page', 'page'],
    ['Search term', 'term'],
    ['Übereinstimmungstyp', 'match-type'],
    ['Durchschn. CPC', 'cpc'],
    ['Searches', undefined],
    ['Note', undefined],
  ])('the heading “%s” is %s', (heading, role) => {
    expect(reportRoleOf(heading)).toBe(role);
  });

  test('whatever stands in it, every line is told of, and nothing breaks', () => {
    const cell = fc.oneof(
      fc.constantFrom(
        '',
        '--',
        'Total',
        '2026-11-01',
        '1.11.2026',
        '5',
        '1,5',
        '3%',
        '<10%',
        '-2',
        '[tea',
        'Tea',
        '24:00',
        '1e9',
      ),
      fc.string({ maxLength: 6 }),
    );
    const headings = [
      'Day',
      'Campaign',
      'Keyword',
      'Hour',
      'Impressions',
      'Clicks',
      'Cost',
      'CTR',
      'Position',
    ];
    fc.assert(
      fc.property(fc.array(fc.array(cell, { maxLength: 11 }), { maxLength: 8 }), (rows) => {
        const all = [headings, ...rows].map((fields, at) => ({ line: at + 1, fields }));
        const reading = readReport(all, { dayOrder: 'day-first', decimal: '.' });
        if (!reading) throw new Error('no headings');
        const toldOf = new Set([
          ...reading.facts.map(({ line }) => line),
          ...reading.problems.map(({ line }) => line),
          ...reading.setAside.map(({ line }) => line),
          ...reading.repeated,
        ]);
        const blank = (fields: string[]) => fields.every((field) => field.trim() === '');
        rows.forEach((fields, at) => {
          expect([at + 2, toldOf.has(at + 2)]).toEqual([at + 2, !blank(fields)]);
        });
        for (const { told } of reading.facts)
          for (const value of Object.values(told))
            expect(value === null || Number.isSafeInteger(value)).toBe(true);
      }),
      { numRuns: 300 },
    );
  });
});
