import { readList } from '@sprig/core/gather';
import exceljs from 'exceljs';
import { strToU8, zipSync } from 'fflate';
import { expect, test } from 'vitest';
import { isWorkbook } from './is-workbook.ts';
import { openWorkbook } from './workbook.ts';

async function bytesOf(fill: (book: exceljs.Workbook) => void): Promise<Uint8Array> {
  const book = new exceljs.Workbook();
  fill(book);
  return new Uint8Array((await book.xlsx.writeBuffer()) as ArrayBuffer);
}

test('a sheet is read as tab-separated text, cell by cell, and its notation with it', async () => {
  const bytes = await bytesOf((book) => {
    book.addWorksheet('Empty');
    const sheet = book.addWorksheet('Keywords');
    sheet.addRow(['Keyword', 'Searches', 'Seen']);
    sheet.addRow(['"sea kayak"', { formula: '1+1', result: 2 }, new Date('2026-10-01')]);
    sheet.addRow(['two\nlines\tand a tab', 1300.5, { richText: [{ text: 'a' }, { text: 'b' }] }]);
    sheet.addRow(['=cmd()', null, { text: 'a link', hyperlink: 'https://shop.example' }]);
  });
  expect(isWorkbook(bytes)).toBe(true);
  const book = await openWorkbook(bytes);
  if ('problem' in book) throw new Error(book.problem);
  expect(book.sheets).toEqual(['Keywords']);
  const text = book.textOf(0);
  expect(text.split('\n')).toEqual([
    'Keyword\tSearches\tSeen',
    '"""sea kayak"""\t2\t2026-10-01',
    'two lines and a tab\t1300.5\tab',
    '=cmd()\t\ta link',
  ]);
  const { keywords, problems } = readList(text, { delimiter: '\t' });
  expect(keywords.map(({ norm, asked }) => [norm, asked])).toEqual([
    ['sea kayak', 4],
    ['two lines and a tab', 0],
  ]);
  expect(problems).toMatchObject([{ line: 4, code: 'not-allowed' }]);
});

const LIMITS = { bytes: 1_000_000, cells: 1_000, ms: 60_000 };

test('what is no workbook, and what would fill memory, is refused', async () => {
  expect(await openWorkbook(strToU8('kayak'))).toEqual({ problem: 'no-workbook' });
  expect(await openWorkbook(zipSync({ 'notes.txt': strToU8('kayak') }))).toEqual({ problem: 'no-workbook' });
  expect(await openWorkbook(zipSync({ 'xl/workbook.xml': strToU8('<broken') }))).toEqual({
    problem: 'no-workbook',
  });
  const bomb = made('', { 'xl/styles.xml': ' '.repeat(2_000_000) });
  expect(bomb.length).toBeLessThan(5_000);
  expect(await openWorkbook(bomb, LIMITS)).toEqual({ problem: 'too-large' });
  const cells = '<row><c t="str"><v>a</v></c></row>'.repeat(1_001);
  expect(await openWorkbook(made(cells), LIMITS)).toEqual({ problem: 'too-large' });
  const wide = Array.from(
    { length: 100 },
    (_, at) => `<row r="${at + 1}"><c r="XFD${at + 1}"><v>1</v></c></row>`,
  );
  expect(await openWorkbook(made(wide.join('')), LIMITS)).toEqual({ problem: 'too-large' });
  expect(await openWorkbook(made('<row r="1"/>'), { ...LIMITS, ms: -1 })).toEqual({ problem: 'too-large' });
});

/** A workbook of one sheet with these rows, made by hand. */
const made = (rows: string, more: Record<string, string> = {}, around = '') =>
  zipSync(
    Object.fromEntries(
      Object.entries({
        'xl/workbook.xml': '<workbook xmlns:r="r"><sheets><sheet name="One" r:id="r1"/></sheets></workbook>',
        'xl/_rels/workbook.xml.rels':
          '<Relationships><Relationship Id="r1" Target="worksheets/sheet1.xml"/></Relationships>',
        'xl/worksheets/sheet1.xml': `<worksheet>${around}<sheetData>${rows}</sheetData></worksheet>`,
        ...more,
      }).map(([name, text]) => [name, strToU8(text)]),
    ),
  );

async function textOf(bytes: Uint8Array): Promise<string> {
  const book = await openWorkbook(bytes);
  if ('problem' in book) throw new Error(book.problem);
  return book.textOf(0);
}

test('cells that are not there cost nothing', async () => {
  const around =
    '<cols><col min="1" max="2000000000" width="9"/></cols><mergeCells><mergeCell ref="A1:XFD1048576"/></mergeCells>';
  const text = await textOf(
    made(
      '<row r="1"><c r="A1" t="str"><v>Keyword</v></c></row><row r="1048576"><c r="C1048576"><v>7</v></c></row>',
      {},
      around,
    ),
  );
  expect(text.length).toBe('Keyword'.length + 1_048_575 + '\t\t7'.length);
  expect(text.split('\n').length).toBe(1_048_576);
  for (const place of ['A1048577', 'XFE1', 'ZZZZ1', '1', 'A2000000000'])
    expect(
      await openWorkbook(made(`<row r="${/\d+$/.exec(place)}"><c r="${place}"><v>1</v></c></row>`)),
    ).toEqual({ problem: 'no-workbook' });
});

test('what makers of workbooks leave out, or write otherwise', async () => {
  const strings =
    '<x:sst xmlns:x="x"><x:si><x:t>caf\u00e9_x000A_a</x:t><x:rPh><x:t>spoken</x:t></x:rPh></x:si></x:sst>';
  const styles =
    '<styleSheet><numFmts><numFmt numFmtId="170" formatCode="[Red]dd/mm/yyyy"/><numFmt numFmtId="171" formatCode="0 &quot;days&quot;"/></numFmts><cellStyleXfs><xf numFmtId="14"/></cellStyleXfs><cellXfs><xf numFmtId="0"/><xf numFmtId="170"/><xf numFmtId="171"/><xf numFmtId="14"/></cellXfs></styleSheet>';
  const rows = [
    '<row><c t="s"><v>0</v></c><c t="inlineStr"><is><r><t>in</t></r><r><t>line</t></r></is></c></row>',
    '<row><c s="1"><v>46296</v></c><c s="2"><v>3</v></c><c s="3"><v>1.5</v></c><c><v>1E3</v></c></row>',
    '<row><c t="b"><v>1</v></c><c t="e"><v>#N/A</v></c><c t="d"><v>2026-10-01T00:00:00</v></c></row>',
  ];
  const more = { 'xl/sharedStrings.xml': strings, 'xl/styles.xml': styles };
  expect(await textOf(made(rows.join(''), more))).toBe(
    'caf\u00e9 a\tinline\n2026-10-01\t3\t1900-01-01\t1000\ntrue\t\t2026-10-01',
  );
});
