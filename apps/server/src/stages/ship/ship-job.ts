import { type SheetFile, type ShipResult, shipBody } from '@sprig/contracts';
import type { Outlet } from '@sprig/core/outlets';
import { toldValues } from '@sprig/core/sheets';
import { execute } from '../../db/connect.ts';
import { type ChosenOutlet, shippedTo } from '../../plan/outlets.ts';
import { counted } from '../../platform/counted.ts';
import { SprigFailure } from '../../platform/failure.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { notify } from '../../platform/jobs/notify.ts';
import { unaccepted } from '../write/index.ts';
import { ensureCheck } from './check-job.ts';
import { FileStore } from './file-store.ts';
import { blockersOf, refuse } from './findings.ts';
import { knownSet, stateStore } from './known-set.ts';
import { atOneMoment, bringUpToDate, budgetChangesLeft, type Moment } from './moment.ts';
import { PartOfPlan } from './part-of-plan.ts';
import { PlanRows } from './plan-rows.ts';
import { lastSet } from './receipts.ts';
import { Shipment, type Shipped, setHash } from './shipment.ts';
import { ShippedAds } from './shipped-ads.ts';

/** Sheet sets of an outlet whose sheets are kept to be fetched again; of older ones the receipt stays. */
const KEPT = 20;

/** Writes the sheets of a plan for one outlet at one moment of the database; all of them are kept, or none. */
export async function shipJob(context: JobContext): Promise<ShipResult> {
  const { caller } = context;
  const input = shipBody.parse(context.input);
  await bringUpToDate(caller);
  return atOneMoment(caller, async (moment) => {
    const chosen = await shippedTo(caller, input.outlet, moment.reading);
    return new SheetSetWriter(context, moment, chosen, input).write();
  });
}

type Input = ReturnType<typeof shipBody.parse>;

class SheetSetWriter {
  private readonly stores = new Map<string, FileStore>();
  private writing: Promise<void> = Promise.resolve();

  constructor(
    private readonly context: JobContext,
    private readonly moment: Moment,
    private readonly chosen: ChosenOutlet,
    private readonly input: Input,
  ) {}

  async write(): Promise<ShipResult> {
    const { caller, id } = this.context;
    const { outlet } = this.chosen;
    const { format, what, note } = this.input;
    if (!outlet.file.formats.includes(format))
      throw new SprigFailure('invalid', `${outlet.name} takes no ${format} files.`, { at: 'format' });
    const sheets = outlet.sheets.filter(({ kind }) => this.input.sheets.includes(kind));
    if (sheets.length === 0)
      throw new SprigFailure('invalid', `${outlet.name} has no such sheet.`, { at: 'sheets' });
    await this.refuseBlocked();
    const { part } = this.input;
    const plan = new PlanRows(caller, this.moment.reading, outlet, part && new PartOfPlan(part));
    const inputs = await plan.open({ inputs: await this.moment.inputs() });
    if (takesAds(sheets, part)) await this.refuseUnaccepted(plan.groupKeys);
    const last = await lastSet(caller, outlet.key, this.moment.reading);
    const known = await knownSet(caller, last, toldValues(outlet), this.moment);
    // Run again after a crash it begins anew.
    await this.run('delete from sheet_sets where id = $1', [id]);
    const state = stateStore(id, (sql, bind) => this.inTurn(sql, bind));
    const ads = new ShippedAds(caller, this.moment.writing, outlet.key);
    const shipment = new Shipment(
      plan,
      this.chosen,
      inputs.brief.currency,
      known,
      last?.id ?? null,
      await budgetChangesLeft(caller, outlet, this.moment.reading),
      {
        format,
        sheets,
        what,
        sink: (file, text) => this.storeOf(file).add(text),
        keepState: (packed) => state.add(packed),
        settle: async (done, total) => {
          await this.context.progress('writing sheets', done, total);
          await state.settle();
          await ads.settle();
          for (const store of this.stores.values()) await store.settle();
        },
        onGroup: ({ head, ads: rows, written }) =>
          ads.add(
            head.key,
            rows,
            written.map(({ key }) => key),
          ),
      },
    );
    const shipped = await shipment.run();
    refuseNotCarried(shipped, outlet);
    await state.done();
    await ads.settle(true);
    const files = await this.finish(shipped.files);
    const kept = files.map(({ hash, ...file }) => file);
    const { added, changed, removed, same } = shipped.difference;
    await this.run(
      `insert into sheet_sets (id, workspace_id, plan_id, actor_id, outlet, revision, n, what, format, note, profile, hash, counts, files,
         budget_changes, part, told)
       select $1, $2, $3, $4, $5, $6, coalesce(max(n), 0) + 1, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16
       from sheet_sets where plan_id = $3 and outlet = $5`,
      [
        id,
        caller.workspace,
        caller.plan,
        caller.actor,
        outlet.key,
        inputs.revision,
        what,
        format,
        note,
        JSON.stringify(outlet),
        setHash(files),
        JSON.stringify({ added, changed, removed, same }),
        JSON.stringify(kept),
        shipped.budgetChanges,
        part && JSON.stringify(plan.partTold),
        JSON.stringify(toldValues(outlet)),
      ],
    );
    await plan.keepPlaces(this.moment.writing);
    await plan.keepNames(this.moment.writing);
    await this.forgetOld();
    await notify(caller.database, this.moment.writing, { type: 'shipped', plan: caller.plan });
    return { sheetSet: id, revision: inputs.revision, files: kept };
  }

