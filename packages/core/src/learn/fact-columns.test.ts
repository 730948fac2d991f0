import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import {
  addedTimes,
  asDay,
  byFigure,
  claimOf,
  type FactColumns,
  type FactTable,
  FactTableBuilder,
  type GroupedBy,
  grainCode,
  groupFacts,
  groupPlaces,
  groupsThat,
  groupTimes,
  type LookGrouping,
  noneTold,
  openFacts,
  PlaceList,
  PlanNames,
  packFacts,
  placesThat,
  type ReadFact,
  type ReportSink,
  ReportStream,
  readReport,
  resultFigures,
  StandingImports,
  standing,
  sumPlaces,
  sumTimes,
  type Today,
  type ToldFigures,
  timeKey,
  toldFigures,
  unpackFacts,
} from './index.ts';

const figure = fc.oneof(
  fc.constant(null),
  fc.nat(300),
  fc.nat(70_000).map((cents) => cents * 10_000),
  fc.nat(5_000_000_000),
  fc.integer({ min: -4_000_000, max: 4_000_000 }),
);
/** Reports tell no less than nothing of what is counted in wholes. */
const anyTold: fc.Arbitrary<ToldFigures> = fc.record({
  impressions: fc.option(fc.nat(5_000)),
  clicks: fc.option(fc.nat(400)),
  cost: fc.option(fc.nat(90_000).map((cents) => cents * 10_000)),
  conversions: fc.option(fc.integer({ min: -2_000_000, max: 9_000_000 })),
  value: fc.option(fc.nat(9_000_000)),
  position: fc.option(fc.integer({ min: 1_000, max: 9_000 })),
  share: fc.option(fc.nat(10_000)),
  lostBudget: fc.option(fc.nat(4_000)),
  lostRank: fc.option(fc.nat(4_000)),
});
const nobody: Today = {
  theme: () => '',
  stage: () => '',
  source: () => '',
  brand: () => '',
  label: () => '',
};

describe('rows packed by columns', () => {
  test('are read back as they were, whatever stands in them', () => {
    const column = (rows: number) => fc.array(figure, { minLength: rows, maxLength: rows });
    const anyColumns = fc
      .nat(40)
      .chain((rows) =>
        fc.tuple(
          fc.array(fc.nat(400), { minLength: rows, maxLength: rows }),
          fc.array(fc.nat(2_000_000), { minLength: rows, maxLength: rows }),
          fc.tuple(...toldFigures.map(() => column(rows))),
        ),
      );
    fc.assert(
      fc.property(anyColumns, ([time, place, figures]) => {
        const packed = packFacts({
          rows: time.length,
          time: Float64Array.from(time),
          place: Float64Array.from(place),
          figures: Object.fromEntries(
            toldFigures.map((name, at) => [
              name,
              Float64Array.from(figures[at] ?? [], (value) => value ?? Number.NaN),
            ]),
          ) as FactColumns['figures'],
        });
        const read = unpackFacts(packed);
        expect([read.rows, [...read.time], [...read.place]]).toEqual([time.length, time, place]);
        for (const [at, name] of toldFigures.entries()) {
          const told = figures[at] ?? [];
          const values = read.figures[name];
          if (told.every((value) => value === null)) expect(values).toBeNull();
          else expect([...(values ?? [])].map((value) => (Number.isNaN(value) ? null : value))).toEqual(told);
        }
      }),
    );
  });

  test('take the bytes that their values need', () => {
    const rows = 1_000;
    const cents = Float64Array.from({ length: rows }, (_, at) => at * 10_000);
    const none = Object.fromEntries(toldFigures.map((name) => [name, null])) as FactColumns['figures'];
    const packed = packFacts({
      rows,
      time: new Float64Array(rows),
      place: new Float64Array(rows),
      figures: { ...none, clicks: Float64Array.from({ length: rows }, (_, at) => at % 90), cost: cents },
    });
    // A byte each for times, places and clicks, two for cents.
    expect(packed.length).toBeLessThan(5 * rows + 100);
  });

  test.each([
    ['nothing', new Uint8Array()],
    ['another form', Uint8Array.of(9, 1, 0, 0, 0)],
    ['rows that are not there', Uint8Array.of(1, 255, 255, 255, 0, 3, 1, 0, 0, 0, 1)],
    ['a kind of column that there is not', Uint8Array.of(1, 1, 0, 0, 0, 77, 1, 0, 0, 0, 1)],
  ])('%s is refused', (_, bytes) => expect(() => unpackFacts(bytes)).toThrow(RangeError));
});

