import { asMicros } from '@sprig/core/money';
import {
  type CampaignSettings,
  fennelwick,
  harrowlight,
  type Outlet,
  quillmere,
  type RowKind,
  type SheetFormat,
  type SheetProfile,
  settingValues,
} from '@sprig/core/outlets';
import {
  BYTE_ORDER_MARKS,
  type CampaignSheetRow,
  CellMaker,
  encodeText,
  SheetFiles,
  type SheetRow,
  XlsxSheet,
} from '@sprig/core/sheets';
import { describe, expect, test } from 'vitest';
import { type Account, emptyAccount, packAccount, type Said, unpackAccount } from './account.ts';
import { Engine, type HandedIn } from './engine.ts';
import { textLength } from './length.ts';
import { decode, readTable, type TableReading } from './table.ts';
import { SheetCells } from './workbook.ts';

const utf8 = (text: string): Uint8Array =>
  Uint8Array.from(encodeURIComponent(text).match(/%..|./g) ?? [], (part) =>
    part.length === 3 ? Number.parseInt(part.slice(1), 16) : part.charCodeAt(0),
  );

/** The files of rows, as the product writes them. */
function filesOf(rows: readonly SheetRow[], outlet: Outlet): HandedIn[] {
  const maker = new CellMaker({ outlet, decimals: 2 });
  const texts = new Map<string, string>();
  for (const profile of outlet.sheets) {
    const sheet = new SheetFiles(
      outlet,
      profile,
      outlet.file.formats[0] as SheetFormat,
      maker.values,
      (name, text) => texts.set(name, (texts.get(name) ?? '') + text),
    );
    for (const row of rows) sheet.add(maker.of(row));
    sheet.end();
  }
  const { encoding, byteOrderMark } = outlet.file;
  const mark = byteOrderMark ? BYTE_ORDER_MARKS[encoding] : [];
  return [...texts].map(([name, text]) => ({
    name,
    bytes: Uint8Array.from([...mark, ...encodeText(text, encoding, utf8)]),
  }));
}

const SAMPLE: Said = {
  campaign: 'Kayaks',
  group: 'Sea kayak',
  status: fennelwick.words.enabled,
  'daily-budget': '20.00',
  'match-type': fennelwick.words.matchTypes.exact,
  bid: '0.60',
  locations: 'Eastmere',
  languages: 'English',
};
/** Fennelwick’s one sheet with few of its columns, for rows that are handed in cell by cell. */
const [{ columns: ALL, ...SHEET }] = fennelwick.sheets as [SheetProfile];
const COLUMNS = ALL.filter(
  ({ value }) => value in SAMPLE || ['row-kind', 'keyword', 'ad-form', 'headline1'].includes(value),
);
const short: Outlet = {
  ...fennelwick,
  sheets: [{ ...SHEET, columns: COLUMNS }],
  limits: { ...fennelwick.limits, rowsPerGroup: 1_000_000 },
};
function cellsOf(kind: RowKind, said: Said): string[] {
  const row: Said = { ...SAMPLE, ...said, 'row-kind': fennelwick.words.rowKinds[kind] };
  return COLUMNS.map(({ value }) => row[value] ?? '');
}
const handIn = (rows: readonly string[][], account: Account) =>
  new Engine(short, account, [], '2027-03-01', 2).take([
    { name: `${SHEET.fileName}.csv`, cells: [COLUMNS.map(({ heading }) => heading), ...rows] },
  ]);
