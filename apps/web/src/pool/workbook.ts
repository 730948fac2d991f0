import { SaxesParser, type SaxesTagPlain } from 'saxes';
import { type Limits, Meter, MOST_READ, namesIn, TooMuch, unpackEach } from './archive.ts';

export type WorkbookProblem = 'no-workbook' | 'too-large';
export type Workbook = { sheets: string[]; textOf: (sheet: number) => string };

/** What a spreadsheet itself can hold. */
const MOST_ROWS = 1_048_576;
const MOST_COLUMNS = 16_384;

/**
 * Opens an xlsx file; its sheets are read as tab-separated text, formulas by the value they last had. Cells that are
 * not there cost nothing, wherever the last one stands; sheets without a cell are left out.
 */
export async function openWorkbook(
  bytes: Uint8Array,
  limits: Limits = MOST_READ,
): Promise<Workbook | { problem: WorkbookProblem }> {
  if (!namesIn(bytes)?.some((name) => name.startsWith('xl/'))) return { problem: 'no-workbook' };
  try {
    const meter = new Meter(limits);
    const book = await bookOf(bytes, meter);
    const filled = (await sheetsOf(bytes, book, meter)).filter(({ text }) => text !== '');
    return { sheets: filled.map(({ name }) => name), textOf: (at) => filled[at]?.text ?? '' };
  } catch (error) {
    return { problem: error instanceof TooMuch ? 'too-large' : 'no-workbook' };
  }
}

/** What all sheets of a workbook share. */
type Book = {
  /** The sheets in their order, each with its part's name. */
  sheets: { name: string; part: string }[];
  strings: string[];
  /** By style: whether a number under it is a day. */
  days: boolean[];
  isFrom1904: boolean;
};

async function bookOf(bytes: Uint8Array, meter: Meter): Promise<Book> {
  const sheets: { name: string; link: string }[] = [];
  const parts = new Map<string, string>();
  const strings: string[] = [];
  const formats = new Map<number, string>();
  const days: boolean[] = [];
  let isFrom1904 = false;
  const readers: Record<string, () => XmlReader> = {
    'xl/workbook.xml': () => ({
      open: (tag, value) => {
        if (tag === 'workbookPr') isFrom1904 = /^(1|true)$/.test(value('date1904') ?? '');
        if (tag === 'sheet') sheets.push({ name: value('name') ?? '', link: value('r:id') ?? '' });
      },
    }),
    'xl/_rels/workbook.xml.rels': () => ({
      open: (tag, value) => {
        if (tag === 'Relationship') parts.set(value('Id') ?? '', partOf(value('Target') ?? ''));
      },
    }),
    'xl/sharedStrings.xml': () => {
      const said = new SaidText();
      return {
        open: (tag) => {
          if (tag === 'si') said.clear();
          said.open(tag);
        },
        text: (text) => said.text(text),
        close: (tag) => {
          said.close(tag);
          if (tag !== 'si') return;
          meter.spend(0, 1);
          strings.push(said.said);
        },
      };
    },
    'xl/styles.xml': () => {
      let isOfCells = false;
      return {
        open: (tag, value) => {
          if (tag === 'numFmt') formats.set(Number(value('numFmtId')), value('formatCode') ?? '');
          if (tag === 'cellXfs') isOfCells = true;
          if (tag === 'xf' && isOfCells) days.push(isDay(Number(value('numFmtId')), formats));
        },
        close: (tag) => {
          if (tag === 'cellXfs') isOfCells = false;
        },
      };
    },
  };
  await unpackEach(bytes, (name) => (readers[name] ? xmlTaker(readers[name]()) : null), meter);
  if (sheets.length === 0) throw new Error('no sheets');
  return {
    sheets: sheets.map(({ name, link }) => ({ name, part: parts.get(link) ?? '' })),
    strings,
    days,
    isFrom1904,
  };
}

async function sheetsOf(bytes: Uint8Array, book: Book, meter: Meter) {
  const texts = new Map(book.sheets.map(({ part }) => [part, new SheetText(book, meter)]));
  await unpackEach(
    bytes,
    (name) => {
      const text = texts.get(name);
      return text ? xmlTaker(text) : null;
    },
    meter,
  );
  return book.sheets.map(({ name, part }) => ({ name, text: texts.get(part)?.whole() ?? '' }));
}

const partOf = (target: string): string =>
  target.startsWith('/') ? target.slice(1) : `xl/${target.replace(/^\.\//, '')}`;

type XmlReader = {
  open: (tag: string, value: (attribute: string) => string | undefined) => void;
  text?: (text: string) => void;
  close?: (tag: string) => void;
};

const local = (name: string): string => name.slice(name.indexOf(':') + 1);

/** Reads XML as it is unpacked. What is no sound XML throws. */
function xmlTaker(reader: XmlReader): (data: Uint8Array, isLast: boolean) => void {
  const parser = new SaxesParser();
  const decoder = new TextDecoder();
  parser.on('error', (error) => {
    throw error;
  });
  parser.on('opentag', ({ name, attributes }: SaxesTagPlain) =>
    reader.open(local(name), (attribute) => attributes[attribute]),
  );
  parser.on('closetag', ({ name }) => reader.close?.(local(name)));
  parser.on('text', (text) => reader.text?.(text));
  parser.on('cdata', (text) => reader.text?.(text));
  return (data, isLast) => {
    parser.write(decoder.decode(data, { stream: !isLast }));
    if (isLast) parser.close();
  };
}

