import { parse } from 'csv-parse/sync';
import fc from 'fast-check';
import { describe, expect, test } from 'vitest';
import { matchTypes } from '../match/index.ts';
import { asMicros } from '../money/index.ts';
import {
  type CampaignSettings,
  type CellValue,
  kindsOf,
  type Outlet,
  outletProblems,
  plainOutlet,
  quillmere,
  rowKinds,
  type SheetFormat,
  settingValues,
  shippedOutlets,
} from '../outlets/index.ts';
import { hashOf } from '../text/index.ts';
import { adFields } from '../write/index.ts';
import {
  type AdSheetRow,
  type CampaignSheetRow,
  Carrier,
  CellMaker,
  type CellRow,
  Difference,
  type FieldChange,
  firstNotCarried,
  type GroupRows,
  type GroupSheetRow,
  joinCells,
  type KeywordSheetRow,
  type Known,
  KnownReader,
  KnownRows,
  keyOf,
  kindOfRow,
  knownRow,
  type LeftRow,
  type Loss,
  type MergedRow,
  packRow,
  RowMerge,
  RowPacker,
  readSheet,
  SheetFiles,
  type SheetRow,
  splitCells,
  staysWhenGone,
  toldValues,
  usualNetworkSteps,
  writeField,
  writeTextField,
  XlsxSheet,
} from './index.ts';

const outletOf = (key: string) => shippedOutlets.find((one) => one.key === key) as Outlet;
const harrowlight = outletOf('harrowlight');
const fennelwick = outletOf('fennelwick');
const micros = fc.integer({ min: 1, max: 9_999 }).map((pennies) => asMicros(pennies * 10_000));
const status = fc.constantFrom('enabled' as const, 'paused' as const);

/** Texts that go wrong where a writer is careless; never blank, and of what every encoding here carries. */
const awkward = fc
  .array(
    fc.constantFrom(
      '=1+1',
      '+44',
      '-x',
      '@y',
      '"',
      "'",
      ',',
      ';',
      '\t',
      '|',
      '\n',
      '\r\n',
      ' ',
      'kayak',
      'é',
      '£5',
      '“',
      '<b>&',
      '0,40',
      '1.50',
    ),
    { minLength: 1, maxLength: 5 },
  )
  .map((parts) => `a${parts.join('')}z`);
const wide = fc.constantFrom('カヤック', 'ｋ', '🛶 canoe', '👩‍👩‍👧 family', 'e\u0301', 'שלום');
const word = fc.constantFrom('kayak', 'canoe', 'sea', 'hire', "kids'", 'sit-on', '2', 'é');
const keywordText = fc.uniqueArray(word, { minLength: 1, maxLength: 4 }).map((words) => words.join(' '));
const textFor = (outlet: Outlet) =>
  outlet.file.encoding === 'windows-1252' ? awkward : fc.oneof(awkward, wide);

const noSettings = Object.fromEntries(settingValues.map((value) => [value, ''])) as CampaignSettings;

const groupRows = (outlet: Outlet, campaign: string, group: string): fc.Arbitrary<GroupRows> => {
  const at = { campaign, group };
  const text = textFor(outlet);
  const address = fc.constantFrom(
    'https://saltmarshpaddle.example/a',
    'https://saltmarshpaddle.example/b?c=1,2',
  );
  return fc.record({
    group: fc.record({
      kind: fc.constant('group' as const),
      ...constants(at),
      bid: micros,
      bids: fc.constant(null),
      matchSetting: fc.constantFrom(null, 'close' as const, 'wide' as const),
      rotation: fc.constantFrom('', 'All ads alike'),
      labels: fc.constant([]),
      status,
    }),
    keywords: fc
      .uniqueArray(
        fc.record({
          kind: fc.constant('keyword' as const),
          finalUrl: fc.constantFrom('', 'https://site.example/own'),
          ...constants(at),
          text: keywordText,
          type: fc.constantFrom(...matchTypes),
          marks: fc.constant([0]),
          bid: micros,
          bids: fc.constant(null),
          labels: fc.constantFrom([], ['spring']),
          status,
        }),
        { selector: keyOf, maxLength: 6 },
      )
      .map((rows) => rows as KeywordSheetRow[]),
    negatives: fc.uniqueArray(
      fc.record({
        kind: fc.constant('negative' as const),
        ...constants(at),
        text: keywordText,
        type: fc.constantFrom('broad' as const, 'phrase' as const, 'exact' as const),
        status: fc.constant('enabled' as const),
      }),
      { selector: keyOf, maxLength: 4 },
    ),
    ads: fc
      .uniqueArray(
        fc.record({
          kind: fc.constant('ad' as const),
          ...constants(at),
          form: fc.constantFrom('plain' as const, 'assembled' as const),
          texts: fc.record(Object.fromEntries(adFields.slice(0, 6).map((field) => [field, text]))),
          kept: fc.constantFrom({}, { headline1: 1, description1: 2 }),
          finalUrl: address,
          mobileUrl: fc.constantFrom('', 'https://m.saltmarshpaddle.example/'),
          labels: fc.constantFrom([], ['a', 'b']),
          status,
        }),
        { selector: (ad) => keyOf(ad as AdSheetRow), maxLength: 3 },
      )
      .map((ads) => ads as AdSheetRow[]),
  }) as fc.Arbitrary<GroupRows>;
};
const constants = (values: { campaign: string; group: string }) => ({
  campaign: fc.constant(values.campaign),
  group: fc.constant(values.group),
});

type Plan = { campaign: CampaignSheetRow; groups: GroupRows[] }[];
const planFor = (outlet: Outlet): fc.Arbitrary<Plan> =>
  fc.uniqueArray(textFor(outlet), { minLength: 1, maxLength: 2 }).chain((names) =>
    fc.tuple(
      ...names.map((campaign) =>
        fc.record({
          campaign: fc.record({
            kind: fc.constant('campaign' as const),
            campaign: fc.constant(campaign),
            dailyBudget: micros,
            matchSetting: fc.constant(null),
            settings: textFor(outlet).map((text) => ({
              ...noSettings,
              locations: text,
              languages: 'English',
            })),
            labels: fc.constant([]),
            status,
          }),
          groups: fc
            .uniqueArray(textFor(outlet), { minLength: 1, maxLength: 3 })
            .chain((groups) => fc.tuple(...groups.map((group) => groupRows(outlet, campaign, group)))),
        }),
      ),
    ),
  ) as fc.Arbitrary<Plan>;

