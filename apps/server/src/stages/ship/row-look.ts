import { type OutletRow, type RowChange, rowChanges } from '@sprig/contracts';
import { decimalsOf } from '@sprig/core/money';
import { eachKind, type RowKind, rowKinds } from '@sprig/core/outlets';
import { CellMaker, type CellRow, type FieldChange } from '@sprig/core/sheets';
import { z } from 'zod';
import { execute, select } from '../../db/connect.ts';
import { chosenOutlets, shippedTo } from '../../plan/outlets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { KeptFew } from '../../platform/kept-few.ts';
import { pack, unpack } from '../../platform/packing.ts';
import { madeOf } from './check-job.ts';
import { dryShipment } from './dry-shipment.ts';
import { atOneMoment, bringUpToDate } from './moment.ts';

/** Rows in a part: a page is found in one or two of them. */
const PART_ROWS = 500;
/** Where how each row of a kind stands is kept, a byte each. */
const MARKS = -1;
/** Between rows, and between cells: no sheet has them. */
const ROW_GAP = '\u001e';
const CELL_GAP = '\u001f';

type Before = Record<string, Record<string, string>>;
type Body = {
  kinds: Record<RowKind, { counts: Record<RowChange, number>; values: string[]; before: Before }>;
};

/** Looks at every row that an outlet would get, and keeps them so that any of them are found at once. */
export async function rowLookJob(context: JobContext): Promise<{ rows: number }> {
  const { caller } = context;
  const { outlet: key } = z.object({ outlet: z.string() }).parse(context.input);
  await context.phase('building');
  await bringUpToDate(caller);
  return atOneMoment(caller, async (moment) => {
    const { reading, writing } = moment;
    const chosen = await shippedTo(caller, key, reading);
    const { outlet } = chosen;
    const hash = await madeOf(caller, chosen, reading);
    const run = (sql: string, bind: unknown[]) =>
      execute(caller.database, sql, [caller.plan, key, ...bind], { transaction: writing });
    await run('delete from row_look_parts where plan_id = $1 and outlet = $2', []);
    const keep = (kind: RowKind, n: number, data: Buffer) =>
      run(
        'insert into row_look_parts (plan_id, outlet, kind, n, workspace_id, data) values ($1, $2, $3, $4, $5, $6)',
        [kind, n, caller.workspace, data],
      );
    const stores = eachKind((kind) => new RowStore((n, data) => keep(kind, n, data)));
    const { inputs } = await dryShipment(caller, moment, chosen, {
      settle: async (done, total) => {
        await context.progress(`looking at every row for ${outlet.name}`, done, total);
        for (const kind of rowKinds) await stores[kind].settle();
      },
      onSeen: (row, change, fields) => stores[row.kind].add(row, change, fields),
    });
    const { values } = new CellMaker({ outlet, decimals: decimalsOf(inputs.brief.currency) });
    for (const kind of rowKinds) await stores[kind].done();
    const body: Body = {
      kinds: eachKind((kind) => ({
        counts: stores[kind].counts,
        values: [...values[kind]],
        before: stores[kind].before(values[kind]),
      })),
    };
    await run(
      `insert into row_looks (plan_id, outlet, workspace_id, made_of, body) values ($1, $2, $3, $4, $5)
       on conflict (plan_id, outlet) do update set made_of = excluded.made_of, body = excluded.body`,
      [caller.workspace, hash, JSON.stringify(body)],
    );
    return { rows: rowKinds.reduce((sum, kind) => sum + stores[kind].size, 0) };
  });
}

/** The rows of one kind on their way into parts. */
class RowStore {
  size = 0;
  readonly counts: Record<RowChange, number> = { added: 0, changed: 0, removed: 0, same: 0 };
  private marks = new Uint8Array(1_024);
  private readonly changes = new Map<number, readonly FieldChange[]>();
  private rows: string[] = [];
  private readonly full: string[] = [];
  private n = 0;

  constructor(private readonly keep: (n: number, data: Buffer) => Promise<void>) {}