const settings = Object.fromEntries(settingValues.map((value) => [value, ''])) as CampaignSettings;
const status = 'enabled' as const;
const at = { campaign: 'Kayaks', group: 'Sea “kayak”, é' };
const bids = (outlet: Outlet, pennies: number) => ({
  bid: outlet.bids.on === 'group' ? null : asMicros(pennies * 10_000),
  bids: outlet.bids.perNetwork ? { search: asMicros(pennies * 10_000) } : null,
});
const campaign = (outlet: Outlet, pounds = 20): SheetRow => ({
  kind: 'campaign',
  campaign: 'Kayaks',
  dailyBudget: asMicros(pounds * 1_000_000),
  matchSetting: outlet.match === 'setting' ? 'close' : null,
  settings: { ...settings, locations: 'Eastmere (region)', languages: 'English' },
  labels: [],
  status,
});
const group = (outlet: Outlet): SheetRow => ({
  kind: 'group',
  ...at,
  bid: asMicros(500_000),
  bids: bids(outlet, 50).bids,
  matchSetting: null,
  rotation: '',
  labels: [],
  status,
});
const keyword = (outlet: Outlet, text = 'sea kayak'): SheetRow => ({
  kind: 'keyword',
  finalUrl: '',
  ...at,
  text,
  type: 'exact',
  marks: [],
  ...bids(outlet, 60),
  labels: [],
  status,
});
const negative = (outlet: Outlet): SheetRow => ({
  kind: 'negative',
  ...at,
  text: 'free',
  type: outlet.negativeTypes[0] ?? 'phrase',
  status,
});
const ad = (texts: Record<string, string> = {}): SheetRow => ({
  kind: 'ad',
  ...at,
  form: 'plain',
  kept: {},
  finalUrl: 'https://saltmarshpaddle.example/',
  mobileUrl: '',
  labels: [],
  status,
  texts: { headline1: 'Sea Kayak', headline2: 'Hire', description1: 'By the hour, "or" the day', ...texts },
});
const told = (row: SheetRow, outlet: Outlet): SheetRow =>
  row.kind !== 'ad' || outlet.ad.plain?.headlines.most !== 1
    ? row
    : { ...row, texts: { headline1: row.texts.headline1 ?? '', description1: row.texts.description1 ?? '' } };
const planFor = (outlet: Outlet) => [
  campaign(outlet),
  group(outlet),
  keyword(outlet),
  negative(outlet),
  told(ad(), outlet),
];

function take(
  rows: readonly SheetRow[],
  outlet: Outlet,
  account: Account = emptyAccount(),
  inPlace = ['funding'],
  day = '2027-03-01',
) {
  return new Engine(outlet, account, inPlace, day, 2).take(filesOf(rows, outlet));
}

describe.each([fennelwick, harrowlight, quillmere].map((outlet) => [outlet.key, outlet] as const))(
  '%s',
  (_, outlet) => {
    test('takes what is written for it, once and again, through a reader of its own', async () => {
      const account = emptyAccount();
      const rows = planFor(outlet);
      expect(take(rows, outlet, account)).toMatchObject({ refused: '', verdicts: [], taken: 5 });
      expect(account.rows.size).toBe(5);
      const kept = await unpackAccount(packAccount(account));
      expect(kept).toEqual(account);
      expect(take(rows, outlet, kept)).toMatchObject({ verdicts: [], taken: 5 });
      expect(kept.rows.size).toBe(5);
    });

    test('refuses what has no parent, stands twice, is too long or too cheap, row by row', () => {
      const long = keyword(outlet, 'x'.repeat(outlet.limits.keywordLength + 1));
      const words = keyword(
        outlet,
        Array.from({ length: outlet.limits.keywordWords + 1 }, (_v, n) => `w${n}`).join(' '),
      );
      const { verdicts, taken, answers } = take(
        [
          ...planFor(outlet),
          keyword(outlet),
          long,
          words,
          { ...keyword(outlet), campaign: 'Boats' } as SheetRow,
        ],
        outlet,
      );
      expect(taken).toBe(5);
      expect(verdicts).toHaveLength(4);
      expect(verdicts.map(({ reason }) => reason)).toEqual(
        expect.arrayContaining([
          expect.stringContaining(`${outlet.limits.keywordLength} are allowed`),
          expect.stringContaining(`${outlet.limits.keywordWords} are allowed`),
          'The same row stands twice in what was handed in.',
          'There is no campaign “Boats”.',
        ]),
      );
      expect(answers).toHaveLength(1);
      expect(answers[0]?.text.split('\n').length).toBe(1 + 4 + 1);
      expect(answers[0]?.text).toContain(`"${outlet.answer.refusal}"`);
    });

    test('takes out what is removed, and refuses to take out what is not there', () => {
      const account = emptyAccount();
      take(planFor(outlet), outlet, account);
      const gone = { ...negative(outlet), status: 'removed' as const };
      expect(take([gone], outlet, account)).toMatchObject({ taken: 1, verdicts: [] });
      expect(account.rows.size).toBe(4);
      expect(take([gone], outlet, account).verdicts[0]?.reason).toBe(
        'There is nothing of this kind to take out.',
      );
    });

    test('a campaign without a place is refused', () => {
      const nowhere = {
        ...(campaign(outlet) as Extract<SheetRow, { kind: 'campaign' }>),
        settings: { ...settings, languages: 'English' },
      };
      expect(take([nowhere], outlet).verdicts[0]?.reason).toContain('no place');
    });

    test('an ad too long, shouting, or without an address', () => {
      const limit = outlet.ad.plain?.headlines.limit ?? 0;
      const base = planFor(outlet).slice(0, 2);
      const reasonOf = (row: SheetRow) => take([...base, told(row, outlet)], outlet).verdicts[0]?.reason;
      expect(reasonOf(ad({ headline1: 'x'.repeat(limit + 1) }))).toContain(`${limit} are allowed`);
      expect(reasonOf(ad({ headline1: 'Kayaks!' }))).toContain('exclamation mark');
      expect(reasonOf({ ...(ad() as Extract<SheetRow, { kind: 'ad' }>), finalUrl: 'nowhere' })).toContain(
        'no web address',
      );
    });
  },
);

