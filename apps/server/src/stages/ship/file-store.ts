import { createHash } from 'node:crypto';
import type { Outlet, SheetFormat } from '@sprig/core/outlets';
import { BYTE_ORDER_MARKS, encodeText, SHEET_PART, workbookParts } from '@sprig/core/sheets';
import { Zip, ZipDeflate } from 'fflate';
import { pack } from '../../platform/packing.ts';
import { Prefetch } from '../../platform/prefetch.ts';
import { ZIP_TIME } from '../../platform/zip-files.ts';

const PART = 524_288;
/** So many characters become bytes at once: strings that wait longer are moved about in memory. */
const PIECE = 8_192;
const SLAB = 262_144;

/** Keeps one packed part of a file. */
export type KeepPart = (n: number, data: Buffer) => Promise<void>;

/**
 * Keeps a file in parts as its text comes, so that memory does not grow with it: encoded as the outlet wants it, or as
 * the one sheet of a workbook. Call `settle` between pages; parts are packed and kept while the next page is made.
 */
export class FileStore {
  bytes = 0;
  private text: string;
  private readonly piece: number;
  private slab = Buffer.alloc(0);
  private slabAt = 0;
  private readonly ready: Uint8Array[] = [];
  private weight = 0;
  private n = 0;
  private readonly hash = createHash('sha256');
  private readonly keeping = new Prefetch();
  private readonly workbook: Workbook | null;

  constructor(
    private readonly file: Pick<Outlet['file'], 'encoding' | 'byteOrderMark'>,
    format: SheetFormat,
    private readonly keep: KeepPart,
    /** Whether anybody asks for the file's hash. */
    private readonly isHashed = true,
  ) {
    this.text = '';
    this.piece = format === 'xlsx' ? PART : PIECE;
    this.workbook = format === 'xlsx' ? new Workbook((bytes) => this.take(bytes)) : null;
    if (format !== 'xlsx' && file.byteOrderMark) this.take(Uint8Array.from(BYTE_ORDER_MARKS[file.encoding]));
  }

  add(text: string): void {
    this.text += text;
    if (this.text.length >= this.piece) this.encode();
  }

  /** Waits for what is being kept, and begins to keep what is there: all that was added, where it is enough for a part. */
  async settle(): Promise<void> {
    if (this.weight < PART) return;
    this.encode();
    await this.keeping.next(() => this.flush());
  }

  /** The file's hash. */
  async done(): Promise<string> {
    this.encode();
    this.workbook?.end();
    await this.keeping.ended;
    if (this.weight > 0 || this.n === 0) await this.flush();
    return this.hash.digest('hex');
  }

  private encode() {
    if (this.text === '') return;
    const { text } = this;
    this.text = '';
    if (this.workbook) this.workbook.add(Buffer.from(text, 'utf8'));
    else this.take(this.encoded(text));
  }

  private encoded(text: string): Uint8Array {
    const { encoding } = this.file;
    if (encoding === 'utf-16le') return this.written(text, 'utf16le', 2);
    return encodeText(text, encoding, (whole) => this.written(whole, 'utf8', 3));
  }

  /** `most`: bytes that a character may take. */
  private written(text: string, encoding: 'utf8' | 'utf16le', most: number): Uint8Array {
    if (this.slab.length - this.slabAt < text.length * most) {
      this.slab = Buffer.allocUnsafeSlow(Math.max(SLAB, text.length * most));
      this.slabAt = 0;
    }
    const start = this.slabAt;
    this.slabAt += this.slab.write(text, start, encoding);
    return this.slab.subarray(start, this.slabAt);
  }

  private take(bytes: Uint8Array) {
    if (bytes.length === 0) return;
    if (this.isHashed) this.hash.update(bytes);
    this.bytes += bytes.length;
    this.weight += bytes.length;
    this.ready.push(bytes);
  }

  private async flush(): Promise<void> {
    const data = Buffer.concat(this.ready.splice(0));
    this.weight = 0;
    const n = this.n++;
    await this.keep(n, await pack(data));
  }
}

/** A workbook of one sheet, packed as its rows come. */
class Workbook {
  private readonly zip: Zip;
  private readonly sheet: ZipDeflate;

  constructor(take: (bytes: Uint8Array) => void) {
    this.zip = new Zip((error, bytes) => {
      if (error) throw error;
      take(bytes);
    });
    for (const [name, text] of workbookParts) this.entry(name).push(Buffer.from(text, 'utf8'), true);
    this.sheet = this.entry(SHEET_PART);
  }

  private entry(name: string): ZipDeflate {
    const entry = new ZipDeflate(name, { level: 4 });
    entry.mtime = ZIP_TIME;
    this.zip.add(entry);
    return entry;
  }

  add(bytes: Uint8Array) {
    this.sheet.push(bytes, false);
  }

  end() {
    this.sheet.push(new Uint8Array(), true);
    this.zip.end();
  }
}