  add(row: CellRow, change: RowChange, fields: readonly FieldChange[]): void {
    if (this.size === this.marks.length) {
      const larger = new Uint8Array(this.size * 2);
      larger.set(this.marks);
      this.marks = larger;
    }
    this.marks[this.size] = rowChanges.indexOf(change);
    if (change === 'changed') this.changes.set(this.size, fields);
    this.counts[change]++;
    this.size++;
    this.rows.push(row.cells.join(CELL_GAP));
    if (this.rows.length === PART_ROWS) this.close();
  }

  private close() {
    this.full.push(this.rows.join(ROW_GAP));
    this.rows = [];
  }

  async settle(): Promise<void> {
    for (const text of this.full.splice(0)) await this.keep(this.n++, await pack(text));
  }

  async done(): Promise<void> {
    if (this.rows.length > 0) this.close();
    await this.settle();
    if (this.size > 0) await this.keep(MARKS, await pack(this.marks.subarray(0, this.size)));
  }

  /** What changed cells said before, by the places of the row and of the cell. */
  before(values: readonly string[]): Before {
    const before: Before = {};
    for (const [row, fields] of this.changes)
      if (fields.length > 0)
        before[row] = Object.fromEntries(fields.map((field) => [values.indexOf(field.value), field.before]));
    return before;
  }
}

/** The stamp of the look that was kept, if it is of the plan as it is now; the plan has to be built up to date. */
async function stampOf(caller: PlanCaller, outlet: string): Promise<number | null> {
  const { database, plan, workspace } = caller;
  const chosen = (await chosenOutlets(caller)).find((one) => one.outlet.key === outlet);
  if (!chosen) return null;
  const [row] = await select<{ stamp: number }>(
    database,
    `select l.made_of as stamp from row_looks l join plans p on p.id = l.plan_id
     where l.plan_id = $1 and l.workspace_id = $2 and l.outlet = $3 and p.built_revision >= p.revision`,
    [plan, workspace, outlet],
  );
  return row && row.stamp === (await madeOf(caller, chosen, null)) ? row.stamp : null;
}

/** What is asked for again as one scrolls: a look, how the rows of a kind stand, and which of them a filter leaves. */
const bodiesKept = new KeptFew<Body>(4);
const marksKept = new KeptFew<Uint8Array>(8);
const filtersKept = new KeptFew<Uint32Array>(8);

const nameOf = ({ workspace, plan }: PlanCaller, outlet: string, stamp: number): string =>
  `${workspace}:${plan}:${outlet}:${stamp}`;

const bodyOf = (caller: PlanCaller, outlet: string, stamp: number): Promise<Body> =>
  bodiesKept.of(nameOf(caller, outlet, stamp), async () => {
    const { database, plan, workspace } = caller;
    const [row] = await select<{ body: Body }>(
      database,
      'select body from row_looks where plan_id = $1 and workspace_id = $2 and outlet = $3 and made_of = $4',
      [plan, workspace, outlet, stamp],
    );
    if (!row) throw changedMeanwhile();
    return row.body;
  });

const changedMeanwhile = () =>
  new SprigFailure('conflict', 'The plan was changed meanwhile: its rows are looked at anew.');

export async function viewRows(caller: PlanCaller, outlet: string) {
  const stamp = await stampOf(caller, outlet);
  if (stamp === null) return { look: null };
  const body = await bodyOf(caller, outlet, stamp);
  const kinds = eachKind((kind) => {
    const { counts, values } = body.kinds[kind];
    return { counts, values };
  });
  return { look: { stamp, kinds } };
}

type Asked = {
  stamp: number;
  kind: RowKind;
  change: RowChange | 'all';
  words: string;
  from: number;
  count: number;
};

