import type { Brief } from '@sprig/contracts';
import type { BuildKeyword, Hold, Layout } from '@sprig/core/build';
import type { AdPattern } from '@sprig/core/write';
import type { Transaction } from 'sequelize';
import type { PlanCaller } from '../caller.ts';
import { select } from '../database/connect.ts';
import { notFound } from '../failure.ts';

/** Everything that groups, rows and ads are made of, as it stood at one revision. */
export type Inputs = {
  revision: number;
  brief: Omit<Brief, 'archived'>;
  layout: Layout;
  pattern: AdPattern;
  keywords: (BuildKeyword & { searches: number | null })[];
  holds: Hold[];
  /** The campaign part each group stood in at the outlet, before. */
  partsBefore: Map<string, number>;
};

/** Reads the inputs within a transaction that sees one moment of the database. */
export async function loadInputs(
  caller: PlanCaller,
  transaction: Transaction,
  outlet: string,
): Promise<Inputs> {
  const rows = <T extends object>(sql: string, bind: unknown[] = []) =>
    select<T>(caller.database, sql, [caller.plan, ...bind], { transaction });
  const [head] = await rows<
    Omit<Brief, 'archived'> & { revision: number; layout: Layout; pattern: AdPattern }
  >(
    `select p.revision, b.name, b.currency, b.language, b.site, l.body as layout, a.body as pattern
     from plans p join briefs b on b.plan_id = p.id join layouts l on l.plan_id = p.id join ad_patterns a on a.plan_id = p.id
     where p.id = $1`,
  );
  if (!head) throw notFound('plan');
  const keywords = await rows<Inputs['keywords'][number]>(
    'select id, text, norm, asked, marks, cpc, searches from keywords where plan_id = $1 and not cut order by id',
  );
  const holds = await rows<Hold>(
    'select row_key as "rowKey", field, outlet, value from holds where plan_id = $1 order by id',
  );
  const parts = await rows<{ key: string; part: number }>(
    'select key, part from outlet_groups where plan_id = $1 and outlet = $2',
    [outlet],
  );
  const { revision, layout, pattern, ...brief } = head;
  const partsBefore = new Map(parts.map(({ key, part }) => [key, part]));
  return { revision, brief, layout, pattern, keywords, holds, partsBefore };
}