function carrierOf(outlet: Outlet, losses: Loss[] = []) {
  return new Carrier(outlet, { ...usualNetworkSteps, partners: 5_000 as never }, asMicros(10_000), (loss) =>
    losses.push(loss),
  );
}

/** A plan's rows as an outlet gets them, in the order in which they ship. */
function carried(plan: Plan, outlet: Outlet, losses: Loss[] = []): SheetRow[] {
  const carrier = carrierOf(outlet, losses);
  return plan.flatMap(({ campaign, groups }) => {
    const types = new Set(groups.flatMap(({ keywords }) => keywords.map(({ type }) => type)));
    const own = carrier.campaign(campaign, types);
    return [
      own,
      ...groups.flatMap((rows) => {
        const { group, keywords, negatives, ads } = carrier.group(rows, own.matchSetting);
        return [group, ...negatives, ...keywords, ...ads];
      }),
    ];
  });
}

function write(rows: readonly SheetRow[], outlet: Outlet, format: SheetFormat = 'csv'): Map<string, string> {
  const maker = new CellMaker({ outlet, decimals: 2 });
  const files = new Map<string, string>();
  for (const profile of outlet.sheets) {
    const sheet = new SheetFiles(outlet, profile, format, maker.values, (name, text) =>
      files.set(name, (files.get(name) ?? '') + text),
    );
    for (const row of rows) sheet.add(maker.of(row));
    sheet.end();
  }
  return files;
}

const read = (files: ReadonlyMap<string, string>, outlet: Outlet) => {
  const sheets = [...files.values()].map((text) => readSheet(text, outlet, 2));
  return {
    rows: sheets.flatMap(({ rows }) => rows.map(({ row }) => row)),
    problems: sheets.flatMap(({ problems }) => problems),
  };
};

/** Rows in a part of what is kept. */
const PART_ROWS = 4;

/** What an outlet has, as numbers that were packed and loaded again. */
function asRows(known: Known): KnownRows {
  const rows = new KnownRows();
  let at = 0;
  for (const [key, row] of known) rows.add(key, row, Math.floor(at++ / PART_ROWS));
  return KnownRows.unpack(rows.pack());
}

/** Reads what an outlet has again, as often and as much of it as is needed: the rows that nobody has seen. */
function readAgain(difference: Difference, known: Known): LeftRow[] {
  const text = [...known].map(([key, row]) => packRow(key, row)).join('');
  const values = toldValues(plainOutlet);
  return difference.rounds().flatMap(({ kinds, rows }) => {
    const left: LeftRow[] = [];
    const reader = new KnownReader(values, values, (key, row) => {
      const gone = difference.again(key, row, kinds);
      if (gone) left.push(gone);
    });
    expect(reader.pick(text, 0, rows, 0)).toBe(rows.length);
    return left;
  });
}

function withoutType(key: string): string {
  const parts = splitCells(key);
  return parts[0] === 'keyword' ? joinCells(parts.filter((_, at) => at !== 3)) : key;
}