/** Rows of a kind that a filter leaves, from a place on. */
export async function pageRows(
  caller: PlanCaller,
  outlet: string,
  { stamp, kind, change, words, from, count }: Asked,
): Promise<{ total: number; rows: OutletRow[] }> {
  if ((await stampOf(caller, outlet)) !== stamp) throw changedMeanwhile();
  const parts = new Parts(caller, outlet, kind, stamp);
  const marks = await parts.marks();
  const asked = words.toLowerCase().split(/\s+/).filter(Boolean);
  const places = change === 'all' && asked.length === 0 ? null : await parts.left(marks, change, asked);
  const total = places ? places.length : marks.length;
  const wanted = Array.from({ length: Math.max(0, Math.min(count, total - from)) }, (_, n) =>
    places ? (places[from + n] as number) : from + n,
  );
  const texts = await parts.rows(wanted);
  const { before } = (await bodyOf(caller, outlet, stamp)).kinds[kind];
  return {
    total,
    rows: wanted.map((row, n) => ({
      at: from + n,
      change: rowChanges[marks[row] as number] as RowChange,
      cells: (texts[n] as string).split(CELL_GAP),
      before: before[row] ?? {},
    })),
  };
}

class Parts {
  private readonly name: string;

  constructor(
    private readonly caller: PlanCaller,
    private readonly outlet: string,
    private readonly kind: RowKind,
    stamp: number,
  ) {
    this.name = `${nameOf(caller, outlet, stamp)}:${kind}`;
  }

  marks(): Promise<Uint8Array> {
    return marksKept.of(this.name, async () => {
      const found = await this.read([MARKS]);
      const data = found.get(MARKS);
      return data ? new Uint8Array(await unpack(data)) : new Uint8Array(0);
    });
  }

  /** The places of the rows that stand so and have all of the words. Each part is read once, some at a time. */
  left(marks: Uint8Array, change: RowChange | 'all', words: readonly string[]): Promise<Uint32Array> {
    return filtersKept.of(`${this.name}:${change}:${words.join(' ')}`, async () => {
      const code = change === 'all' ? -1 : rowChanges.indexOf(change);
      const stands = (row: number) => code < 0 || marks[row] === code;
      const places: number[] = [];
      if (words.length === 0) {
        for (let row = 0; row < marks.length; row++) if (stands(row)) places.push(row);
        return Uint32Array.from(places);
      }
      const all = Array.from({ length: Math.ceil(marks.length / PART_ROWS) }, (_, n) => n);
      for (let at = 0; at < all.length; at += AT_ONCE) {
        const some = all.slice(at, at + AT_ONCE);
        const texts = await this.texts(some);
        for (const n of some) {
          const rows = (texts.get(n) ?? '').toLowerCase().split(ROW_GAP);
          rows.forEach((text, within) => {
            const row = n * PART_ROWS + within;
            if (stands(row) && words.every((word) => text.includes(word))) places.push(row);
          });
        }
      }
      return Uint32Array.from(places);
    });
  }

  /** What rows say, by their places. */
  async rows(places: readonly number[]): Promise<string[]> {
    const texts = await this.texts([...new Set(places.map((row) => Math.floor(row / PART_ROWS)))]);
    const split = new Map([...texts].map(([n, text]) => [n, text.split(ROW_GAP)]));
    return places.map((row) => split.get(Math.floor(row / PART_ROWS))?.[row % PART_ROWS] ?? '');
  }

  private async texts(parts: readonly number[]): Promise<Map<number, string>> {
    const found = await this.read(parts);
    return new Map(
      await Promise.all(
        [...found].map(
          async ([n, data]): Promise<[number, string]> => [n, (await unpack(data)).toString('utf8')],
        ),
      ),
    );
  }

  private async read(parts: readonly number[]): Promise<Map<number, Buffer>> {
    const { database, plan, workspace } = this.caller;
    const found = await select<{ n: number; data: Buffer }>(
      database,
      `select n, data from row_look_parts where plan_id = $1 and workspace_id = $2 and outlet = $3 and kind = $4
         and n = any($5::int[])`,
      [plan, workspace, this.outlet, this.kind, parts],
    );
    return new Map(found.map(({ n, data }) => [n, data]));
  }
}

const AT_ONCE = 64;
