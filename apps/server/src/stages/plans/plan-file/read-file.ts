import { randomUUID } from 'node:crypto';
import { pipeline, Readable } from 'node:stream';
import { promisify } from 'node:util';
import { gunzip } from 'node:zlib';
import { presentRule } from '@sprig/core/findings';
import { parse } from 'csv-parse';
import { copyInto, copyLine } from '../../../db/copy.ts';
import type { Column } from '../../../db/tables/index.ts';
import { type Change, inNewPlan, refreshQuietly } from '../../../plan/change/index.ts';
import type { Caller } from '../../../platform/caller.ts';
import { codesOf, SprigFailure } from '../../../platform/failure.ts';
import { refreshBlocks } from '../../prune/index.ts';
import { Unpacking, unsound } from './archive.ts';
import { rowSchema } from './cells.ts';
import { SharedWithin } from './shared.ts';
import {
  type FileTable,
  FORMAT,
  formerName,
  type Head,
  headSchema,
  laterColumns,
  pathOf,
  planTables,
  receiptTables,
  sharedTables,
  VERSION,
} from './tables.ts';
import { withLists } from './write-file.ts';

/** The cells as they stood in the file, beside what was read of them. */
const GIVEN = Symbol('given');
type Row = Record<string, unknown> & { [GIVEN]?: Record<string, string | null> };
/** The version from which figures are told apart by where they are from. */
const TOLD_APART = 2;
/** The version from which tables and rules have the names of today. */
const RENAMED = 3;
/** So many rows are kept at once. */
const AT_ONCE = 5_000;
const MOST_HEAD = 100_000;
/** What one part of a receipt may unpack to. */
const MOST_PART = 64_000_000;
const unpacked = promisify(gunzip) as (data: Buffer, options: { maxOutputLength: number }) => Promise<Buffer>;

/** Makes a plan of a file, all of it or nothing. What it shares is looked for in the workspace, and made where it is not there. */
export async function openPlanFile(caller: Caller, bytes: Uint8Array): Promise<number> {
  const archive = new Unpacking(bytes);
  const head = await headOf(archive);
  try {
    return await inNewPlan(caller, 'Open a plan file', async (change) => {
      await new Opening(change, archive, head).open();
      // Figures were not yet told apart by where they are from: they are taken anew from what each source says.
      if (head.version < TOLD_APART)
        await refreshQuietly(change, 'select id from keywords where plan_id = $1');
      change.takeIds(head.nextId - 1);
      await refreshBlocks(change);
    });
  } catch (error) {
    throw told(error);
  }
}

async function headOf(archive: Unpacking) {
  const text = await archive.text('plan.json', MOST_HEAD);
  if (text === null) throw unsound('it has no plan.json. Choose one that was saved by Green Sprig.');
  let body: unknown;
  try {
    body = JSON.parse(text);
  } catch {
    throw unsound('its plan.json is no sound JSON.');
  }
  const { format, version } = (body ?? {}) as { format?: unknown; version?: unknown };
  if (format !== FORMAT) throw unsound('its plan.json is of something else.');
  if (Number(version) > VERSION) throw unsound('it was saved by a newer version. Open it there.');
  const head = headSchema.safeParse(body);
  if (!head.success) {
    const [issue] = head.error.issues;
    throw unsound(`plan.json, ${issue?.path.join('.')}: ${issue?.message}`);
  }
  return head.data;
}

/** What the database refuses of a file is told as what is wrong with the file. */
function told(error: unknown): unknown {
  if (error instanceof SprigFailure) return error;
  const [code = ''] = codesOf(error);
  // Of a constraint, or of a value that is none of its type.
  if (!/^(22|23)/.test(code)) return error;
  const { message } = error as Error;
  return unsound(`what it holds does not fit together (${message}).`);
}

class Opening {
  private readonly shared: SharedWithin;
  private readonly sets = new Map<number, string>();

  constructor(
    private readonly change: Change,
    private readonly archive: Unpacking,
    private readonly head: Head,
  ) {
    this.shared = new SharedWithin(change);
  }

  async open(): Promise<void> {
    await this.change.derive('set local statement_timeout = 0');
    for (const table of sharedTables) await this.shared.take(table.name, await this.all(table));
    for (const table of [...planTables, ...receiptTables])
      await this.each(table, (rows) => this.keep(table, rows));
    const [brief] = await this.change.find('briefs', { columns: ['id'] });
    if (!brief) throw unsound('it has no brief.');
  }

  /** Shared things are few enough to be held at once. */
  private async all(table: FileTable): Promise<Row[]> {
    const all: Row[] = [];
    await this.each(table, async (rows) => {
      all.push(...rows);
      if (all.length > 200_000) throw unsound(`${pathOf(table)} has more rows than a workspace shares.`);
    });
    return all;
  }

