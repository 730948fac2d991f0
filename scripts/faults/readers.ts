import { readOutletJson } from '@sprig/contracts';
import {
  decoderOf,
  type EncodingGuess,
  guessEncoding,
  noRewriting,
  readList,
  rewriter,
} from '@sprig/core/gather';
import { readPastedColumns, readWords } from '@sprig/core/mix';
import { guessColumns, guessedOutlet, plainOutlet, shippedOutlets } from '@sprig/core/outlets';
import { headingsOf, readSheet, sampleOf } from '@sprig/core/sheets';
import { english, normalise } from '@sprig/core/text';
import exceljs from 'exceljs';
import { unzipSync, zipSync } from 'fflate';
import { openArchive } from '../../apps/web/src/pool/archive.ts';
import { openWorkbook } from '../../apps/web/src/pool/workbook.ts';
import type { Mutations } from './mutate.ts';

/** A reader of what users bring, with samples of it. `read` throws where it breaks a promise. */
export type Reader = {
  name: string;
  samples: readonly Uint8Array[];
  read: (bytes: Uint8Array) => unknown;
  /** How a sample is changed, where not as bytes. */
  mutate?: (mutations: Mutations) => Uint8Array;
};

const bytesOf = (text: string): Uint8Array => new TextEncoder().encode(text);
const utf16 = (text: string): Uint8Array => {
  const units = Uint16Array.from(`\ufeff${text}`, (_, at) => `\ufeff${text}`.charCodeAt(at));
  return new Uint8Array(units.buffer);
};

function isUtf8(bytes: Uint8Array): boolean {
  try {
    new TextDecoder('utf-8', { fatal: true }).decode(bytes);
    return true;
  } catch {
    return false;
  }
}

function textOf(bytes: Uint8Array): string | null {
  const guess: EncodingGuess = guessEncoding(bytes, isUtf8);
  if (guess.status === 'problem') return null;
  return decoderOf(guess.encoding, (name) => new TextDecoder(name)).decode(bytes.subarray(guess.bomLength));
}

const keep = (isKept: boolean, what: string) => {
  if (!isKept) throw new Error(what);
};

const LISTS = [
  'Keyword,Searches,CPC\nred kayak,"1,300",0.40\n[red kayak],,\n-free,,\n"sea ""kayak""",5,\nTotal,1305,\n',
  'dentist near me\n"root canal"\n[teeth whitening]\n+crown +cost\n-"free clinic"\n- braces\n',
  'Suchbegriff;Suchvolumen;CPC\nzahnarzt;1.300;0,40 €\nkrone;90;--\n',
  'tool\t10\ntool kit\t20K – 30K\ntool, set, box\t<10\n',
];

function readAsList(text: string): void {
  const lines = text.split(/\r\n|\r|\n/).length;
  const { keywords, problems, setAside, negatives } = readList(text);
  for (const { norm, line } of [...keywords, ...negatives]) {
    keep(
      norm !== '' && normalise(norm) === norm,
      `a keyword that is no text in normal form: ${JSON.stringify(norm)}`,
    );
    keep(line >= 1 && line <= lines, `line ${line} of ${lines}`);
  }
  for (const { raw, line } of [...problems, ...setAside]) {
    keep(raw.length <= 501, 'a problem is shown at any length');
    keep(line >= 1 && line <= lines, `line ${line} of ${lines}`);
  }
}

const SHEETS = shippedOutlets.flatMap(({ sheets, file }) =>
  sheets.map(({ columns }) => {
    const heading = columns.map(({ heading: name }) => name).join(file.delimiter);
    const row = columns.map((_, at) => (at % 3 === 0 ? 'Teeth' : at % 3 === 1 ? '1.50' : '"Crown, white"'));
    return `${heading}\r\n${Array.from({ length: 4 }, () => row.join(file.delimiter)).join('\r\n')}\r\n`;
  }),
);

