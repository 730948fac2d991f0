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

test('what is no workbook, and what would fill memory, is refused', async () => {
  expect(await openWorkbook(strToU8('kayak'))).toEqual({ problem: 'no-workbook' });
  expect(await openWorkbook(zipSync({ 'notes.txt': strToU8('kayak') }))).toEqual({ problem: 'no-workbook' });
  expect(await openWorkbook(zipSync({ 'xl/workbook.xml': strToU8('<broken') }))).toEqual({
    problem: 'no-workbook',
  });
  const bomb = zipSync({ 'xl/worksheets/sheet1.xml': new Uint8Array(2_000_000) });
  expect(bomb.length).toBeLessThan(5_000);
  expect(await openWorkbook(bomb, 1_000_000)).toEqual({ problem: 'too-large' });
});
