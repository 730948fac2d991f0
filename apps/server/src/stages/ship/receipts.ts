import { type PartTold, type Receipt, receipt as receiptSchema, sheetFile } from '@sprig/contracts';
import type { Outlet } from '@sprig/core/outlets';
import type { ToldValues } from '@sprig/core/sheets';
import type { Transaction } from 'sequelize';
import { z } from 'zod';
import { execute, select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { notify } from '../../platform/jobs/notify.ts';
import { hasStandIn } from './stand-in.ts';

export type SetRow = {
  id: string;
  n: number;
  outlet: string;
  at: Date;
  by: string;
  revision: number;
  what: 'all' | 'difference';
  part: PartTold | null;
  format: Receipt['format'];
  note: string;
  hash: string;
  state: Receipt['state'];
  profile: Outlet;
  told: ToldValues | null;
  counts: unknown;
  files: unknown;
  answer: unknown;
};

const SETS = `select s.id, s.n, s.outlet, s.created_at as at, a.name as by, s.revision, s.what, s.part, s.format, s.note, s.hash, s.state,
  s.profile, s.told, s.counts, s.files, s.answer from sheet_sets s join actors a on a.id = s.actor_id
  where s.plan_id = $1 and s.workspace_id = $2`;

const asReceipt = ({ at, profile, told: _, ...row }: SetRow): Receipt =>
  receiptSchema.parse({
    ...row,
    at: at.toISOString(),
    outletName: profile.name,
    zipped: profile.file.zipped,
    standIn: hasStandIn(row.outlet),
  });

/** A plan's receipts, the latest first. */
export async function listReceipts({ database, plan, workspace }: PlanCaller): Promise<Receipt[]> {
  const rows = await select<SetRow>(database, `${SETS} order by s.created_at desc, s.n desc`, [
    plan,
    workspace,
  ]);
  return rows.map(asReceipt);
}

export async function setOf(
  { database, plan, workspace }: PlanCaller,
  set: string,
  transaction: Transaction | null = null,
): Promise<SetRow> {
  const [row] = await select<SetRow>(database, `${SETS} and s.id = $3`, [plan, workspace, set], {
    transaction,
  });
  if (!row) throw notFound('sheet set any more: write the sheets again');
  return row;
}

export const filesOfSet = ({ files }: SetRow) => z.array(sheetFile).parse(files);

/** `judged`: how often something became of it. */
export type LastSet = { id: string; profile: Outlet; told: ToldValues | null; judged: number };

/** The last set of an outlet that was not withdrawn, before the one with number `before` where that is given. */
export async function lastSet(
  { database, plan, workspace }: PlanCaller,
  outlet: string,
  transaction: Transaction | null,
  before: number | null = null,
): Promise<LastSet | null> {
  const [row] = await select<LastSet>(
    database,
    `select id, profile, told, judged from sheet_sets where plan_id = $1 and workspace_id = $2 and outlet = $3 and state <> 'withdrawn'
       and ($4::int is null or n < $4) order by n desc limit 1`,
    [plan, workspace, outlet, before],
    { transaction },
  );
  return row ?? null;
}

/** Only the latest set of an outlet can be judged: later ones stand on what it left there. */
export async function assertLatest(
  caller: PlanCaller,
  { id, outlet }: SetRow,
  transaction: Transaction,
): Promise<void> {
  const last = await lastSet(caller, outlet, transaction);
  if (last?.id !== id)
    throw new SprigFailure(
      'conflict',
      'A later set of this outlet stands on this one, or it was withdrawn. Only the latest one can be judged.',
    );
}

/** Marks a set as taken as a whole, or as never handed in, or notes something on it. */
export async function markReceipt(
  caller: PlanCaller,
  set: string,
  { state, note }: { state?: 'accepted' | 'withdrawn' | undefined; note?: string | undefined },
): Promise<Receipt> {
  return caller.database.transaction(async (transaction) => {
    const row = await setOf(caller, set, transaction);
    if (state) await assertLatest(caller, row, transaction);
    await execute(
      caller.database,
      `update sheet_sets set state = coalesce($2, state), note = coalesce($3, note), judged = judged + ($2::text is not null)::int
       where id = $1`,
      [set, state ?? null, note ?? null],
      { transaction },
    );
    await notify(caller.database, transaction, { type: 'shipped', plan: caller.plan });
    return asReceipt(await setOf(caller, set, transaction));
  });
}
