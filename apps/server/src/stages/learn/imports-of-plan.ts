import type { ReportAccount } from '@sprig/contracts';
import { type GrainOnHand, readGrain, type Time, timeKey } from '@sprig/core/learn';
import type { Transaction } from 'sequelize';
import { find } from '../../db/rows.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { type ImportBody, importBody, timesOf } from './bodies.ts';

export type StoredImport = {
  id: number;
  name: string;
  madeAt: Date | string;
  actor: number;
  account: ReportAccount;
  body: ImportBody;
};

/** What was taken in of reports, in the order in which it came. */
export async function importsOf(
  caller: PlanCaller,
  transaction: Transaction | null = null,
): Promise<StoredImport[]> {
  const rows = await find(
    caller,
    'report_imports',
    { columns: ['id', 'name', 'made_at', 'actor_id', 'outlet', 'body'], order: ['id'] },
    transaction,
  );
  return rows.map(({ id, name, made_at, actor_id, outlet, body: kept }) => {
    const body = importBody.parse(kept);
    return { id, name, madeAt: made_at, actor: actor_id, account: { outlet, ...body.account }, body };
  });
}

export const ofSeries = (imports: readonly StoredImport[], series: string): StoredImport[] =>
  imports.filter(({ body }) => body.series === series);

/** What is told of one account by one grain: of each campaign the times that imports speak for. */
export function onHandOf(imports: readonly StoredImport[]): GrainOnHand | null {
  const grain = readGrain(imports[0]?.body.grain ?? '');
  if (!grain) return null;
  const campaigns = new Set(imports.flatMap(({ body }) => body.campaigns ?? []));
  const times = new Map<string, Map<string, Time>>([...campaigns].map((name) => [name, new Map()]));
  for (const { body } of imports)
    for (const time of timesOf(body.times))
      for (const campaign of body.campaigns ?? campaigns) times.get(campaign)?.set(timeKey(time), time);
  return { grain, times: new Map([...times].map(([name, own]) => [name, [...own.values()]])) };
}
