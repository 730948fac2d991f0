import { MOST_READ_FILES } from '@sprig/contracts';
import type { Remote } from 'comlink';
import { isWorkbook } from './is-workbook.ts';
import type { PoolWorker } from './worker.ts';

/** A sheet as text, in whatever encoding it came. */
export type SheetFile = { name: string; body: Blob };

/** What can't be unpacked, in words. */
class Unreadable extends Error {}

type Unpacker = Pick<Remote<PoolWorker>, 'openWorkbook' | 'sheetText' | 'openArchive'>;

const tooMany = (sheets: number) =>
  new Unreadable(`These are ${sheets} sheets; up to ${MOST_READ_FILES} are read at once.`);

/** The sheets in files: workbooks sheet by sheet, archives file by file. */
export async function unpackSheets(files: readonly File[], worker: Unpacker): Promise<SheetFile[]> {
  const sheets: SheetFile[] = [];
  for (const file of files) {
    if (!(await isPacked(file))) sheets.push({ name: file.name, body: file });
    else sheets.push(...(await packedSheets(file, worker)));
  }
  if (sheets.length > MOST_READ_FILES) throw tooMany(sheets.length);
  return sheets;
}

const isPacked = async (body: Blob) => isWorkbook(await bytesOf(body.slice(0, 8)));
const bytesOf = async (body: Blob) => new Uint8Array(await body.arrayBuffer());

async function packedSheets(file: File, worker: Unpacker): Promise<SheetFile[]> {
  const inBook = await sheetsOfBook(file.name, file, worker);
  if (inBook) return inBook;
  const sheets: SheetFile[] = [];
  for (const { name, body } of await filesIn(file, worker)) {
    if (!(await isPacked(body))) sheets.push({ name, body });
    else {
      // An archive within an archive may have no end.
      const within = await sheetsOfBook(name, body, worker);
      if (!within) throw new Unreadable(`${name} in ${file.name} is no workbook that can be read.`);
      sheets.push(...within);
    }
  }
  return sheets;
}

/** Null where it is no workbook. */
async function sheetsOfBook(name: string, body: Blob, worker: Unpacker): Promise<SheetFile[] | null> {
  const book = await worker.openWorkbook(await bytesOf(body));
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

async function filesIn(file: File, worker: Unpacker): Promise<SheetFile[]> {
  const archive = await worker.openArchive(await bytesOf(file), MOST_READ_FILES);
  if ('files' in archive) return archive.files;
  if (archive.problem === 'too-many') throw tooMany(archive.count);
  const words = {
    'no-archive': 'is no archive that can be read.',
    'too-large': 'unpacks to more than is read at once. Unpack it, and choose some.',
    'no-sheets': 'holds no sheets: csv, tsv, txt or xlsx files.',
  }[archive.problem];
  throw new Unreadable(`${file.name} ${words}`);
}