  private async refuseBlocked() {
    const { caller } = this.context;
    const { outlet } = this.chosen;
    const { findings } = await ensureCheck(caller, this.chosen, this.moment, (done, total) =>
      this.context.progress('looking through the plan', done, total),
    );
    const blockers = await blockersOf(caller, outlet.key, findings, this.moment.reading);
    refuse(blockers, outlet.name);
  }

  /** Ads of these ad groups that nobody has accepted don't ship, where the workspace asks for that. */
  private async refuseUnaccepted(groups: ReadonlySet<string>) {
    const waiting = (await unaccepted(this.context.caller, this.moment.reading)).filter(({ key }) =>
      groups.has(key),
    );
    const [first] = waiting;
    if (!first) return;
    const others = waiting.length > 1 ? ` and ${counted(waiting.length - 1, 'other ad group')}` : '';
    throw new SprigFailure(
      'blocked',
      `The ads of ${first.name}${others} are not accepted as they are now. Have them looked at first: nothing was written.`,
    );
  }

  private storeOf(file: string): FileStore {
    const there = this.stores.get(file);
    if (there) return there;
    const store = new FileStore(this.chosen.outlet.file, this.input.format, (n, data) =>
      this.keepPart(file, n, data),
    );
    this.stores.set(file, store);
    return store;
  }

  private async finish(files: Shipped['files']): Promise<(SheetFile & { hash: string })[]> {
    const done: (SheetFile & { hash: string })[] = [];
    for (const file of files) {
      const store = this.storeOf(file.name);
      const hash = await store.done();
      done.push({ ...file, bytes: store.bytes, hash });
    }
    return done;
  }

  private keepPart(file: string, n: number, data: Buffer): Promise<void> {
    return this.inTurn('insert into sheet_parts (set_id, file, n, data) values ($1, $2, $3, $4)', [
      this.context.id,
      file,
      n,
      data,
    ]);
  }

  /** Parts of several files are packed at once, but a transaction takes one write after another. */
  private inTurn(sql: string, bind: unknown[]): Promise<void> {
    const done = this.writing.then(() => this.run(sql, bind));
    this.writing = done.catch(() => {});
    return done;
  }

  private forgetOld(): Promise<void> {
    return this.run(
      `delete from sheet_parts where set_id in (select id from sheet_sets where plan_id = $1 and outlet = $2 order by n desc offset ${KEPT})`,
      [this.context.caller.plan, this.chosen.outlet.key],
    );
  }

  private run(sql: string, bind: unknown[]): Promise<void> {
    return execute(this.context.caller.database, sql, bind, { transaction: this.moment.writing });
  }
}

/** Whether ads are among what is written. */
const takesAds = (sheets: Outlet['sheets'], part: Input['part']): boolean =>
  sheets.some(({ kind }) => kind === 'ads' || kind === 'combined') &&
  (part === null || part.kinds.includes('ad'));

function refuseNotCarried({ notCarried }: Shipped, { name, file }: Outlet) {
  const [first] = notCarried;
  if (!first) return;
  throw new SprigFailure(
    'blocked',
    `${name} reads ${file.encoding}, which has no “${first.character}”: ${first.file}, row ${first.row}: ${first.text.slice(0, 120)}. Nothing was written.`,
  );
}
