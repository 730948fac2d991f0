import type { SheetFile } from '@sprig/contracts';
import {
  type Outlet,
  type SheetFormat,
  type SheetProfile,
  type SheetRow,
  SheetWriter,
} from '@sprig/core/ship';
import type { Transaction } from 'sequelize';
import type { PlanCaller } from '../../caller.ts';
import { execute } from '../../database/connect.ts';

const PART = 524_288;

/** Keeps one sheet in parts as its rows come, so that memory does not grow with them. */
export class SheetSink {
  private readonly writer: SheetWriter;
  private readonly name: string;
  private text: string;
  private part = 0;
  private rows = 0;
  private bytes = 0;

  constructor(
    private readonly caller: PlanCaller,
    private readonly transaction: Transaction,
    private readonly set: string,
    private readonly profile: SheetProfile,
    outlet: Outlet,
    format: SheetFormat,
    decimals: number,
  ) {
    this.writer = new SheetWriter(profile.columns, format, outlet.file.lineEnding, { outlet, decimals });
    this.name = `${profile.fileName}.${format}`;
    this.text = (outlet.file.byteOrderMark ? '\ufeff' : '') + this.writer.header();
  }

  takes(kind: SheetRow['kind']): boolean {
    return this.profile.kind === 'combined' || this.profile.kind === `${kind}s`;
  }

  async add(row: SheetRow): Promise<void> {
    this.text += this.writer.row(row);
    this.rows++;
    if (this.text.length >= PART) await this.flush();
  }

  async done(): Promise<SheetFile> {
    if (this.text !== '' || this.part === 0) await this.flush();
    return { name: this.name, kind: this.profile.kind, rows: this.rows, bytes: this.bytes };
  }

  private async flush() {
    const data = Buffer.from(this.text, 'utf8');
    this.text = '';
    this.bytes += data.length;
    await execute(
      this.caller.database,
      'insert into sheet_parts (set_id, file, n, data) values ($1, $2, $3, $4)',
      [this.set, this.name, this.part++, data],
      { transaction: this.transaction },
    );
  }
}