describe.each(shippedOutlets.map((outlet) => [outlet.key, outlet] as const))('%s', (_, outlet) => {
  const format = outlet.file.formats[0] as SheetFormat;

  test('what is written, read and written again is the same, byte by byte', () => {
    fc.assert(
      fc.property(planFor(outlet), (plan) => {
        // Kinds that the combined sheet repeats are read from the others.
        const own = {
          ...outlet,
          sheets: outlet.sheets.filter(({ kind }) => outlet.sheets.length === 1 || kind !== 'combined'),
        };
        const files = write(carried(plan, own), own, format);
        const { rows, problems } = read(files, own);
        expect(problems).toEqual([]);
        expect(write(rows, own, format)).toEqual(files);
      }),
      { numRuns: 60 },
    );
  });

  test('carrying twice changes nothing, and loses nothing more', () => {
    fc.assert(
      fc.property(planFor(outlet), (plan) => {
        for (const { campaign, groups } of plan) {
          const carrier = carrierOf(outlet);
          const own = carrier.campaign(
            campaign,
            new Set(groups.flatMap(({ keywords }) => keywords.map(({ type }) => type))),
          );
          for (const rows of groups) {
            const once = carrier.group(rows, own.matchSetting);
            const losses: Loss[] = [];
            expect(carrierOf(outlet, losses).group(once, own.matchSetting)).toEqual(once);
            expect(losses.filter(({ rule }) => rule !== 'labels')).toEqual([]);
          }
        }
      }),
      { numRuns: 40 },
    );
  });

  test('another reader finds the cells that were meant', () => {
    fc.assert(
      fc.property(planFor(outlet), (plan) => {
        const rows = carried(plan, outlet);
        const maker = new CellMaker({ outlet, decimals: 2 });
        for (const profile of outlet.sheets) {
          const of = rows.filter((row) => profile.kind === 'combined' || profile.kind === `${row.kind}s`);
          let text = '';
          const sheet = new SheetFiles(
            { ...outlet, rowOrder: 'group' },
            profile,
            format,
            maker.values,
            (_name, part) => {
              text += part;
            },
          );
          for (const row of of) sheet.add(maker.of(row));
          sheet.end();
          const parsed = parse(text, {
            delimiter: format === 'csv' ? outlet.file.delimiter : '\t',
            relax_quotes: false,
          }) as string[][];
          expect(parsed).toEqual([
            profile.columns.map(({ heading }) => heading),
            ...of.map((row) => {
              const { cells } = maker.of(row);
              return profile.columns.map(({ value }) => cells[maker.placeOf(row.kind, value)] ?? '');
            }),
          ]);
        }
      }),
      { numRuns: 40 },
    );
  });

  test('sheets merged into a plan say how it differs from the plan that they were written of', () => {
    const own = {
      ...outlet,
      sheets: outlet.sheets.filter(({ kind }) => outlet.sheets.length === 1 || kind !== 'combined'),
    };
    const listed = new Set(
      rowKinds.filter((kind) => own.sheets.some((sheet) => kindsOf(sheet).includes(kind))),
    );
    fc.assert(
      fc.property(planFor(own), planFor(own), fc.boolean(), (one, other, share) => {
        const maker = new CellMaker({ outlet: own, decimals: 2 });
        const second = share
          ? [
              ...one.map(({ campaign, groups }) => ({
                campaign: { ...campaign, dailyBudget: asMicros(70_000) },
                groups: groups.slice(1),
              })),
              ...other.filter(({ campaign }) =>
                one.every((mine) => mine.campaign.campaign !== campaign.campaign),
              ),
            ]
          : one;
        const cellsOf = (plan: Plan) =>
          new Map(
            carried(plan, own)
              .filter(({ kind }) => listed.has(kind))
              .map((row) => [keyOf(row), joinCells(maker.of(row).cells)]),
          );
        const merged = cellsOf(one);
        const merge = new RowMerge(new Map(merged), maker);
        const put = (row: MergedRow | null) => {
          if (row === null) return;
          if (row.change === 'missing') merged.delete(row.key);
          else if (row.row) {
            // An ad that says something else is another one there.
            merged.delete(row.key);
            merged.set(keyOf(row.row), joinCells(maker.of(row.row).cells));
          }
        };
        let differences = 0;
        for (const text of write(carried(second, own), own, format).values()) {
          const sheet = readSheet(text, own, 2);
          const told = new Set(sheet.told);
          for (const { row } of sheet.rows) {
            const met = merge.see(row, told);
            if (met) differences++;
            put(met);
          }
        }
        for (const row of merge.finish(listed)) {
          differences++;
          put(row);
        }
        // Where a campaign decides how its keywords match, its sheets tell no types.
        const asTold = (rows: ReadonlyMap<string, string>) =>
          new Map([...rows].map(([key, cells]) => [own.match === 'setting' ? withoutType(key) : key, cells]));
        expect(asTold(merged)).toEqual(asTold(cellsOf(second)));
        if (!share) expect(differences).toBe(0);
      }),
      { numRuns: 40 },
    );
  });

  test('rows are kept short and read as they were, in any pieces and any of them again', () => {
    fc.assert(
      fc.property(
        planFor(outlet),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 90 }),
        fc.infiniteStream(fc.boolean()),
        (plan, perPart, cut, wants) => {
          const maker = new CellMaker({ outlet, decimals: 2 });
          const rows = [...new Map(carried(plan, outlet).map((row) => [keyOf(row), row])).values()];
          const made = rows.map((row) => maker.of(row));
          const packer = new RowPacker();
          const parts: string[] = [];
          for (let from = 0; from < made.length; from += perPart) {
            packer.begin();
            parts.push(
              made
                .slice(from, from + perPart)
                .map((row) => packer.row(row))
                .join(''),
            );
          }
          const wanted = made.map(({ key, joined }) => [key, knownRow(joined)]);
          const read: string[][] = [];
          const reader = new KnownReader(maker.values, maker.values, (key, known) => read.push([key, known]));
          const all = parts.join('');
          for (let at = 0; at < all.length; at += cut) reader.take(all.slice(at, at + cut));
          expect(read).toEqual(wanted);
          const picked = Uint32Array.from(made.keys()).filter(() => wants.next().value as boolean);
          const again: string[][] = [];
          const picking = new KnownReader(maker.values, maker.values, (key, known) =>
            again.push([key, known]),
          );
          let place = 0;
          parts.forEach((part, n) => {
            place = picking.pick(part, n * perPart, picked, place);
          });
          expect(again).toEqual([...picked].map((at) => wanted[at]));
          for (const { hash, joined } of made) expect(hash).toBe(hashOf(joined));
        },
      ),
      { numRuns: 60 },
    );
  });

  test('a difference put onto what was there gives what is wanted', () => {
    fc.assert(
      fc.property(planFor(outlet), planFor(outlet), fc.boolean(), (one, other, share) => {
        const maker = new CellMaker({ outlet, decimals: 2 });
        // Half of the time the second plan has the first one's campaigns too, with something changed.
        const second = share
          ? [
              ...one.slice(0, 1).map(({ campaign, groups }) => ({
                campaign: { ...campaign, dailyBudget: asMicros(70_000) },
                groups,
              })),
              ...other,
            ]
          : other;
        const cellsOf = (plan: Plan) =>
          new Map(carried(plan, outlet).map((row) => [keyOf(row), maker.of(row)]));
        const before = cellsOf(one);
        const after = cellsOf(second);
        const known: Known = new Map([...before].map(([key, { joined }]) => [key, knownRow(joined)]));
        const difference = new Difference(asRows(known), maker, outlet);
        const changed = new Map<string, FieldChange[]>();
        const applied = new Map([...before].map(([key, { cells }]) => [key, [...cells]]));
        for (const [key, row] of after) {
          const change = difference.see(row, true);
          if (change.change === 'added') applied.set(key, [...row.cells]);
          if (change.change === 'changed') changed.set(key, change.fields);
        }
        const gone = readAgain(difference, known).filter(({ wasGone }) => !wasGone);
        for (const [key, fields] of changed)
          for (const { value, before: was, after: is } of fields) {
            const cells = applied.get(key) as string[];
            const place = maker.placeOf(kindOfRow(key), value);
            expect(cells[place]).toBe(was);
            cells[place] = is;
          }
        for (const { row } of gone) applied.delete(row.key);
        expect(applied).toEqual(new Map([...after].map(([key, { cells }]) => [key, cells])));
        const { counts } = difference;
        expect(counts.added + counts.changed + counts.same).toBe(after.size);
        expect(counts.removed).toBe(gone.length);
        for (const {
          row: { kind, cells },
        } of gone) {
          const word = cells[maker.placeOf(kind, 'status')];
          if (difference.tellsGone(kind))
            expect(word).toBe(staysWhenGone(outlet, kind) ? outlet.words.paused : outlet.words.removed);
        }
      }),
      { numRuns: 60 },
    );
  });
});

