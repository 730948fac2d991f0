import {
  type ReadBack,
  type ReadBackFilter,
  type ReadBackRow,
  readBack as readBackSchema,
  type StagedCampaign,
} from '@sprig/contracts';
import { decimalsOf } from '@sprig/core/money';
import { eachKind, plainOutlet, type RowKind } from '@sprig/core/outlets';
import {
  cellWriter,
  type FieldChange,
  type MergeKind,
  namingValues,
  type SheetRow,
  toldValues,
} from '@sprig/core/sheets';
import type { Transaction } from 'sequelize';
import { select } from '../../../db/connect.ts';
import { removeRows } from '../../../db/rows.ts';
import { currencyOf } from '../../../plan/currency-of.ts';
import type { PlanCaller } from '../../../platform/caller.ts';
import { notFound } from '../../../platform/failure.ts';
import { placeOf } from '../shipment.ts';
import { unpackStaged } from './staged-body.ts';

const PAGE = 200;

type Kept = { id: string; at: Date; revision: number; body: object };

const asView = ({ id, at, revision, body }: Kept): ReadBack =>
  readBackSchema.parse({ ...body, id, at: at.toISOString(), revision });

/** Those of a plan that are not taken in yet. */
const WAITING = `select id, created_at as at, revision, body from read_backs
  where plan_id = $1 and workspace_id = $2 and result is null`;

export async function latestReadBack({ database, plan, workspace }: PlanCaller): Promise<ReadBack | null> {
  const [kept] = await select<Kept>(database, WAITING, [plan, workspace]);
  return kept ? asView(kept) : null;
}

export async function readBackOf(
  { database, plan, workspace }: PlanCaller,
  id: string,
  transaction: Transaction | null = null,
): Promise<ReadBack> {
  const [kept] = await select<Kept>(database, `${WAITING} and id = $3`, [plan, workspace, id], {
    transaction,
  });
  if (!kept) throw notFound('set of sheets any more: read them again');
  return asView(kept);
}

const FILTER = `read_back_id = $1 and ($2::text is null or kind = $2) and ($3::text is null or change = $3)
  and ($4::text is null or campaign = $4)`;

/** Rows that differ, page by page, with how many there are and how many are left out. */
export async function listStaged(
  caller: PlanCaller,
  id: string,
  { kind, change, campaign, from }: ReadBackFilter & { from: number },
): Promise<{ total: number; left: number; rows: ReadBackRow[] }> {
  const { files } = await readBackOf(caller, id);
  const saidBy = sayingOf(decimalsOf(await currencyOf(caller, null)));
  const bind = [id, kind ?? null, change ?? null, campaign ?? null];
  const [counts] = await select<{ total: number; left: number }>(
    caller.database,
    `select count(*)::int as total, (count(*) filter (where not taken))::int as left from read_back_rows where ${FILTER}`,
    bind,
  );
  const rows = await select<{ n: number; kind: RowKind; change: MergeKind; taken: boolean; body: string }>(
    caller.database,
    `select n, kind, change, taken, body from read_back_rows where ${FILTER} order by n limit ${PAGE} offset $5`,
    [...bind, from],
  );
  return {
    total: counts?.total ?? 0,
    left: counts?.left ?? 0,
    rows: rows.map(({ n, change, taken, body }) => {
      const { key, row, fields, sheet, line } = unpackStaged(body, change);
      const file = files[sheet]?.name ?? '';
      const shown = change === 'added' && row ? saidBy(row) : fields;
      return { n, change, taken, ...placeOf(key), fields: [...shown], file, line };
    }),
  };
}

/** What new rows say beside what names them. */
function sayingOf(decimals: number): (row: SheetRow) => FieldChange[] {
  const writerOf = cellWriter({ outlet: plainOutlet, decimals });
  const values = toldValues(plainOutlet);
  const shown = eachKind((kind) =>
    values[kind].flatMap((value) => (namingValues.has(value) ? [] : [{ value, write: writerOf(value) }])),
  );
  return (row) =>
    shown[row.kind].flatMap(({ value, write }) => {
      const after = write(row);
      return after === '' || (value === 'status' && row.status === 'enabled')
        ? []
        : [{ value, before: '', after }];
    });
}

/** Each campaign of which rows differ, with how many of them are taken; '' stands for what is of the whole account. */
export async function stagedCampaigns(caller: PlanCaller, id: string): Promise<StagedCampaign[]> {
  await readBackOf(caller, id);
  return select<StagedCampaign>(
    caller.database,
    `select campaign, count(*)::int as rows, (count(*) filter (where taken))::int as taken from read_back_rows
     where read_back_id = $1 group by campaign order by min(n)`,
    [id],
  );
}

/** Takes rows or leaves them; answers of how many that was another choice. */
export async function chooseStaged(
  caller: PlanCaller,
  id: string,
  { kind, change, campaign, rows, taken }: ReadBackFilter & { rows?: number[] | undefined; taken: boolean },
): Promise<{ chosen: number }> {
  await readBackOf(caller, id);
  const changed = await select<{ n: number }>(
    caller.database,
    `update read_back_rows set taken = $5 where ${FILTER} and ($6::int[] is null or n = any($6)) and taken <> $5 returning n`,
    [id, kind ?? null, change ?? null, campaign ?? null, taken, rows ?? null],
  );
  return { chosen: changed.length };
}

export async function dropReadBack(caller: PlanCaller, id: string): Promise<Record<string, never>> {
  await readBackOf(caller, id);
  await removeRows(caller, 'read_backs', { id });
  return {};
}