  private async each(table: FileTable, take: (rows: Row[]) => Promise<void>): Promise<void> {
    const name = this.head.version < RENAMED ? formerName(table.name) : table.name;
    const path = pathOf({ ...table, name });
    const schema = rowSchema(table);
    let count = 0;
    let waiting: Row[] = [];
    for await (const fields of recordsOf(this.archive.file(path), path, table)) {
      count++;
      for (const column of laterColumns(table.name)) fields[column] ??= null;
      const read = schema.safeParse(fields);
      if (!read.success) {
        const [issue] = read.error.issues;
        throw unsound(`${path}, row ${count}, ${issue?.path.join('.') || 'as a whole'}: ${issue?.message}`);
      }
      waiting.push(Object.assign(read.data, { [GIVEN]: fields }));
      if (waiting.length < AT_ONCE) continue;
      await take(waiting);
      waiting = [];
    }
    if (waiting.length > 0) await take(waiting);
    const expected = this.head.rows[name] ?? 0;
    if (count !== expected) throw unsound(`${path} has ${count} rows, and plan.json says ${expected}.`);
  }

  private async keep({ name, columns }: FileTable, rows: Row[]): Promise<void> {
    const { plan, workspace, actor } = this.change.caller;
    const kept: Column[] = columns.flatMap(({ name: column, type }): Column[] =>
      column === 'set' ? [] : [{ name: column, type: type === 'bytea' || type === 'jsonb' ? 'text' : type }],
    );
    const extra: Column[] = [];
    const also = (column: string, type: Column['type'], value: unknown) => {
      extra.push({ name: column, type });
      for (const row of rows) row[column] = typeof value === 'function' ? value(row) : value;
    };
    if (!['outlet_states'].includes(name)) also('workspace_id', 'int4', workspace);
    if (!['outlet_states', 'refused_rows'].includes(name)) also('plan_id', 'int4', plan);
    if (['sources', 'sheet_sets', 'report_imports'].includes(name)) also('actor_id', 'int4', actor);
    if (name === 'keywords') also('changed_revision', 'int4', this.change.revision);
    if (name === 'sheet_sets') also('id', 'text', (row: Row) => this.idOf(row));
    if (name === 'outlet_states' || name === 'refused_rows')
      also('set_id', 'text', (row: Row) => this.setOf(row));
    for (const row of rows) {
      this.translate(name, row);
      for (const { name: column, type } of columns)
        if (type === 'bytea') row[column] = await soundBytes(row[column]);
        else if (type === 'jsonb')
          row[column] = row[GIVEN]?.[column] === null ? null : JSON.stringify(row[column]);
    }
    const all = [...kept, ...extra];
    const lines = rows.map((row) =>
      copyLine(
        all,
        all.map((column) => row[column.name]),
      ),
    );
    await copyInto(
      this.change.transaction,
      name,
      all.map((column) => column.name),
      lines,
    );
  }

  /** Numbers and keys of what is shared, as they are in this workspace. */
  private translate(table: string, row: Row): void {
    if ('outlet' in row && row.outlet !== null) row.outlet = this.shared.outlet(String(row.outlet));
    if (table === 'accepted_findings') row.rule = presentRule(String(row.rule));
    // Settings of another workspace are the plan's own here.
    if (table === 'setting_sets') row.body = { ...(row.body as object), shared: null };
    if (table === 'attached_lists') row.list_id = this.shared.list(Number(row.list_id));
    if (table === 'recipes') row.body = withLists(row.body, (id) => this.shared.words(id));
  }

  private idOf(row: Row): string {
    const id = randomUUID();
    this.sets.set(Number(row.set), id);
    return id;
  }

  private setOf(row: Row): string {
    const id = this.sets.get(Number(row.set));
    if (!id) throw unsound(`it speaks of a set of sheets (${row.set}) that it does not have.`);
    return id;
  }
}

/** Packed bytes as the database takes them; they have to unpack, and to no more than they may. */
async function soundBytes(value: unknown): Promise<string> {
  const bytes = Buffer.from(String(value), 'base64');
  try {
    await unpacked(bytes, { maxOutputLength: MOST_PART });
  } catch {
    throw unsound('packed rows of a receipt do not unpack.');
  }
  return `\\x${bytes.toString('hex')}`;
}

async function* recordsOf(
  pieces: AsyncIterable<Uint8Array>,
  path: string,
  { name: table, columns }: FileTable,
): AsyncGenerator<Record<string, string | null>> {
  const known = columns.map(({ name }) => name);
  const later = laterColumns(table);
  const parser = pipeline(
    Readable.from(pieces),
    parse({
      max_record_size: 20_000_000,
      columns: (heading: string[]) => {
        const strange = heading.find((name) => !known.includes(name));
        if (strange !== undefined) throw new Error(`it has a column “${strange}” that is not known here`);
        const missing = known.find((name) => !heading.includes(name) && !later.includes(name));
        if (missing !== undefined) throw new Error(`it has no column “${missing}”`);
        return heading;
      },
      // Nothing between two commas is no value; an empty text has quotes.
      cast: (value, { quoting, header }) => (header || quoting || value !== '' ? value : null),
    }),
    // What goes wrong on the way is thrown where the records are read.
    () => {},
  );
  try {
    yield* parser as AsyncIterable<Record<string, string | null>>;
  } catch (error) {
    throw error instanceof SprigFailure ? error : unsound(`${path}: ${(error as Error).message}.`);
  }
}
