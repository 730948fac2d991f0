import { MOST_READ_FILES } from '@sprig/contracts';
import type { Remote } from 'comlink';
import { unzip } from 'fflate';
import { isWorkbook } from '../../pool/is-workbook.ts';
import { MOST_UNPACKED } from '../../pool/workbook.ts';
import type { PoolWorker } from '../../pool/worker.ts';

/** A sheet as text, in whatever encoding it came. */
export type SheetFile = { name: string; body: Blob };

/** What can't be unpacked, in words. */
export class Unreadable extends Error {}

/** The sheets in files: workbooks sheet by sheet, archives file by file. */
export async function unpackSheets(files: readonly File[], worker: Remote<PoolWorker>): Promise<SheetFile[]> {
  const sheets: SheetFile[] = [];
  for (const file of files) {
    const head = new Uint8Array(await file.slice(0, 8).arrayBuffer());
    if (!isWorkbook(head)) sheets.push({ name: file.name, body: file });
    else sheets.push(...(await packedSheets(file.name, new Uint8Array(await file.arrayBuffer()), worker)));
  }
  if (sheets.length > MOST_READ_FILES)
    throw new Unreadable(`These are ${sheets.length} sheets; up to ${MOST_READ_FILES} are read at once.`);
  return sheets;
}

async function packedSheets(
  name: string,
  bytes: Uint8Array,
  worker: Remote<PoolWorker>,
): Promise<SheetFile[]> {
  const inBook = await sheetsOfBook(name, bytes, worker);
  if (inBook) return inBook;
  const sheets: SheetFile[] = [];
  for (const [entry, data] of Object.entries(await unpacked(name, bytes))) {
    const own = entry.split('/').at(-1) ?? entry;
    if (!isWorkbook(data)) sheets.push({ name: own, body: new Blob([data.slice()]) });
    else {
      // An archive within an archive may have no end.
      const within = await sheetsOfBook(own, data, worker);
      if (!within) throw new Unreadable(`${own} in ${name} is no workbook that can be read.`);
      sheets.push(...within);
    }
  }
  return sheets;
}

/** Null where it is no workbook. */
async function sheetsOfBook(
  name: string,
  bytes: Uint8Array,
  worker: Remote<PoolWorker>,
): Promise<SheetFile[] | null> {
  const book = await worker.openWorkbook(bytes);
  if ('problem' in book) {
    if (book.problem === 'no-workbook') return null;
    throw new Unreadable(`${name} unpacks to more than is read at once. Save its sheets as CSV.`);
  }
  const sheets: SheetFile[] = [];
  for (const [at, sheet] of book.sheets.entries())
    sheets.push({
      name: book.sheets.length > 1 ? `${name}: ${sheet}` : name,
      body: new Blob([await worker.sheetText(at)]),
    });
  return sheets;
}

function unpacked(name: string, bytes: Uint8Array): Promise<Record<string, Uint8Array>> {
  let size = 0;
  let isTooLarge = false;
  return new Promise((done, fail) => {
    unzip(
      bytes,
      {
        filter: ({ name: entry, originalSize }) => {
          size += originalSize;
          isTooLarge ||= size > MOST_UNPACKED;
          return !isTooLarge && /\.(csv|tsv|txt|xlsx)$/i.test(entry) && !entry.startsWith('__');
        },
      },
      (error, entries) => {
        if (error) fail(new Unreadable(`${name} is no archive that can be read.`));
        else if (isTooLarge)
          fail(new Unreadable(`${name} unpacks to more than is read at once. Unpack it, and choose some.`));
        else if (Object.keys(entries).length === 0)
          fail(new Unreadable(`${name} holds no sheets: csv, tsv, txt or xlsx files.`));
        else done(entries);
      },
    );
  });
}