describe('quirks', () => {
  test('Harrowlight changes three budgets a day', () => {
    const account = emptyAccount();
    const budgets = (pounds: number) =>
      [1, 2, 3, 4].map((n) => ({ ...campaign(harrowlight, pounds), campaign: `C${n}` }) as SheetRow);
    expect(take(budgets(5), harrowlight, account).verdicts).toEqual([]);
    expect(take(budgets(6), harrowlight, account).verdicts.map(({ reason }) => reason)).toEqual([
      '3 budgets were changed today: no more before tomorrow.',
    ]);
    expect(take(budgets(7).slice(3), harrowlight, account, [], '2027-03-02').verdicts).toEqual([]);
  });

  test('Quillmere reads nothing before it is funded', () => {
    expect(take(planFor(quillmere), quillmere, emptyAccount(), [])).toMatchObject({
      taken: 0,
      refused: expect.stringContaining('funded'),
    });
  });

  test('Harrowlight refuses a file of more than 1,500 rows', () => {
    const rows = Array.from({ length: 1_501 }, (_, n) => keyword(harrowlight, `kayak ${n}`));
    const whole = filesOf(rows, { ...harrowlight, file: { ...harrowlight.file, rowsPerFile: null } });
    const answer = new Engine(harrowlight, emptyAccount(), [], '2027-03-01', 2).take(whole);
    expect(answer.verdicts[0]).toMatchObject({ line: 0, reason: expect.stringContaining('1500 rows') });
  });

  test('columns in another order, another encoding, a strange name', () => {
    const [file] = filesOf(planFor(quillmere), quillmere) as [{ name: string; bytes: Uint8Array }];
    const reasonOf = (changed: HandedIn) =>
      new Engine(quillmere, emptyAccount(), ['funding'], '2027-03-01', 2).take([changed]).verdicts[0]?.reason;
    expect(reasonOf({ ...file, bytes: file.bytes.subarray(2) })).toContain('not in utf-16le with its mark');
    expect(reasonOf({ ...file, name: 'holiday.tsv' })).toContain('No sheet is known by the name');
    expect(reasonOf({ name: file.name, cells: [['Pence a day', 'Order']] })).toContain(
      'Column 1 should be “Order”',
    );
  });

  test('insertion counts as what stands in for it', () => {
    const live = ad({ headline1: '~keyword each(Sea Kayak Hire Today)~' });
    expect(take([...planFor(fennelwick).slice(0, 2), live], fennelwick).verdicts).toEqual([]);
  });
});

describe('an account', () => {
  test('is the same however its text was cut, and however many texts its rows share', async () => {
    const account = emptyAccount();
    take([...planFor(fennelwick), keyword(fennelwick, 'boat\nhire "now" 🛶')], fennelwick, account);
    const [text] = [...packAccount(account)];
    const cut = Array.from({ length: Math.ceil((text?.length ?? 0) / 7) }, (_, n) =>
      (text ?? '').slice(n * 7, n * 7 + 7),
    );
    expect(await unpackAccount(cut)).toEqual(account);
    expect(cut.length).toBeGreaterThan(20);
  });

  test('that was kept as one object, each row with its key and its empty cells, is read as before', async () => {
    const account = emptyAccount();
    take(planFor(fennelwick), fennelwick, account);
    const rows = [...account.rows.values()].map(({ kind, said }, n) => [
      `key ${n}`,
      { kind, campaign: said.campaign, group: said.group ?? '', said: { ...said, labels: '' } },
    ]);
    const before = JSON.stringify({ rows, day: account.day, budgetChanges: 2 });
    expect(await unpackAccount([before])).toEqual({ ...account, budgetChanges: 2 });
  });

  test('of more rows in one file than a call has arguments', () => {
    const account = emptyAccount();
    const keywords = Array.from({ length: 140_000 }, (_, n) => cellsOf('keyword', { keyword: `kayak ${n}` }));
    const answer = handIn([cellsOf('campaign', {}), cellsOf('group', {}), ...keywords], account);
    expect(answer).toMatchObject({ taken: 140_002, verdicts: [] });
    expect(account.rows.size).toBe(140_002);
    expect([...packAccount(account)].length).toBeGreaterThan(10);
  }, 30_000);
});