describe('what an outlet has', () => {
  const maker = new CellMaker({ outlet: plainOutlet, decimals: 2 });

  test('is kept and read again in any pieces, and follows when columns move', () => {
    const rows = [1, 2, 3].map((n) => [`keyword\u001f${n}`, `a${n}\u001fb${n}`, n === 2] as const);
    const text = rows.map(([key, cells, gone]) => packRow(key, knownRow(cells, gone))).join('');
    const told = (keyword: readonly CellValue[]) => ({ ...toldValues(plainOutlet), keyword });
    for (const cut of [1, 7, 100]) {
      const read: [string, string][] = [];
      const reader = new KnownReader(
        told(['campaign', 'group']),
        told(['group', 'bid', 'campaign']),
        (key, known) => read.push([key, known]),
      );
      for (let at = 0; at < text.length; at += cut) reader.take(text.slice(at, at + cut));
      expect(read).toEqual(
        rows.map(([key, , gone], at) => [key, knownRow(`b${at + 1}\u001f\u001fa${at + 1}`, gone)]),
      );
    }
  });

  test('of a keyword that stands where the one before it does only what is its own is kept', () => {
    const keyword = (text: string, group = 'G', marks: number[] = []) =>
      maker.of({
        kind: 'keyword',
        finalUrl: '',
        campaign: 'Campaign',
        group,
        text,
        type: marks.length > 0 ? 'modified' : 'exact',
        marks,
        bid: asMicros(400_000),
        bids: null,
        labels: [],
        status: 'enabled',
      });
    const packer = new RowPacker();
    const packed = [
      keyword('kayak'),
      keyword('canoe'),
      keyword('sea kayak', 'G', [1]),
      keyword('hire', 'H'),
    ].map((row) => packer.row(row));
    const says = (text: string, word: string) => text.split(word).length - 1;
    expect(packed.map((text) => says(text, 'Campaign'))).toEqual([2, 0, 2, 2]);
    expect(says(packed[1] as string, 'canoe')).toBe(1);
    packer.begin();
    expect(says(packer.row(keyword('hire', 'H')), 'Campaign')).toBe(2);
  });

  test('budgets beyond a day’s changes wait', () => {
    const outlet = { ...plainOutlet, budget: { least: null, changesPerDay: 3 } };
    const campaign = (n: number, pounds: number) =>
      maker.of({
        kind: 'campaign',
        campaign: `C${n}`,
        dailyBudget: asMicros(pounds * 1_000_000),
        matchSetting: null,
        settings: noSettings,
        labels: [],
        status: 'enabled',
      });
    const known: Known = new Map([1, 2, 3].map((n) => [campaign(n, 5).key, knownRow(campaign(n, 5).joined)]));
    const difference = new Difference(asRows(known), maker, outlet, 2);
    const changes = [1, 2, 3].map((n) => difference.see(campaign(n, 9), true).change);
    expect(changes).toEqual(['changed', 'changed', 'same']);
    expect([difference.budgetChanges, difference.waiting]).toEqual([2, 1]);
  });

  test('a row that was told to be gone and comes back is a change, and what stays gone is not told twice', () => {
    const row = maker.of({
      kind: 'group',
      campaign: 'C',
      group: 'G',
      bid: asMicros(10_000),
      bids: null,
      matchSetting: null,
      rotation: '',
      labels: [],
      status: 'enabled',
    });
    const known: Known = new Map([[row.key, knownRow(row.joined.replace('Enabled', 'Paused'), true)]]);
    const back = new Difference(asRows(known), maker, plainOutlet);
    const change = back.see(row, true);
    expect(readAgain(back, known)).toEqual([]);
    expect(change).toEqual({
      change: 'changed',
      fields: [{ value: 'status', before: 'Paused', after: 'Enabled' }],
    });
    const still = new Difference(asRows(known), maker, plainOutlet);
    expect(readAgain(still, known)).toMatchObject([{ wasGone: true, known: known.get(row.key) }]);
    expect(still.counts.removed).toBe(0);
  });

  test('what says the same to an outlet is the same row, whatever the plan calls it', () => {
    const at = new CellMaker({ outlet: quillmere, decimals: 2 });
    const keyword = (type: (typeof matchTypes)[number], text = 'kayak') =>
      at.of({
        kind: 'keyword',
        finalUrl: '',
        campaign: 'C',
        group: 'G',
        text,
        type,
        marks: [],
        bid: null,
        bids: null,
        labels: [],
        status: 'enabled',
      });
    const asKnown = (...rows: CellRow[]): Known =>
      new Map(rows.map(({ key, joined }) => [key, knownRow(joined)]));
    expect(keyword('exact').joined).toBe(keyword('phrase').joined);
    expect(keyword('exact').key).not.toBe(keyword('phrase').key);
    // Told as one added and one removed, the outlet would pause what it is to show.
    const known = asKnown(keyword('exact'), keyword('exact', 'canoe'));
    const difference = new Difference(asRows(known), at, quillmere);
    expect(difference.see(keyword('phrase'), true)).toEqual({ change: 'same' });
    expect(readAgain(difference, known).map(({ row }) => row.key)).toEqual([keyword('exact', 'canoe').key]);
    expect(difference.counts).toEqual({ added: 0, changed: 0, removed: 1, same: 1 });
    // Where an outlet has two of them, each is told apart by its key.
    const both = asKnown(keyword('exact'), keyword('phrase'));
    const second = new Difference(asRows(both), at, quillmere);
    expect(second.see(keyword('phrase'), true)).toEqual({ change: 'same' });
    expect(readAgain(second, both).map(({ row }) => row.key)).toEqual([keyword('exact').key]);
    // One that was gone says nothing any more.
    const gone = new Map([[keyword('exact').key, knownRow(keyword('exact').joined, true)]]);
    expect(new Difference(asRows(gone), at, quillmere).see(keyword('phrase'), true).change).toBe('added');
  });

  test('a hundred thousand rows as numbers: each found, each difference seen, what nobody saw counted by kind', () => {
    const made = new KnownRows();
    const key = (n: number) =>
      `${n % 3 === 0 ? 'negative' : 'keyword'}\u001fC\u001fG${n % 50}\u001fexact\u001fkayak ${n}`;
    for (let n = 0; n < 100_000; n++)
      made.add(key(n), knownRow(`0.${n}`, n % 10 === 9), Math.floor(n / 3_000));
    const rows = KnownRows.unpack(made.pack());
    expect([made.size, rows.size, rows.rowOf(key(3_001)), rows.starts[2]]).toEqual([
      100_000, 100_000, 3_001, 6_000,
    ]);
    const seen = { new: 0, same: 0, differs: 0 };
    for (let n = 50_000; n < 150_000; n++) {
      const joined = n % 5 === 0 ? 'other' : `0.${n}`;
      seen[rows.see({ kind: kindOfRow(key(n)), key: key(n), hash: hashOf(joined) })]++;
    }
    // Of 50,000 that are known every fifth says something else, and every tenth was gone.
    expect(seen).toEqual({ new: 50_000, same: 35_000, differs: 15_000 });
    const unseen = rows.unseen();
    expect([...unseen.keys()].sort()).toEqual(['keyword', 'negative']);
    expect([...unseen.values()].reduce((sum, { standing }) => sum + standing, 0)).toBe(45_000);
    const numbers = [...unseen.values()].flatMap(({ rows: own }) => [...own]).sort((a, b) => a - b);
    expect(numbers).toEqual(Array.from({ length: 50_000 }, (_, n) => n));
    expect([rows.isSeen(key(60_000)), rows.isSeen(key(40_000))]).toEqual([true, false]);
  });
});