/** The text of a shared or an inline string: its runs, without how it is pronounced. */
class SaidText {
  said = '';
  private isText = false;
  private isSpoken = false;

  clear(): void {
    this.said = '';
  }

  open(tag: string): void {
    if (tag === 'rPh') this.isSpoken = true;
    if (tag === 't') this.isText = !this.isSpoken;
  }

  text(text: string): void {
    if (this.isText) this.said += text;
  }

  close(tag: string): void {
    if (tag === 'rPh') this.isSpoken = false;
    if (tag === 't') this.isText = false;
    if (tag === 'si' || tag === 'is') this.said = unescaped(this.said);
  }
}

/** Characters that XML can't hold are written as `_x000A_`. */
const unescaped = (text: string): string =>
  text.includes('_x')
    ? text.replace(/_x([0-9a-f]{4})_/gi, (_, code) => String.fromCharCode(Number.parseInt(code, 16)))
    : text;

/** The cells of one sheet, as they come, as tab-separated text. */
class SheetText implements XmlReader {
  private readonly blocks: string[] = [];
  private block = '';
  /** The row that stands last in the text, from 1. */
  private written = 0;
  private row = 0;
  private column = 0;
  private cells: string[] = [];
  private type = '';
  private style = 0;
  private value = '';
  private isValue = false;
  private readonly inline = new SaidText();

  constructor(
    private readonly book: Book,
    private readonly meter: Meter,
  ) {}

  open(tag: string, value: (attribute: string) => string | undefined): void {
    if (tag === 'row') {
      this.row = value('r') === undefined ? this.row + 1 : Number(value('r'));
      if (!(this.row > this.written && this.row <= MOST_ROWS)) throw new Error('no such row');
      this.cells = [];
      this.column = 0;
    } else if (tag === 'c') {
      const place = value('r');
      this.column = place === undefined ? this.column + 1 : columnOf(place);
      if (!(this.column >= 1 && this.column <= MOST_COLUMNS)) throw new Error('no such column');
      this.type = value('t') ?? 'n';
      this.style = Number(value('s') ?? 0);
      this.value = '';
      this.inline.clear();
    } else if (tag === 'v') this.isValue = true;
    else this.inline.open(tag);
  }

  text(text: string): void {
    if (this.isValue) this.value += text;
    else this.inline.text(text);
  }

  close(tag: string): void {
    this.inline.close(tag);
    if (tag === 'v') this.isValue = false;
    else if (tag === 'c') {
      this.meter.spend(0, 1);
      const text = quoted(this.cellText());
      if (text !== '') this.cells[this.column - 1] = text;
    } else if (tag === 'row') this.writeRow();
  }

  private writeRow() {
    if (this.cells.length === 0) return;
    const gap = this.row - Math.max(1, this.written);
    // The cells between cost a tab each: of many rows with one far to the right they would fill the memory.
    this.meter.spend(this.cells.length + gap);
    this.block += '\n'.repeat(gap) + Array.from(this.cells, (cell) => cell ?? '').join('\t');
    this.written = this.row;
    if (this.block.length > 1_000_000) {
      this.blocks.push(this.block);
      this.block = '';
    }
  }

  whole(): string {
    return this.blocks.join('') + this.block;
  }

  private cellText(): string {
    const { type, value, book } = this;
    if (type === 's') return book.strings[Number(value)] ?? '';
    if (type === 'inlineStr') return this.inline.said;
    if (type === 'str') return unescaped(value);
    if (type === 'b') return value === '1' ? 'true' : 'false';
    if (type === 'd') return value.slice(0, 10);
    if (type === 'e' || value.trim() === '') return '';
    const number = Number(value);
    if (Number.isNaN(number)) return value;
    return book.days[this.style] ? dayOf(number, book.isFrom1904) : String(number);
  }
}

/** `AB12` stands in column 28. */
function columnOf(place: string): number {
  let column = 0;
  for (const letter of /^[A-Z]{1,4}/.exec(place)?.[0] ?? '') column = column * 26 + letter.charCodeAt(0) - 64;
  return column;
}

/** A cell as one would read it on the screen of a spreadsheet, on one line. */
function quoted(cell: string): string {
  const text = cell.replace(/[\t\r\n]+/g, ' ');
  // A quote at the start would be taken for the quoting of tab-separated text.
  return text.includes('"') ? `"${text.replaceAll('"', '""')}"` : text;
}

/** Formats that show a day, by the numbers that every workbook knows. */
const DAY_FORMATS = [
  [14, 17] as const,
  [22, 22] as const,
  [27, 31] as const,
  [36, 36] as const,
  [50, 58] as const,
];

function isDay(format: number, own: ReadonlyMap<number, string>): boolean {
  const code = own.get(format);
  if (code === undefined) return DAY_FORMATS.some(([from, to]) => format >= from && format <= to);
  return /[dy]/i.test(code.replace(/\[[^\]]*\]|"[^"]*"|\\./g, ''));
}

const DAY_MS = 86_400_000;

/** The day of a serial number. The 29th of February 1900, which never was, is counted by all workbooks from 1900. */
function dayOf(serial: number, isFrom1904: boolean): string {
  const beforeThatDay = serial < 60 ? 1 : 0;
  const days = Math.floor(serial) + (isFrom1904 ? 1_462 : beforeThatDay);
  const date = new Date(Date.UTC(1899, 11, 30) + days * DAY_MS);
  return Number.isNaN(date.getTime()) ? String(serial) : date.toISOString().slice(0, 10);
}
