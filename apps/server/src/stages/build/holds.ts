import type { HeldValue } from '@sprig/contracts';
import type { PlanCaller } from '../../caller.ts';
import { type Change, inChange } from '../../change/index.ts';
import { select } from '../../database/connect.ts';
import { changedMeanwhile, SprigFailure } from '../../failure.ts';

export type HoldRequest = {
  rowKey: string;
  field: string;
  value: string | number;
  before: string | number | null;
};

type StoredHold = { id: number; value: string | number };

const WORDS: Record<string, string> = { name: 'Name an ad group', bid: 'Set a bid' };

/** Sets a derived value by hand. It stays on top of the rule's until it is let go. */
export function holdValue(
  caller: PlanCaller,
  { rowKey, field, value, before }: HoldRequest,
): Promise<{ revision: number }> {
  return inChange(caller, WORDS[field] ?? 'Write an ad by hand', async (change) => {
    await checkValue(change, rowKey, field, value);
    const [there] = await change.rows<StoredHold>(
      'select id, value from holds where plan_id = $1 and row_key = $2 and field = $3 and outlet is null for update',
      [rowKey, field],
    );
    if ((there?.value ?? null) !== before) throw changedMeanwhile(field, there?.value ?? null);
    if (there) return void (await change.update('holds', [there.id], { value }));
    const rule = await ruleValue(change, rowKey, field);
    await change.insert('holds', [
      { id: change.takeIds(1), row_key: rowKey, field, outlet: null, value, rule_value: rule },
    ]);
  });
}

async function checkValue(change: Change, rowKey: string, field: string, value: string | number) {
  const isBid = field === 'bid';
  if (isBid !== (typeof value === 'number'))
    throw new SprigFailure('invalid', 'This is not a value for it.', { at: field });
  if (isBid && value === 0)
    throw new SprigFailure(
      'invalid',
      'A bid has to be more than nothing. To stop bidding, cut the keyword.',
      { at: field },
    );
  const onGroup = !/[:/]/.test(rowKey);
  const fits = rowKey.includes('/')
    ? field !== 'name' && field !== 'bid'
    : isBid || (onGroup && field === 'name');
  if (!fits) throw new SprigFailure('invalid', 'There is no such field.', { at: field });
  if (field !== 'name') return;
  if (String(value).trim() === '')
    throw new SprigFailure('invalid', 'An ad group needs a name.', { at: 'name' });
  const twins = await change.rows<{ key: string }>(
    'select key from ad_groups where plan_id = $1 and lower(name) = lower($2) and key <> $3 limit 1',
    [value, rowKey],
  );
  if (twins.length > 0)
    throw new SprigFailure(
      'invalid',
      `Another ad group is called “${value}”. Names are told apart without regard to case.`,
      { at: 'name' },
    );
}

const KEYWORD_OF = `substring(row_key from '^k([0-9]+)')::int`;

async function ruleValue(change: Change, rowKey: string, field: string): Promise<string | number | null> {
  const group = rowKey.replace(/[:/].*$/, '');
  const [row] = await change.rows<{
    name: string;
    base: number;
    covered: Record<string, string | number> | null;
  }>('select name, base, covered from ad_groups where plan_id = $1 and key = $2', [group]);
  if (!row) throw new SprigFailure('not-found', 'This ad group is not there any more.');
  if (rowKey !== group) return null;
  return row.covered?.[field] ?? (field === 'name' ? row.name : row.base);
}

export function letGo(
  caller: PlanCaller,
  places: readonly { rowKey: string; field: string }[],
): Promise<{ revision: number }> {
  const label = (count: number) =>
    count === 1 ? 'Let a value go' : `Let ${count.toLocaleString('en')} values go`;
  return inChange(caller, label, async (change) => {
    const found = await change.rows<{ id: number }>(
      `select h.id from holds h join jsonb_to_recordset($2::jsonb) as p("rowKey" text, field text)
         on p."rowKey" = h.row_key and p.field = h.field where h.plan_id = $1`,
      [JSON.stringify(places)],
    );
    return change.remove('holds', found);
  });
}

export const listHolds = ({ database, workspace, plan }: PlanCaller): Promise<HeldValue[]> =>
  select<HeldValue>(
    database,
    `select h.id, h.row_key as "rowKey", h.field, h.outlet, h.value, k.norm as keyword, h.keyword_id as "keywordId",
       coalesce(k.cut, false) as cut,
       not (exists (select from ad_groups g where g.plan_id = h.plan_id and g.key in (h.row_key, split_part(h.row_key, '/', 1)))
         or exists (select from keyword_rows r where r.plan_id = h.plan_id and r.key = h.row_key)) as orphan
     from (select *, ${KEYWORD_OF} as keyword_id from holds where plan_id = $1 and workspace_id = $2) h
     left join keywords k on k.plan_id = h.plan_id and k.id = h.keyword_id
     order by h.id`,
    [plan, workspace],
  );