describe('files', () => {
  const keyword = (n: number, type: (typeof matchTypes)[number] = 'exact'): SheetRow => ({
    kind: 'keyword',
    finalUrl: '',
    campaign: 'C',
    group: 'G',
    text: `kayak ${n}`,
    type,
    marks: [],
    bid: null,
    bids: null,
    labels: [],
    status: 'enabled',
  });

  test('1,500 rows a file, nothing lost, each with its heading', () => {
    const rows = Array.from({ length: 3_001 }, (_, n) => keyword(n));
    const files = write(rows, harrowlight);
    const names = [...files.keys()].filter((name) => name.startsWith('keywords'));
    expect(names).toEqual(['keywords.csv', 'keywords-2.csv', 'keywords-3.csv']);
    const texts = names.map((name) => (files.get(name) as string).split('\r\n').slice(0, -1));
    expect(texts.map((lines) => lines.length)).toEqual([1_501, 1_501, 2]);
    for (const [heading] of texts) expect(heading).toBe('Drive;Cluster;Keyword;On or off');
    expect(texts.flatMap((lines) => lines.slice(1))).toEqual(rows.map((_, n) => `C;G;[kayak ${n}];on`));
  });

  test('columns with a fixed text, or blank, are written in every row and not read', () => {
    const sheets = plainOutlet.sheets.map((sheet) =>
      sheet.kind === 'keywords'
        ? {
            ...sheet,
            columns: [
              { heading: 'Account', value: 'fixed' as const, text: 'Shop, "North"' },
              ...sheet.columns,
              { heading: 'Reserved', value: 'fixed' as const },
            ],
          }
        : sheet,
    );
    const outlet = { ...plainOutlet, sheets };
    expect(outletProblems(outlet)).toEqual([]);
    const text = write([keyword(1)], outlet).get('keywords.csv') as string;
    expect(text.split('\r\n').slice(0, 2)).toEqual([
      'Account,Campaign,Ad group,Keyword,Match type,Max CPC,Final URL,Labels,Status,Reserved',
      `${writeField('Shop, "North"', ',')},C,G,kayak 1,Exact,,,,Enabled,`,
    ]);
    const { rows, problems, told } = readSheet(text, outlet, 2);
    expect(problems).toEqual([]);
    expect(rows.map(({ row }) => row)).toMatchObject([{ kind: 'keyword', text: 'kayak 1' }]);
    expect(told).not.toContain('fixed');
    const values = new CellMaker({ outlet, decimals: 2 }).values.keyword;
    expect(values).not.toContain('fixed');
    const xlsx = new XlsxSheet(
      sheets.find(({ kind }) => kind === 'keywords')?.columns ?? [],
      toldValues(outlet),
    );
    xlsx.header();
    expect(xlsx.row(new CellMaker({ outlet, decimals: 2 }).of(keyword(1)))).toContain('North');
  });

  test('rows by match type, by keyword, by group', () => {
    const rows = [keyword(2, 'exact'), keyword(1, 'exact'), keyword(2, 'broad'), keyword(1, 'phrase')];
    const order = (rowOrder: Outlet['rowOrder']) =>
      (write(rows, { ...plainOutlet, rowOrder }).get('keywords.csv') as string)
        .split('\r\n')
        .slice(1, -1)
        .map((line) => line.split(',').slice(2, 4).join(' '));
    expect(order('group')).toEqual(['kayak 2 Exact', 'kayak 1 Exact', 'kayak 2 Broad', 'kayak 1 Phrase']);
    expect(order('match-type')).toEqual([
      'kayak 2 Broad',
      'kayak 1 Phrase',
      'kayak 2 Exact',
      'kayak 1 Exact',
    ]);
    expect(order('keyword')).toEqual(['kayak 1 Phrase', 'kayak 1 Exact', 'kayak 2 Broad', 'kayak 2 Exact']);
  });

  test('a character that the encoding has not is told with its row', () => {
    const maker = new CellMaker({ outlet: harrowlight, decimals: 2 });
    const sheet = new SheetFiles(harrowlight, harrowlight.sheets[2] as never, 'csv', maker.values, () => {});
    sheet.add(maker.of(keyword(1)));
    sheet.add(maker.of({ ...(keyword(2) as KeywordSheetRow), text: 'カヤック' }));
    sheet.end();
    expect(sheet.problems).toEqual([
      { file: 'keywords.csv', row: 2, character: 'カ', text: 'C;G;[カヤック];on' },
    ]);
    expect([
      firstNotCarried('€ “é”', 'windows-1252'),
      firstNotCarried('a🛶', 'windows-1252')?.character,
    ]).toEqual([null, '🛶']);
    expect([firstNotCarried('🛶', 'utf-8'), firstNotCarried('x\ud83d', 'utf-16le')?.at]).toEqual([null, 1]);
  });
});

