import { strToU8, zipSync } from 'fflate';
import { expect, test } from 'vitest';
import { openArchive } from './archive.ts';
import { unpackSheets } from './unpack-sheets.ts';
import { openWorkbook, type Workbook } from './workbook.ts';

/** Opens workbooks and archives as the worker does. */
function opener(): Parameters<typeof unpackSheets>[1] {
  let open: Workbook | null = null;
  return {
    openWorkbook: async (bytes: Uint8Array) => {
      const book = await openWorkbook(bytes);
      if ('problem' in book) return book;
      open = book;
      return { sheets: book.sheets };
    },
    sheetText: async (at: number) => open?.textOf(at) ?? '',
    openArchive,
  } as unknown as Parameters<typeof unpackSheets>[1];
}

const unpack = async (name: string, bytes: Uint8Array) => {
  const sheets = await unpackSheets([new File([bytes.slice()], name)], opener());
  return Promise.all(sheets.map(async (sheet) => [sheet.name, await sheet.body.text()]));
};

test('the sheets of an archive, and a sheet as it is', async () => {
  const archive = zipSync({
    'set/keywords.csv': strToU8('Campaign'),
    'set/ads.tsv': strToU8('Ad group'),
    'set/picture.png': strToU8('no sheet'),
    '__set/keywords.csv': strToU8('of the system'),
  });
  expect(await unpack('set.zip', archive)).toEqual([
    ['keywords.csv', 'Campaign'],
    ['ads.tsv', 'Ad group'],
  ]);
  expect(await unpack('a.csv', strToU8('Keyword'))).toEqual([['a.csv', 'Keyword']]);
});

test('what holds no sheets, is cut short, or is an archive within an archive is told', async () => {
  const inner = zipSync({ 'keywords.csv': strToU8('Campaign') });
  await expect(unpack('empty.zip', zipSync({ 'a.png': strToU8('x') }))).rejects.toThrow(/holds no sheets/);
  await expect(unpack('cut.zip', inner.slice(0, 20))).rejects.toThrow(/no archive that can be read/);
  await expect(unpack('deep.zip', zipSync({ 'inner.xlsx': inner }))).rejects.toThrow(
    'inner.xlsx in deep.zip is no workbook that can be read.',
  );
});

test('a sheet of any length comes out of an archive whole', async () => {
  const rows = 'sea kayak,12\n'.repeat(200_000);
  expect(await unpack('long.zip', zipSync({ 'long.csv': strToU8(rows) }))).toEqual([['long.csv', rows]]);
});

test('an archive is held to its limits by what comes out of it, not by what it says', async () => {
  const archive = zipSync({ 'a.csv': new Uint8Array(3_000_000), 'b.csv': strToU8('kayak') });
  expect(await openArchive(lyingAboutSize(archive), 10, { bytes: 1_000_000, cells: 1, ms: 10_000 })).toEqual({
    problem: 'too-large',
    count: 0,
  });
  const many = Object.fromEntries(Array.from({ length: 201 }, (_, at) => [`${at}.csv`, strToU8('kayak')]));
  await expect(unpack('many.zip', zipSync(many))).rejects.toThrow('These are 201 sheets; up to 200');
});

/** The same archive, whose directory says that its first file is one byte long. */
function lyingAboutSize(archive: Uint8Array): Uint8Array {
  const copy = archive.slice();
  const view = new DataView(copy.buffer);
  for (let at = 0; at < copy.length - 4; at++)
    if (view.getUint32(at, true) === 0x02014b50) {
      view.setUint32(at + 24, 1, true);
      return copy;
    }
  throw new Error('no directory');
}