type Made = { c: string; g: string; d: string; day: number; told: ToldFigures };
const anyMade = fc.record({
  c: fc.constantFrom('Pots', 'pots', 'Cups', ''),
  g: fc.constantFrom('x', 'y'),
  d: fc.constantFrom('phone', 'desk'),
  day: fc.integer({ min: 20_000, max: 20_009 }),
  told: anyTold,
});
const factOf = ({ c, g, d, day, told }: Made): ReadFact => ({
  line: 1,
  nth: 0,
  key: '',
  names: { campaign: c, group: g, device: d },
  campaign: c.toLowerCase(),
  place: `\t${g}\t\t\t\t\t${d}\t\t\t\t`,
  time: { from: asDay(day), to: asDay(day) },
  told,
});

/** The rows of imports that stand, put together by columns. */
function tableOf(imports: readonly (readonly ReadFact[])[], wholes: readonly boolean[] = []) {
  const list = new PlaceList();
  const names = new PlanNames();
  const numbered = imports.map((facts) =>
    facts.map((fact) => list.numberFor(fact.names, (one) => names.meet(one))),
  );
  const times = [...new Map(imports.flat().map(({ time }) => [timeKey(time), time])).values()];
  const timeAt = new Map(times.map((time, at) => [timeKey(time), at]));
  const campaigns = list.campaigns;
  const stand = new StandingImports(times.length, campaigns.length);
  for (const [nth, facts] of imports.entries()) {
    const claim = claimOf({ account: '', grain: '' }, facts, [], wholes[nth]);
    stand.claim(
      nth,
      [...claim.times].map((key) => timeAt.get(key) as number),
      claim.campaigns === null ? null : [...claim.campaigns].map((name) => campaigns.indexOf(name)),
    );
  }
  const builder = new FactTableBuilder(
    imports.flat().length,
    times,
    Uint32Array.from(list.campaign),
    stand,
    campaigns.length,
  );
  for (const [nth, facts] of imports.entries()) {
    // Each import counts its times by itself.
    const own = [...new Set(facts.map(({ time }) => timeKey(time)))];
    const columns: FactColumns = {
      rows: facts.length,
      time: Float64Array.from(facts, ({ time }) => own.indexOf(timeKey(time))),
      place: Float64Array.from(numbered[nth] ?? []),
      figures: Object.fromEntries(
        toldFigures.map((name) => [name, Float64Array.from(facts, ({ told }) => told[name] ?? Number.NaN)]),
      ) as FactColumns['figures'],
    };
    const timeOf = own.map((key) => timeAt.get(key) as number);
    const of = wholes[nth] ? null : [...new Set(facts.map(({ campaign }) => campaigns.indexOf(campaign)))];
    builder.add(nth, openFacts(packFacts(columns)), timeOf, stand.isWhole(nth, timeOf, of));
  }
  return { list, table: builder.done(), campaigns };
}
const allTimes = ({ table, campaigns }: { table: FactTable; campaigns: readonly string[] }) =>
  addedTimes(table, campaigns, new Map(campaigns.map((campaign) => [campaign, table.times])));
const allPlaces = ({ list }: { list: PlaceList }) => placesThat(list, [], nobody);