describe('what outlets make of match types', () => {
  const row = (text: string, type: (typeof matchTypes)[number], pennies = 50): KeywordSheetRow => ({
    kind: 'keyword',
    finalUrl: '',
    campaign: 'C',
    group: 'G',
    text,
    type,
    marks: [],
    bid: asMicros(pennies * 10_000),
    bids: null,
    labels: [],
    status: 'enabled',
  });
  const group = {
    kind: 'group' as const,
    campaign: 'C',
    group: 'G',
    bid: asMicros(400_000),
    bids: null,
    matchSetting: null,
    rotation: '',
    labels: [],
    status: 'enabled' as const,
  };
  const carry = (
    outlet: Outlet,
    keywords: KeywordSheetRow[],
    setting: 'close' | 'wide' | null = null,
    own: Partial<GroupSheetRow> = {},
  ) => {
    const losses: Loss[] = [];
    const carrier = carrierOf(outlet, losses);
    const campaign: CampaignSheetRow = {
      kind: 'campaign',
      campaign: 'C',
      dailyBudget: null,
      matchSetting: setting,
      settings: noSettings,
      labels: [],
      status: 'enabled',
    };
    const { matchSetting } = carrier.campaign(campaign, new Set(), ['search', 'partners']);
    const rows = carrier.group(
      { group: { ...group, ...own }, keywords, negatives: [], ads: [] },
      matchSetting,
    );
    return { ...rows, losses: losses.map(({ rule, text, becomes }) => [rule, text, becomes]) };
  };

  test('no modified broad: phrase stands in, and falls together with one that is there', () => {
    const { keywords, losses } = carry(harrowlight, [
      row('sea kayak', 'modified'),
      row('canoe', 'modified'),
      row('canoe', 'phrase'),
    ]);
    expect(keywords.map(({ text, type }) => [text, type])).toEqual([
      ['sea kayak', 'phrase'],
      ['canoe', 'phrase'],
    ]);
    expect(losses.slice(-2)).toEqual([
      ['match-stands-in', '+sea +kayak', '"sea kayak"'],
      ['match-folded', '+canoe', '"canoe"'],
    ]);
  });

  test('bids by group: the middle one, and whose bid is lost', () => {
    const made = carry(harrowlight, [row('a', 'exact', 30), row('b', 'exact', 50), row('c', 'exact', 90)]);
    expect(made.group.bid).toBe(500_000);
    expect(made.keywords.map(({ bid }) => bid)).toEqual([null, null, null]);
    expect(made.losses).toEqual([
      ['bid-of-group', 'a', '0.5'],
      ['bid-of-group', 'c', '0.5'],
    ]);
  });

  test('an ad group matches as was said of it, else of its campaign, else as its keywords ask', () => {
    const both = [row('canoe', 'broad', 20), row('canoe', 'exact', 60)];
    expect(carry(quillmere, both, null, { matchSetting: 'close' }).group.matchSetting).toBe('close');
    expect(carry(quillmere, both, 'close').group.matchSetting).toBe('close');
    const made = carry(quillmere, both);
    expect(made.group.matchSetting).toBe('wide');
    expect(made.keywords.map(({ text, type }) => [text, type])).toEqual([['canoe', 'broad']]);
    expect(made.losses).toContainEqual(['match-mixed', 'broad, exact', 'wide']);
    expect(carry(quillmere, [row('canoe', 'exact', 60)]).losses).toEqual([]);
    const groupless = {
      ...quillmere,
      sheets: quillmere.sheets.map((sheet) => ({
        ...sheet,
        columns: sheet.columns.filter(({ value }) => sheet.kind !== 'groups' || value !== 'match-setting'),
      })),
    };
    const lost = carry(groupless, both, null, { matchSetting: 'wide' });
    expect(lost.group.matchSetting).toBeNull();
    expect(lost.losses).toContainEqual(['setting', `${group.group}: wide`, '']);
    expect(carry(plainOutlet, both, null, { matchSetting: 'wide' }).losses).toEqual([]);
  });

  test('how the ads of an ad group take turns, and where that is lost', () => {
    const own = { rotation: 'All ads alike' };
    expect(carry(fennelwick, [], null, own).group.rotation).toBe('All ads alike');
    const made = carry(harrowlight, [], null, own);
    expect([made.group.rotation, made.losses]).toEqual([
      '',
      [['setting', `${group.group}: All ads alike`, '']],
    ]);
  });

  test('bids on networks by hand go before their share of the bid; told where they are not taken', () => {
    const partners = asMicros(90_000);
    const display = asMicros(70_000);
    const own = { ...row('canoe', 'exact', 60), bids: { partners, display } };
    const made = carry(quillmere, [own, row('sup', 'exact', 40)], 'close');
    expect(made.keywords.map(({ bids }) => bids)).toEqual([
      { search: 600_000, partners },
      { search: 400_000, partners: 200_000 },
    ]);
    expect(made.losses).toEqual([['bid-network', 'canoe: display', '']]);
    const elsewhere = carry(fennelwick, [own]);
    expect(elsewhere.keywords.map(({ bids }) => bids)).toEqual([null]);
    expect(elsewhere.losses.filter(([rule]) => rule === 'bid-network')).toHaveLength(2);
    const byGroup = { ...quillmere, bids: { ...quillmere.bids, on: 'group' as const } };
    const three = [own, row('sup', 'exact', 40), row('raft', 'exact', 50)];
    expect(carry(byGroup, three, 'close').group.bids).toEqual({ search: 500_000, partners: 200_000 });
  });

  test('one setting for a campaign: each keyword once, nearest to it; bids by network', () => {
    const made = carry(
      quillmere,
      [row('canoe', 'broad', 20), row('canoe', 'exact', 60), row('sea kayak', 'phrase', 40)],
      'close',
    );
    expect(made.keywords.map(({ text, type, bids }) => [text, type, bids])).toEqual([
      ['canoe', 'exact', { search: 600_000, partners: 300_000 }],
      ['sea kayak', 'exact', { search: 400_000, partners: 200_000 }],
    ]);
    expect(made.losses.map(([rule]) => rule)).toEqual(['match-folded', 'match-stands-in']);
  });

  test('a negative is never widened: it is left out, and said so', () => {
    const losses: Loss[] = [];
    const negative = (text: string, type: 'broad' | 'phrase' | 'exact') => ({
      kind: 'negative' as const,
      campaign: 'C',
      group: 'G',
      text,
      type,
      status: 'enabled' as const,
    });
    const made = carrierOf(quillmere, losses).negatives([
      negative('a', 'broad'),
      negative('b', 'exact'),
      negative('a', 'phrase'),
    ]);
    expect(made.map(({ text, type }) => [text, type])).toEqual([['a', 'phrase']]);
    expect(losses.map(({ rule, text }) => [rule, text])).toEqual([
      ['negative-stands-in', '-a (broad)'],
      ['negative-left-out', '-b (exact)'],
    ]);
  });

  test('money in the smallest coins, and with a comma', () => {
    const made = carry(quillmere, [row('canoe', 'exact', 58)], 'close');
    expect(write([...made.keywords], quillmere, 'tsv').get('searches.tsv')).toContain('\tcanoe\t58\t29\t\t');
    expect(write([{ ...group, bid: asMicros(1_250_000) }], harrowlight).get('clusters.csv')).toContain(
      'C;G;1,25;on',
    );
  });
});