test('a cell left empty says less than a column that is not there', () => {
  const parents = [cellsOf('campaign', {}), cellsOf('group', {})];
  const reasonOf = (kind: RowKind, said: Said) =>
    handIn([...parents, cellsOf(kind, said)], emptyAccount()).verdicts[0]?.reason;
  expect(reasonOf('keyword', { keyword: 'kayak' })).toBeUndefined();
  expect(reasonOf('keyword', { keyword: 'kayak', bid: '' })).toBe('A bid is missing.');
  expect(reasonOf('keyword', { keyword: 'kayak', 'match-type': '' })).toBe(
    '“” is no match type of a keyword here.',
  );
  expect(reasonOf('keyword', { keyword: 'kayak', status: '' })).toBe('“” is no state.');
  expect(reasonOf('ad', { headline1: 'Kayaks' })).toBe('“” is no form of ad here.');
  expect(reasonOf('campaign', { campaign: 'Boats', languages: '' })).toBe('The campaign has no language.');
});

test('the cells of a workbook, wherever its XML was cut', () => {
  const columns = [
    { value: 'campaign', heading: 'Campaign' },
    { value: 'daily-budget', heading: 'A & B' },
  ] as const;
  const sheet = new XlsxSheet(columns, new CellMaker({ outlet: fennelwick, decimals: 2 }).values);
  const texts = ['=SUM(1)', 'a\r\nb', '', '<c>x</c> "🛶" &amp;', '  '];
  const maker = new CellMaker({ outlet: fennelwick, decimals: 2 });
  const rows = texts.map((text) =>
    maker.of({ ...(campaign(fennelwick) as CampaignSheetRow), campaign: text }),
  );
  const xml = sheet.header() + rows.map((row) => sheet.row(row)).join('') + sheet.end();
  const expected = [['Campaign', 'A & B'], ...texts.map((text) => [text, '20.00'])];
  for (const size of [1, 7, 100, xml.length]) {
    const cells = new SheetCells();
    for (let at = 0; at < xml.length; at += size) cells.push(xml.slice(at, at + size));
    expect(cells.rows).toEqual(expected);
  }
});

describe('the reader', () => {
  test('bytes of each encoding; what is none is refused', () => {
    const file = { ...fennelwick.file, byteOrderMark: false };
    expect(decode(utf8('é €🛶'), file)).toBe('é €🛶');
    for (const broken of [
      [0xc3],
      [0xc0, 0x80],
      [0xe0, 0x80, 0x80],
      [0xed, 0xa0, 0x80],
      [0xf4, 0x90, 0x80, 0x80],
      [0x80],
      [0xe2, 0x82, 0x41],
    ])
      expect(decode(Uint8Array.from(broken), file)).toBeNull();
    const long = 'kayak é '.repeat(5_000);
    expect(decode(utf8(long), file)).toBe(long);
    expect(decode(Uint8Array.from([0x80, 0xe9]), { ...file, encoding: 'windows-1252' })).toBe('€é');
    expect(decode(Uint8Array.from([0x3d, 0xd8, 0xf6, 0xde]), { ...file, encoding: 'utf-16le' })).toBe('🛶');
  });

  test('quotes, line ends within them, and what breaks', () => {
    const reading = readTable('a,b\r\n"1\n2","x""y"\r\n,\n\n1\r,""', ',');
    const { headings, rows } = (reading as Extract<TableReading, { status: 'table' }>).table;
    expect(headings).toEqual(['a', 'b']);
    expect(Array.from({ length: rows.size }, (_, row) => [rows.line(row), rows.cells(row)])).toEqual([
      [2, ['1\n2', 'x"y']],
      [4, ['', '']],
      [5, ['']],
      [6, ['1\r', '']],
    ]);
    expect(readTable('', ',')).toMatchObject({ status: 'refused', reason: 'The sheet is empty.' });
    for (const [text, line] of [
      ['a\n"b', 2],
      ['a\n"b"c\n', 2],
      ['a\nb"c\n', 2],
    ] as const)
      expect(readTable(text, ',')).toMatchObject({
        status: 'refused',
        reason: expect.stringContaining(`Line ${line}`),
      });
  });

  test('lengths', () => {
    expect(['kayak', '東京', '🛶', 'e\u0301'].map(textLength)).toEqual([5, 4, 2, 1]);
  });
});
