import type { Transaction } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import { assertMayStill } from '../../people/standing/index.ts';
import type { Caller, PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { enqueueRebuild } from '../../platform/jobs/enqueue.ts';
import { notify } from '../../platform/jobs/notify.ts';
import { ofDatabase } from '../../platform/of-database.ts';
import { Change, Scratch } from './change.ts';
import { isEmpty, packDiff } from './diff.ts';
import { withName } from './who-changed.ts';

export type ChangeKind = 'edit' | 'undo' | 'redo';

type Options = {
  kind?: ChangeKind;
  undoable?: boolean;
  /** A new revision also where no input of this plan changed: something shared did. */
  always?: boolean;
};

export type Changed<T> = { revision: number; result: T };

/**
 * The way of every write: one transaction, one line in the plan's history, the plan's revision + 1, and a rebuild
 * of what hangs on it. The label says what was done, as one would read it after *Undo*; it may be known only at the
 * end. A change that changes nothing leaves no trace and no new revision.
 */
export async function inChange<T>(
  caller: PlanCaller,
  label: string | ((result: T) => string),
  work: (change: Change) => Promise<T>,
  options: Options = {},
): Promise<Changed<T>> {
  return inPreparedChange(caller, async () => null, label, work, options);
}

/**
 * A change before which much is to be read: `prepare` does so within the transaction, before the plan is locked, so that
 * others can go on editing it.
 */
export async function inPreparedChange<P, T>(
  caller: PlanCaller,
  prepare: (scratch: Scratch) => Promise<P>,
  label: string | ((result: T) => string),
  work: (change: Change, prepared: P) => Promise<T>,
  options: Options = {},
): Promise<Changed<T>> {
  return withPlan(caller, prepare, async (transaction, plan, prepared) => {
    const change = new Change(caller, transaction, plan.revision + 1, plan.next_id);
    const result = await work(change, prepared);
    if (isEmpty(change.diff) && !options.always) return { revision: plan.revision, result };
    await assertMayStill(caller, transaction);
    await close(change, typeof label === 'string' ? label : label(result), options);
    return { revision: change.revision, result };
  }).catch(async (error: unknown) => {
    throw await withName(caller, error);
  });
}

/** Makes a plan, and in the same transaction its first change, which can't be undone: a plan is archived instead. */
export async function inNewPlan(
  caller: Caller,
  label: string,
  work: (change: Change) => Promise<void>,
): Promise<number> {
  return caller.database.transaction(async (transaction) => {
    const [plan] = await select<{ id: number }>(
      caller.database,
      'insert into plans (workspace_id, created_by) values ($1, $2) returning id',
      [caller.workspace, caller.actor],
      { transaction },
    );
    const planCaller = { ...caller, plan: plan?.id ?? 0 };
    const change = new Change(planCaller, transaction, 1, 1);
    await work(change);
    await close(change, label, { undoable: false });
    return planCaller.plan;
  });
}

type LockedPlan = { revision: number; next_id: number };
type InPlan<P, T> = (transaction: Transaction, plan: LockedPlan, prepared: P) => Promise<T>;

/** How long an edit waits for a long job to let the plan go, before it is told to come again. */
const PATIENCE_MS = 1_500;
const LOOK_AGAIN_MS = 40;

/** Somebody else is changing the plan. */
class Locked extends Error {}

/** The edits of a plan that wait in this process, one after another: only the first asks the database. */
const queuesOf = ofDatabase(() => new Map<number, Promise<unknown>>());

/**
 * A transaction that holds the plan's lock. A job waits for it; an edit holds no connection while it waits, and gives up
 * after a moment, so that edits which wait keep nobody else from the database.
 */
async function withPlan<P, T>(
  caller: PlanCaller,
  prepare: (scratch: Scratch) => Promise<P>,
  work: InPlan<P, T>,
): Promise<T> {
  const inside = (isPatient: boolean) =>
    caller.database.transaction(async (transaction) => {
      const prepared = await prepare(new Scratch(caller, transaction));
      return work(transaction, await lockPlan(caller, transaction, isPatient), prepared);
    });
  if (caller.isJob) return inside(true);
  const until = performance.now() + PATIENCE_MS;
  const waiting = queuesOf(caller.database);
  const before = waiting.get(caller.plan) ?? Promise.resolve();
  const turn = patientFor(before, until).then(async () => {
    for (;;) {
      const done = await inside(false).then(
        (value) => ({ value }),
        (error: unknown) => {
          if (!(error instanceof Locked)) throw error;
          return null;
        },
      );
      if (done) return done.value;
      if (performance.now() > until) throw busy();
      await new Promise((go) => setTimeout(go, LOOK_AGAIN_MS));
    }
  });
  const ended = turn.then(
    () => {},
    () => {},
  );
  // Whoever comes behind one that gave up before its turn still waits for those before it.
  const all = Promise.all([before, ended]);
  waiting.set(caller.plan, all);
  void all.then(() => {
    if (waiting.get(caller.plan) === all) waiting.delete(caller.plan);
  });
  return turn;
}

async function patientFor(before: Promise<unknown>, until: number): Promise<void> {
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<'late'>((tell) => {
    timer = setTimeout(() => tell('late'), until - performance.now());
  });
  const how = await Promise.race([before, late]);
  clearTimeout(timer);
  if (how === 'late') throw busy();
}

const busy = () =>
  new SprigFailure(
    'busy',
    'A job is just writing to this plan, such as a list that is taken in. Nothing was changed: try again in a moment.',
  );

async function lockPlan(
  caller: PlanCaller,
  transaction: Transaction,
  isPatient: boolean,
): Promise<LockedPlan> {
  const bind = [caller.plan, caller.workspace];
  const [plan] = await select<LockedPlan>(
    caller.database,
    `select revision, next_id from plans where id = $1 and workspace_id = $2 for no key update${isPatient ? '' : ' skip locked'}`,
    bind,
    { transaction },
  );
  if (plan) return plan;
  const found = await select(
    caller.database,
    'select 1 from plans where id = $1 and workspace_id = $2',
    bind,
    { transaction },
  );
  throw found.length > 0 && !isPatient ? new Locked() : notFound('plan');
}

async function close(change: Change, label: string, { kind = 'edit', undoable = true }: Options) {
  const { caller, transaction, revision, database } = change;
  // What was undone before something else was done is left behind: a redo is not to come back to it.
  await execute(
    database,
    `with left_behind as (
       update changes set undoable = false
       where plan_id = $1 and actor_id = $4 and kind = 'edit' and undone and undoable and $6 = 'edit' and $7),
     moved as (update plans set revision = $2, next_id = greatest(next_id, $9), changed_at = now() where id = $1)
     insert into changes (plan_id, revision, workspace_id, actor_id, label, kind, undoable, diff)
     values ($1, $2, $3, $4, $5, $6, $7, $8)`,
    [
      caller.plan,
      revision,
      caller.workspace,
      caller.actor,
      label,
      kind,
      undoable,
      packDiff(change.diff),
      change.idsTaken,
    ],
    { transaction },
  );
  await enqueueRebuild(caller, transaction);
  await notify(database, transaction, { type: 'revision', plan: caller.plan, revision });
}