function readAsSheet(text: string): void {
  for (const outlet of shippedOutlets) {
    const { rows, problems } = readSheet(text, outlet, 2, 'keywords.csv');
    for (const { line } of [...rows, ...problems]) keep(line >= 1, `line ${line}`);
  }
  const headings = headingsOf(text);
  const sample = sampleOf(text);
  const guessed = guessedOutlet('Sheet', headings, guessColumns(headings, sample), sample);
  readSheet(text, guessed, 2);
}

async function bookBytes(): Promise<Uint8Array> {
  const book = new exceljs.Workbook();
  const sheet = book.addWorksheet('Keywords');
  sheet.addRow(['Keyword', 'Searches', 'Seen']);
  for (let at = 0; at < 12; at++) sheet.addRow([`crown ${at}`, at * 10, new Date('2026-10-01')]);
  sheet.addRow([{ richText: [{ text: 'a' }, { text: '"b"' }] }, { formula: '1+1', result: 2 }, null]);
  sheet.mergeCells('A1:B1');
  return new Uint8Array((await book.xlsx.writeBuffer()) as ArrayBuffer);
}

const LIMITS = { bytes: 30_000_000, cells: 300_000, ms: 4_000 };

async function readAsBook(bytes: Uint8Array): Promise<void> {
  const book = await openWorkbook(bytes, LIMITS);
  if (!('problem' in book)) for (const at of book.sheets.keys()) readAsList(book.textOf(at));
}

/** All readers. */
export async function readers(): Promise<Reader[]> {
  const lists = [...LISTS.map(bytesOf), ...LISTS.map(utf16)];
  const sheets = [...SHEETS.map(bytesOf), utf16(SHEETS[0] ?? '')];
  const book = await bookBytes();
  const inner = unzipSync(book);
  const archive = zipSync({
    'a/keywords.csv': bytesOf(LISTS[0] ?? ''),
    'b.txt': bytesOf('x'),
    'c.png': bytesOf('y'),
  });
  const decoded = (read: (text: string) => void) => (bytes: Uint8Array) => {
    const text = textOf(bytes);
    if (text !== null) read(text);
  };
  return [
    { name: 'lists', samples: lists, read: decoded(readAsList) },
    { name: 'bulk sheets', samples: sheets, read: decoded(readAsSheet) },
    {
      name: 'workbooks',
      samples: [book],
      read: readAsBook,
      mutate: (mutations) => {
        const name = mutations.pick(Object.keys(inner));
        return zipSync({ ...inner, [name]: mutations.bytes([inner[name] as Uint8Array]) }, { level: 1 });
      },
    },
    { name: 'archives', samples: [book, archive], read: (bytes) => openArchive(bytes, 200, LIMITS) },
    {
      name: 'outlets',
      samples: [bytesOf(JSON.stringify(plainOutlet, null, 1))],
      read: (bytes) => {
        const read = readOutletJson(new TextDecoder().decode(bytes));
        if (read.status === 'problem') keep(read.problems.length > 0, 'refused without a reason');
      },
    },
    { name: 'pasted columns', samples: lists, read: decoded((text) => readPastedColumns(text, true)) },
    { name: 'word lists', samples: lists, read: decoded((text) => readWords(text)) },
    {
      name: 'patterns',
      samples: ['(\\w+) (?<good>hire)$', '^\\s*[a-z]{2,5}?\\b|x*', '(?i:crown)|(a|b)*c', '\\p{L}+[^\\d]'].map(
        bytesOf,
      ),
      read: (bytes) => {
        const find = new TextDecoder().decode(bytes).slice(0, 300);
        const made = rewriter({ ...noRewriting, find, replace: '$1 $& $$', isPattern: true }, english);
        if (made.status === 'ready') for (const text of ['crown cost', 'a'.repeat(400)]) made.rewrite(text);
        else keep(made.words !== '', 'refused without a reason');
      },
    },
  ];
}