describe('what no column of an outlet takes is told', () => {
  const at = { campaign: 'Drills', group: 'Cordless' };
  const address = 'https://toolbarn.example/cordless';
  const settings: CampaignSettings = {
    ...noSettings,
    networks: 'Search; Partners',
    presence: 'Either',
    rotation: 'All ads alike',
    strategy: 'Most clicks',
    delivery: 'As fast as it comes',
    starts: '2027-03-01',
  };
  const campaign: CampaignSheetRow = {
    kind: 'campaign',
    campaign: 'Drills',
    dailyBudget: asMicros(12_500_000),
    matchSetting: null,
    settings,
    labels: ['spring'],
    status: 'paused',
  };
  const keyword: KeywordSheetRow = {
    kind: 'keyword',
    finalUrl: '',
    ...at,
    text: 'cordless drill',
    type: 'exact',
    marks: [],
    bid: asMicros(900_000),
    bids: null,
    labels: ['trade'],
    status: 'paused',
  };
  const group: GroupRows = {
    group: {
      kind: 'group',
      ...at,
      bid: asMicros(400_000),
      bids: null,
      matchSetting: null,
      rotation: '',
      labels: ['trade'],
      status: 'paused',
    },
    keywords: [keyword, { ...keyword, text: 'drill', bid: asMicros(400_000), labels: [], status: 'enabled' }],
    negatives: [{ kind: 'negative', ...at, text: 'free', type: 'broad', status: 'enabled' }],
    ads: [
      {
        kind: 'ad',
        ...at,
        form: 'assembled',
        texts: { headline1: 'Cordless drills' },
        kept: { headline1: 1 },
        finalUrl: address,
        mobileUrl: `${address}?m`,
        labels: ['trade'],
        status: 'paused',
      },
    ],
  };
  const sitelink = {
    kind: 'sitelink',
    text: 'Spares',
    line1: 'Any part',
    line2: 'By post',
    address,
  } as const;
  const extras = [
    { kind: 'extra', ...at, extra: sitelink, status: 'enabled' },
    { kind: 'extra', ...at, extra: { kind: 'callout', text: 'Open Sundays' }, status: 'enabled' },
    { kind: 'extra', ...at, extra: { kind: 'phone', number: '+441632960123' }, status: 'enabled' },
  ] as const;

  /** An outlet that takes all, but for some columns of some sheets. */
  const without = (...gone: `${(typeof rowKinds)[number]}.${CellValue}`[]): Outlet => ({
    ...plainOutlet,
    sheets: plainOutlet.sheets.flatMap((sheet) => {
      const [kind] = kindsOf(sheet);
      if (sheet.kind === 'combined') return [];
      const columns = sheet.columns.filter(({ value }) => !gone.includes(`${kind as 'ad'}.${value}`));
      return [{ ...sheet, columns }];
    }),
  });

  function lostBy(outlet: Outlet) {
    const losses: Loss[] = [];
    const carrier = new Carrier(outlet, usualNetworkSteps, asMicros(10_000), (loss) => losses.push(loss));
    const row = carrier.campaign(campaign, new Set(['exact']), ['search', 'partners']);
    const carried = { campaign: row, ...carrier.group(group, null), extras: carrier.extras(extras) };
    const twice: Loss[] = [];
    const again = new Carrier(outlet, usualNetworkSteps, asMicros(10_000), (loss) => twice.push(loss));
    again.campaign(row, new Set(['exact']), ['search', 'partners']);
    again.group(carried, null);
    again.extras(carried.extras);
    return { carried, losses: losses.map(({ rule, text }) => `${rule}: ${text}`), twice };
  }

  test('an outlet with a column for each loses nothing', () => {
    const { losses, carried } = lostBy(without());
    expect(losses).toEqual([]);
    expect(carried).toEqual({ campaign, ...group, extras });
  });

  test.each<[Parameters<typeof without>, string[]]>([
    [['campaign.daily-budget'], ['budget: 12.5']],
    [
      ['campaign.labels', 'campaign.status'],
      ['labels: Drills: spring', 'paused: Drills'],
    ],
    [['campaign.rotation'], ['setting: rotation: All ads alike']],
    [['campaign.networks'], ['setting: networks: Search; Partners']],
    [['campaign.presence'], ['setting: presence: Either']],
    [['campaign.strategy'], ['setting: strategy: Most clicks']],
    [['campaign.delivery'], ['setting: delivery: As fast as it comes']],
    [['campaign.starts'], ['setting: starts: 2027-03-01']],
    [['group.labels'], ['labels: Cordless: trade']],
    [['group.status'], ['paused: Cordless']],
    [['group.bid'], []],
    // The second keyword bids what its group tells.
    [['keyword.bid'], ['bid: cordless drill']],
    [
      ['group.bid', 'keyword.bid'],
      ['bid: cordless drill', 'bid: drill'],
    ],
    [['keyword.labels'], ['labels: cordless drill: trade']],
    [['keyword.status'], ['paused: cordless drill']],
    [['keyword.keyword'], ['keyword-left-out: cordless drill', 'keyword-left-out: drill']],
    [['negative.keyword'], ['negative-left-out: -free (broad)']],
    // It would block in the whole campaign.
    [['negative.group'], ['negative-left-out: -free (broad)']],
    [['ad.final-url'], [`address: ${address}`]],
    [['ad.mobile-url'], [`address: ${address}?m`]],
    [['ad.kept'], ['kept-places: Cordless drills']],
    [['ad.labels'], ['labels: Cordless drills: trade']],
    [['ad.status'], ['paused: Cordless drills']],
    [['ad.headline1'], ['ad-form: Cordless drills']],
    [['extra.extra-line2'], ['extra-fields: Spares']],
    [['extra.final-url'], ['extra: Spares']],
    [['extra.extra-text'], ['extra: Spares', 'extra: Open Sundays']],
    [['extra.group'], ['extra: Spares', 'extra: Open Sundays', 'extra: +441632960123']],
    [['extra.extra-number'], ['extra: +441632960123']],
    [['extra.extra-kind'], ['extra: Spares', 'extra: Open Sundays', 'extra: +441632960123']],
  ])('without %j: %j', (gone, expected) => {
    const { losses, twice } = lostBy(without(...gone));
    expect(losses).toEqual(expected);
    expect(twice).toEqual([]);
  });

  test('an ad group’s bid is lost where its keywords have none of their own', () => {
    const bare = { ...group, keywords: group.keywords.map((row) => ({ ...row, bid: null })) };
    const losses: Loss[] = [];
    const carrier = new Carrier(without('group.bid'), usualNetworkSteps, asMicros(10_000), (loss) =>
      losses.push(loss),
    );
    carrier.group(bare, null);
    expect(losses).toEqual([{ rule: 'bid', ...at, text: 'Cordless', becomes: '' }]);
  });

  test('a bid for each network needs a column for each that the campaign is shown on', () => {
    const outlet: Outlet = {
      ...without(),
      bids: { on: 'keyword', perNetwork: true, least: null, conversions: null },
      sheets: without().sheets.map((sheet) => ({
        ...sheet,
        columns: sheet.columns.map((column) =>
          column.value === 'bid' ? { ...column, value: 'bid-search' as const } : column,
        ),
      })),
    };
    expect(lostBy(outlet).losses).toEqual(['bid: cordless drill', 'bid: drill']);
  });
});