describe('sums by columns', () => {
  test('are those of rows added one by one, of whatever stands and however it is told apart', () => {
    fc.assert(
      fc.property(
        fc.array(fc.array(anyMade, { maxLength: 12 }), { minLength: 1, maxLength: 4 }),
        fc.array(fc.boolean(), { minLength: 4, maxLength: 4 }),
        fc.constantFrom<GroupedBy & LookGrouping>('campaign', 'device', 'network'),
        fc.constantFrom<'day' | 'weekday'>('day', 'weekday'),
        (imports, wholes, by, time) => {
          const facts = imports.map((one) => one.map(factOf));
          const made = tableOf(facts, wholes);
          const stood = standing(
            facts.map((own, nth) => ({
              claim: claimOf({ account: '', grain: '' }, own, [], wholes[nth]),
              facts: own,
            })),
          ).flatMap(({ facts: own }) => own as ReadFact[]);
          const adding = { added: allTimes(made), places: allPlaces(made) };
          const groups = groupPlaces(made.list, by, nobody);
          const days = groupTimes(made.table, time);
          for (const [expected, sums, keys] of [
            [groupFacts(stood, by), sumPlaces(made.table, { ...adding, groups }), groups.keys],
            [groupFacts(stood, time), sumTimes(made.table, adding, days), days.names],
          ] as const) {
            const seen = groupsThat(sums, []);
            expect(seen.map((group) => keys[group]).sort()).toEqual(expected.map(({ key }) => key).sort());
            for (const { key, sums: own } of expected)
              for (const name of resultFigures) {
                const [a, b] = [own.figure(name), sums.figure(name, keys.indexOf(key))];
                if (a === null || b === null) expect([name, b]).toEqual([name, a]);
                else expect(b).toBeCloseTo(a, 6);
              }
          }
        },
      ),
    );
  });

  const facts = [
    factOf({ c: 'Pots', g: 'x', d: 'phone', day: 1, told: { ...noneTold, clicks: 3, impressions: 90 } }),
    factOf({ c: 'Pots', g: 'y', d: 'desk', day: 1, told: { ...noneTold, clicks: 9, impressions: 100 } }),
    factOf({ c: 'Cups', g: 'x', d: 'desk', day: 2, told: { ...noneTold, clicks: 5, impressions: 20 } }),
  ];
  const made = tableOf([facts]);
  const groups = groupPlaces(made.list, 'group', nobody);
  const sums = (conditions: Parameters<typeof placesThat>[1]) =>
    sumPlaces(made.table, {
      added: allTimes(made),
      places: placesThat(made.list, conditions, nobody),
      groups,
    });
  const namesOf = (found: readonly number[]) => found.map((group) => groups.names[group]?.join(' of '));

  test('ad groups of two campaigns are two', () =>
    expect(namesOf(groupsThat(sums([]), []))).toEqual(['x of Pots', 'y of Pots', 'x of Cups']));

  test('of what is called so, whatever its case', () => {
    expect(namesOf(groupsThat(sums([{ by: 'campaign', is: 'POTS' }]), []))).toEqual([
      'x of Pots',
      'y of Pots',
    ]);
    expect(
      namesOf(
        groupsThat(
          sums([
            { by: 'campaign', is: 'pots' },
            { by: 'device', is: 'desk' },
          ]),
          [],
        ),
      ),
    ).toEqual(['y of Pots']);
    expect(namesOf(groupsThat(sums([{ by: 'campaign', is: 'pot' }]), []))).toEqual([]);
  });

  test('over and under leave out what does not tell the figure', () => {
    const all = sums([]);
    expect(namesOf(groupsThat(all, [{ figure: 'clicks', is: 'over', than: 3 }]))).toEqual([
      'y of Pots',
      'x of Cups',
    ]);
    expect(namesOf(groupsThat(all, [{ figure: 'ctr', is: 'under', than: 0.1 }]))).toEqual([
      'x of Pots',
      'y of Pots',
    ]);
    expect(groupsThat(all, [{ figure: 'cost', is: 'under', than: 5 }])).toEqual([]);
  });

  test('in the order of a figure, either way', () => {
    const all = sums([]);
    const some = groupsThat(all, []);
    expect(namesOf(byFigure(all, some, 'clicks', true))).toEqual(['y of Pots', 'x of Cups', 'x of Pots']);
    expect(namesOf(byFigure(all, some, 'ctr', false))).toEqual(['x of Pots', 'y of Pots', 'x of Cups']);
    expect(namesOf(byFigure(all, some, 'cost', true))).toEqual(namesOf(some));
  });

  test('only of the times that are added of a campaign', () => {
    const added = addedTimes(made.table, made.campaigns, new Map([['pots', [facts[0]?.time ?? neverTime]]]));
    const some = sumPlaces(made.table, { added, places: allPlaces(made), groups });
    expect(namesOf(groupsThat(some, []))).toEqual(['x of Pots', 'y of Pots']);
  });
});
const neverTime = { from: asDay(0), to: asDay(0) };

