import { type Finding, type Outlet, plainOutlet } from '@sprig/core/ship';
import { Transaction } from 'sequelize';
import type { PlanCaller } from '../caller.ts';
import { execute, select } from '../database/connect.ts';
import type { JobContext } from '../jobs/context.ts';
import { enqueueRebuild } from '../jobs/enqueue.ts';
import { notify } from '../jobs/notify.ts';
import { adColumns, Deriving, groupColumns, outletGroupColumns, rowColumns, rowsOf } from './derive.ts';
import { InputReader, type Inputs } from './load-inputs.ts';
import { type Range, replaceRows } from './replace-rows.ts';

/** The outlet that a plan is built for. */
const outlet = plainOutlet;

export type RebuildResult = {
  revision: number;
  groups: number;
  rows: number;
  written: number;
  removed: number;
};

export const rebuildJob = (context: JobContext): Promise<RebuildResult> =>
  rebuild(context.caller, (phase, done, total) => context.phase(phase, done, total));

type Tell = (phase: string, done: number, total: number) => Promise<void>;

/**
 * Brings what is derived up to date: reads the inputs as they stood at one moment, and makes and keeps a page of
 * keywords at a time, so that memory does not grow with the plan. Others see the old rows until all are there, and no
 * change has to wait. If the revision has moved meanwhile another rebuild is queued. Rebuilding twice changes nothing.
 */
export async function rebuild(caller: PlanCaller, tell: Tell = async () => {}): Promise<RebuildResult> {
  await tell('reading', 0, 0);
  return caller.database.transaction(
    { isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ, readOnly: true },
    async (reading) => {
      const reader = new InputReader(caller, reading, outlet.key);
      const inputs = await reader.inputs();
      return caller.database.transaction(async (writing) => {
        // Serialises rebuilds of one plan without keeping its changes waiting.
        await execute(caller.database, 'select pg_advisory_xact_lock($1, $2)', [460_003, caller.plan], {
          transaction: writing,
        });
        return new Rebuild(caller, writing, reader, inputs, tell).run();
      });
    },
  );
}

/** Keywords in memory at once. */
const PAGE = 4_000;
const LAST_POSITION = 2_147_483_647;

class Rebuild {
  private written = 0;
  private removed = 0;

  constructor(
    private readonly caller: PlanCaller,
    private readonly writing: Transaction,
    private readonly reader: InputReader,
    private readonly inputs: Inputs,
    private readonly tell: Tell,
  ) {}

  async run(): Promise<RebuildResult> {
    const { revision, layout } = this.inputs;
    const frame = await this.reader.frame(layout);
    const deriving = new Deriving(this.inputs, frame, outlet);
    if (await this.isBuilt()) return { ...this.counts(deriving), revision };
    const total = frame.ids.length;
    for (let done = 0, after = 0; ; ) {
      await this.tell('building', done, total);
      const keywords = await this.reader.keywords(after, PAGE);
      done += keywords.length;
      const isLast = keywords.length < PAGE;
      const to = isLast ? LAST_POSITION : (keywords.at(-1)?.id ?? after);
      await this.keep(rowsOf(deriving.page(keywords)), { after, to });
      if (isLast) break;
      after = to;
    }
    await keepFindings(this.caller, this.writing, outlet, deriving.findings());
    await this.close();
    return { ...this.counts(deriving), revision };
  }

  private counts({ groups, rows }: Deriving) {
    return { groups, rows, written: this.written, removed: this.removed };
  }

  private async isBuilt(): Promise<boolean> {
    const [plan] = await select<{ built: number }>(
      this.caller.database,
      'select built_revision as built from plans where id = $1',
      [this.caller.plan],
      { transaction: this.writing },
    );
    return !plan || plan.built >= this.inputs.revision;
  }

  private async keep({ groups, rows, outletGroups, ads }: ReturnType<typeof rowsOf>, range: Range) {
    const tables = [
      [{ name: 'ad_groups', outlet: null, columns: groupColumns }, groups],
      [{ name: 'keyword_rows', outlet: null, columns: rowColumns }, rows],
      [{ name: 'outlet_groups', outlet: outlet.key, columns: outletGroupColumns }, outletGroups],
      [{ name: 'ads', outlet: outlet.key, columns: adColumns }, ads],
    ] as const;
    for (const [table, list] of tables) {
      const { written, removed } = await replaceRows(this.caller, this.writing, table, list, range);
      this.written += written;
      this.removed += removed;
    }
  }

  private async close() {
    const { database, plan } = this.caller;
    const { revision } = this.inputs;
    const transaction = this.writing;
    const [now] = await select<{ revision: number }>(
      database,
      'update plans set built_revision = $2 where id = $1 returning revision',
      [plan, revision],
      { transaction },
    );
    if (now && now.revision > revision) await enqueueRebuild(this.caller, transaction);
    await notify(database, transaction, { type: 'built', plan, builtRevision: revision });
  }
}

async function keepFindings(
  caller: PlanCaller,
  transaction: Transaction,
  { key }: Outlet,
  findings: Finding[],
) {
  const { database, plan, workspace } = caller;
  await execute(database, 'delete from findings where plan_id = $1 and outlet = $2', [plan, key], {
    transaction,
  });
  for (const [n, finding] of findings.entries())
    await execute(
      database,
      'insert into findings (plan_id, workspace_id, outlet, n, severity, body) values ($1, $2, $3, $4, $5, $6)',
      [plan, workspace, key, n, finding.severity, JSON.stringify(finding)],
      { transaction },
    );
}