describe('reading sheets', () => {
  const readPlain = (text: string) => readSheet(text, plainOutlet, 2);
  const heading = 'Campaign,Ad group,Keyword,Match type,Max CPC,Status\n';

  test('problems with their line and column; the rest is read all the same', () => {
    const { rows, problems } = readPlain(
      `${heading}C,G,canoe,Exact,0.40,Enabled\nC,G,canoe,Sideways,0.40,Enabled\nC,G,raft,Exact,"0,40",Enabled\n,G,x,Exact,1,Enabled\nC,G,"a,Exact,1,On\nC,G,sup,phrase,£1,on\n`,
    );
    expect(rows.map(({ line, row }) => [line, row.kind === 'keyword' && row.text])).toEqual([
      [2, 'canoe'],
      [7, 'sup'],
    ]);
    expect(problems.map(({ line, code, column, text }) => [line, code, column, text])).toEqual([
      [3, 'match-type', 'Match type', 'Sideways'],
      [4, 'amount', 'Max CPC', '0,40'],
      [5, 'no-campaign', 'Campaign', ''],
      [6, 'broken-row', '', 'C,G,"a,Exact,1,On'],
    ]);
  });

  test('a column that is missing, one that is there twice, a sheet of something else, none', () => {
    expect(readPlain('Campaign,Keyword,Match type,Max CPC,Status\nC,k,Exact,1,on\n').problems).toMatchObject([
      { code: 'column-missing', column: 'Ad group' },
    ]);
    expect(readPlain(`${heading.replace('Status', 'Keyword')}C,G,a,Exact,1,b\n`).problems).toMatchObject([
      { code: 'column-twice', column: 'Keyword' },
    ]);
    expect(readPlain('Date,Clicks\n1,2\n').problems).toMatchObject([{ code: 'other-sheet' }]);
    expect(readPlain('  \n').problems).toMatchObject([{ code: 'no-heading' }]);
  });

  test('an answer’s reasons come with their rows', () => {
    const { rows } = readSheet(
      'Drive;Cluster;Keyword;On or off;Problem\r\nC;G;[canoe];on;Too long\r\nC;G;"""sea kayak""";on;\r\n',
      harrowlight,
      2,
    );
    expect(rows.map(({ row, refusal }) => [row.kind === 'keyword' && [row.text, row.type], refusal])).toEqual(
      [
        [['canoe', 'exact'], 'Too long'],
        [['sea kayak', 'phrase'], ''],
      ],
    );
  });

  test('a combined sheet tells its rows by their word', () => {
    const { problems } = readSheet(
      'Line is a,Campaign,Group,Keyword\nKeyword,C,G,canoe\nBoat,C,G,canoe\n',
      fennelwick,
      2,
    );
    expect(problems).toMatchObject([{ line: 3, code: 'row-kind', column: 'Line is a', text: 'Boat' }]);
  });
});

test.each([
  ['=cmd()', "'=cmd()"],
  ['+kayak, red', `"'+kayak, red"`],
  ['-5', "'-5"],
  ['@sum', "'@sum"],
  ['\tx', "'\tx"],
  ['kayak = boat', 'kayak = boat'],
  ['', ''],
])('a sheet to be looked at has %j as %j', (text, field) => expect(writeTextField(text, ',')).toBe(field));