describe('places', () => {
  const meetNone = new PlanNames();
  const number = (list: PlaceList, campaign: string, group: string) =>
    list.numberFor({ campaign, group, match: null }, (names) => meetNone.meet(names));

  test('keep their numbers when they are kept and loaded, and are told apart whatever their case', () => {
    const list = new PlaceList();
    expect([number(list, 'Pots', 'a'), number(list, 'pots', 'A'), number(list, 'Cups', 'a')]).toEqual([
      0, 0, 1,
    ]);
    const first = list.part();
    expect(list.part()).toBeNull();
    expect(number(list, 'Cups', 'b')).toBe(2);
    const second = list.part();
    const again = new PlaceList();
    for (const part of [first, second]) if (part) again.load(JSON.parse(JSON.stringify(part)));
    expect(again.names.map(({ campaign, group }) => [campaign, group])).toEqual([
      ['Pots', 'a'],
      ['Cups', 'a'],
      ['Cups', 'b'],
    ]);
    expect([again.campaigns, again.campaign]).toEqual([
      ['pots', 'cups'],
      [0, 1, 1],
    ]);
    expect(number(again, 'CUPS', 'B')).toBe(2);
  });

  test('what was not met is looked for again, and what is found is kept', () => {
    const list = new PlaceList();
    number(list, 'Pots', 'a');
    const before = list.part();
    const knows = new PlanNames();
    knows.addGroup('Pots', 'a', 'k1', 'today');
    list.numberFor({ campaign: 'Pots', group: 'a' }, (names) => knows.meet(names));
    const after = list.part();
    const again = new PlaceList();
    for (const part of [before, after]) if (part) again.load(part);
    expect(again.met).toEqual([{ group: 'k1', row: null, ad: null, not: null }]);
  });
});

