import type { Remote } from 'comlink';
import { strToU8, zipSync } from 'fflate';
import { expect, test } from 'vitest';
import { openWorkbook, type Workbook } from '../../pool/workbook.ts';
import type { PoolWorker } from '../../pool/worker.ts';
import { unpackSheets } from './unpack-sheets.ts';

/** Opens workbooks as the worker does. */
function opener(): Remote<PoolWorker> {
  let open: Workbook | null = null;
  return {
    openWorkbook: async (bytes: Uint8Array) => {
      const book = await openWorkbook(bytes);
      if ('problem' in book) return book;
      open = book;
      return { sheets: book.sheets };
    },
    sheetText: async (at: number) => open?.textOf(at) ?? '',
  } as unknown as Remote<PoolWorker>;
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