describe('a report that comes piece by piece', () => {
  const text = [
    'Report of terms;;',
    'Day;Campaign;Search term;Clicks;Impr.',
    '2026-11-01;Pots;"tea; pot";3;40',
    '2026-11-02;Pots;"an open quote;1;2',
    '2026-11-02;Pots;tea pot;1;',
    ';;Total;5;40',
  ].join('\r\n');
  const streamed = (pieces: readonly string[]) => {
    const seen: unknown[] = [];
    const sink: ReportSink = {
      fact: ({ line, names, told }) => seen.push([line, names.term, told.clicks, told.impressions]),
      problem: ({ line, code }) => seen.push([line, code]),
      setAside: (line) => seen.push([line, 'aside']),
      repeated: (line) => seen.push([line, 'repeated']),
      otherwise: ({ line }) => seen.push([line, 'otherwise']),
      other: (account) => seen.push(account),
    };
    const stream = new ReportStream(
      {},
      () => sink,
      ({ line }) => seen.push([line, 'broken']),
    );
    for (const piece of pieces) stream.push(piece);
    const layout = stream.end();
    return { seen, grain: layout && grainCode(layout.grain) };
  };

  test('is read the same, whichever of its cells stand in quotes', () => {
    const cell = (...cells: string[]) => fc.constantFrom(...cells);
    const row = fc.tuple(
      cell('2026-11-01', '2026-11-02', ' 2026-11-02', 'soon'),
      cell('Pots', 'Pans', 'pots', ' Pots ', '', 'Total'),
      fc.oneof(fc.nat(99_999).map(String), cell('', '1,200', '--', '£3', '\u0000')),
      cell('tea pot', 'tea  pot', 'Tea pot', '[tea pot]', 'größe', '', '\u0000'),
      cell('Exact', 'phrase', 'Wide', ''),
      fc.oneof(fc.nat(999).map(String), cell('-1', '0.5', ' 7', '')),
    );
    const readings = (lines: readonly (readonly string[])[], isQuoted: (at: number) => boolean) => {
      const heading = 'Day,Campaign,Impressions,Keyword,Match type,Conversions';
      const written = lines.map((cells) =>
        cells.map((own, at) => (isQuoted(at) || own.includes(',') ? `"${own}"` : own)).join(','),
      );
      const seen: unknown[] = [];
      const stream = new ReportStream(
        { decimal: '.' },
        () => ({
          fact: ({ line, nth, time, campaign, place, names, told }) =>
            seen.push([line, nth, time, campaign, place, names, { ...told }]),
          problem: (problem) => seen.push(problem),
          setAside: (line, fields) => seen.push([line, fields]),
          repeated: (line) => seen.push([line, 'repeated']),
          otherwise: (told) => seen.push(told),
          other: (account) => seen.push(account),
        }),
        ({ line }) => seen.push([line, 'broken']),
      );
      stream.push([heading, ...written].join('\n'));
      stream.end();
      return seen;
    };
    let facts = 0;
    fc.assert(
      fc.property(fc.array(row, { minLength: 1, maxLength: 40 }), fc.nat(63), (lines, some) => {
        const plain = readings(lines, () => false);
        facts += plain.filter((one) => Array.isArray(one) && one.length === 7).length;
        expect(readings(lines, () => true)).toEqual(plain);
        expect(readings(lines, (at) => (some >> at) % 2 === 1)).toEqual(plain);
      }),
      { seed: 20, numRuns: 150 },
    );
    expect(facts).toBeGreaterThan(500);
  });

  test('is read the same, wherever it is cut', () => {
    const whole = streamed([text]);
    expect(whole).toEqual({
      grain: 'term/day',
      seen: [
        [4, 'broken'],
        [3, 'tea; pot', 3, 40],
        [5, 'tea pot', 1, 0],
        [6, 'aside'],
      ],
    });
    fc.assert(
      fc.property(fc.array(fc.nat(text.length), { maxLength: 6 }), (cuts) => {
        const at = [0, ...cuts.sort((a, b) => a - b), text.length];
        const pieces = at.slice(1).map((to, n) => text.slice(at[n], to));
        expect(streamed(pieces)).toEqual(whole);
      }),
    );
  });

  test('of many rows reads them all', () => {
    const rows = Array.from(
      { length: 2_000 },
      (_, at) => `2026-11-0${1 + (at % 9)},Pots,term ${at},${at % 7}`,
    );
    const all = ['Day,Campaign,Search term,Clicks', ...rows].join('\n');
    const { seen } = streamed([all.slice(0, 9_000), all.slice(9_000)]);
    const read = readReport(all.split('\n').map((line, at) => ({ line: at + 1, fields: line.split(',') })));
    expect(seen).toEqual(
      read?.facts.map(({ line, names, told }) => [line, names.term, told.clicks, told.impressions]),
    );
    expect(seen).toHaveLength(2_000);
  });

  test('what is no report has no layout, and nothing is read of it', () =>
    expect(streamed(['kayak\ncanoe\n'])).toEqual({ seen: [], grain: null }));
});
