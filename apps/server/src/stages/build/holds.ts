import { type AdText, type HeldValue, type HoldField, heldWords } from '@sprig/contracts';
import { type KeyKind, kindOfKey, labelsOf } from '@sprig/core/build';
import { adFields } from '@sprig/core/write';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { changedMeanwhile, SprigFailure } from '../../platform/failure.ts';

export type HoldRequest = {
  rowKey: string;
  field: HoldField;
  value: string | number;
  before: string | number | null;
};

type StoredHold = { id: number; value: string | number };

const WORDS: Record<string, string> = {
  name: 'Set a name',
  bid: 'Set a bid',
  step: 'Set a bid step',
  status: 'Set a status',
  labels: 'Set labels',
  lead: 'Choose a lead keyword',
  budget: 'Set a daily budget',
  settings: 'Choose a campaign’s settings',
  finalUrl: 'Set a final URL',
  path: 'Set a path of final URLs',
  matching: 'Set how keywords match',
  rotation: 'Set how ads take turns',
  bidPartners: 'Set a bid at partners',
  bidDisplay: 'Set a bid on pages',
};

/** What can be held of each kind of row. */
const FIELDS: Record<KeyKind, readonly HoldField[]> = {
  campaign: ['name', 'budget', 'bid', 'status', 'labels', 'settings', 'path', 'matching'],
  group: ['name', 'bid', 'step', 'status', 'labels', 'lead', 'matching', 'rotation'],
  row: ['bid', 'status', 'labels', 'finalUrl', 'bidPartners', 'bidDisplay'],
  ad: [...adFields, 'finalUrl', 'status', 'labels'],
};
const NUMBERS: ReadonlySet<HoldField> = new Set([
  'bid',
  'step',
  'lead',
  'budget',
  'settings',
  'bidPartners',
  'bidDisplay',
]);

/** Sets a derived value by hand. It stays on top of the rule's until it is let go. */
export function holdValue(caller: PlanCaller, request: HoldRequest): Promise<{ revision: number }> {
  const { rowKey, field, value, before } = request;
  return inChange(caller, WORDS[field] ?? 'Write an ad by hand', async (change) => {
    checkValue(rowKey, field, value);
    await checkNames(change, [[rowKey, field, value]]);
    await checkThere(change, rowKey);
    const [there] = await change.rows<StoredHold>(
      'select id, value from holds where plan_id = $1 and row_key = $2 and field = $3 and outlet is null for update',
      [rowKey, field],
    );
    if ((there?.value ?? null) !== before) throw changedMeanwhile(field, there?.value ?? null);
    if (givesBack(rowKey, field, value))
      return void (await change.remove('holds', there ? [{ id: there.id }] : []));
    if (there) return void (await change.update('holds', [there.id], { value }));
    await change.insert('holds', [
      { id: change.takeIds(1), row_key: rowKey, field, outlet: null, value, rule_value: null },
    ]);
  });
}

const refused = (words: string, at: string) => new SprigFailure('invalid', words, { at });

function checkValue(rowKey: string, field: HoldField, value: string | number) {
  const kind = kindOfKey(rowKey);
  if (!kind || !FIELDS[kind].includes(field)) throw refused('There is no such field.', field);
  if (givesBack(rowKey, field, value)) return;
  if (NUMBERS.has(field) !== (typeof value === 'number')) throw refused('This is not a value for it.', field);
  const words = heldWords(field, value);
  if (words !== null) throw refused(words, field);
}

/** Fields that are given back to the rule by an empty text; so is the final URL of a keyword. */
const GIVEN_BACK: ReadonlySet<HoldField> = new Set([
  'path',
  'matching',
  'rotation',
  'bidPartners',
  'bidDisplay',
]);
const givesBack = (rowKey: string, field: HoldField, value: string | number) =>
  value === '' && (GIVEN_BACK.has(field) || (field === 'finalUrl' && kindOfKey(rowKey) === 'row'));

const TABLES: Record<KeyKind, string> = {
  campaign: 'campaigns',
  group: 'ad_groups',
  row: 'keyword_rows',
  ad: 'ad_groups',
};

async function checkThere(change: Change, rowKey: string) {
  const kind = kindOfKey(rowKey) ?? 'group';
  const rows = await change.rows(
    `select 1 from ${TABLES[kind]} where plan_id = $1 and key = split_part($2, '/', 1) limit 1`,
    [rowKey],
  );
  const what = { campaign: 'campaign', group: 'ad group', row: 'keyword row', ad: 'ad group' }[kind];
  if (rows.length === 0) throw new SprigFailure('not-found', `This ${what} is not there any more.`);
}

/** What is held of a row, by field. */
export type HeldAt = { readonly [field in HoldField]?: string | number };

/** What is held of some rows for all outlets, of these fields. */
export async function heldAt(
  { database, plan, workspace }: PlanCaller,
  keys: readonly string[],
  fields: readonly HoldField[],
): Promise<ReadonlyMap<string, HeldAt>> {
  const rows = await select<{ row_key: string; field: HoldField; value: string | number }>(
    database,
    `select row_key, field, value from holds where plan_id = $1 and workspace_id = $2 and outlet is null
       and row_key = any($3::text[]) and field = any($4::text[])`,
    [plan, workspace, keys, fields],
  );
  const held = new Map<string, HeldAt>();
  for (const { row_key, field, value } of rows) held.set(row_key, { ...held.get(row_key), [field]: value });
  return held;
}

/** Sets one value for a field of many rows; those that have it already are left. */
export async function holdMany(
  caller: PlanCaller,
  rowKeys: readonly string[],
  field: HoldField,
  value: string | number,
): Promise<{ revision: number; held: number }> {
  const label = (held: number) => `${WORDS[field] ?? 'Set a value'} of ${counted(held, 'row')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    for (const rowKey of rowKeys) checkValue(rowKey, field, value);
    return holdAll(
      change,
      [...new Set(rowKeys)].map((rowKey) => ({ rowKey, value })),
      field,
    );
  });
  return { revision, held: result };
}

/**
 * Gives labels to many rows and takes others away. What a row has besides stays, and one that is left with none holds
 * nothing. Answers how many rows have other labels now.
 */
export async function labelMany(
  caller: PlanCaller,
  { rowKeys, add, remove }: { rowKeys: readonly string[]; add: readonly string[]; remove: readonly string[] },
): Promise<{ revision: number; held: number }> {
  const label = (held: number) => `Change labels of ${counted(held, 'row')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const keys = [...new Set(rowKeys)];
    for (const key of keys)
      if (kindOfKey(key) === 'ad') throw refused('Labels of ads are those of their patterns.', 'labels');
    const there = await change.rows<{ id: number; row_key: string; value: string }>(
      `select id, row_key, value from holds where plan_id = $1 and field = 'labels' and outlet is null and row_key = any($2::text[]) for update`,
      [keys],
    );
    const known = new Map(there.map((row) => [row.row_key, row]));
    const gone = new Set(remove);
    const values: { rowKey: string; value: string }[] = [];
    const bare: { id: number }[] = [];
    for (const rowKey of keys) {
      const held = known.get(rowKey);
      const before = labelsOf(held?.value ?? '');
      const after = [...new Set([...before, ...add])].filter((one) => !gone.has(one));
      if (after.join() === before.join()) continue;
      if (after.length > 0) {
        checkValue(rowKey, 'labels', after.join(', '));
        values.push({ rowKey, value: after.join(', ') });
      } else if (held) bare.push({ id: held.id });
    }
    await change.remove('holds', bare);
    return bare.length + (await holdAll(change, values, 'labels'));
  });
  return { revision, held: result };
}

/** Holds values of one field; answers how many differ from what was held. */
export async function holdAll(
  change: Change,
  values: readonly { rowKey: string; value: string | number }[],
  field: HoldField,
): Promise<number> {
  const there = await change.rows<StoredHold & { row_key: string }>(
    'select id, row_key, value from holds where plan_id = $1 and field = $2 and outlet is null and row_key = any($3::text[]) for update',
    [field, values.map(({ rowKey }) => rowKey)],
  );
  const known = new Map(there.map((row) => [row.row_key, row]));
  const gone = values.flatMap(({ rowKey, value }) => {
    const row = known.get(rowKey);
    return row && givesBack(rowKey, field, value) ? [{ id: row.id }] : [];
  });
  await change.remove('holds', gone);
  const kept = values.filter(({ rowKey, value }) => !givesBack(rowKey, field, value));
  const fresh = kept.filter(({ rowKey }) => !known.has(rowKey));
  const first = change.takeIds(fresh.length);
  await change.insert(
    'holds',
    fresh.map(({ rowKey, value }, at) => ({
      id: first + at,
      row_key: rowKey,
      field,
      outlet: null,
      value,
      rule_value: null,
    })),
  );
  const changed = kept.flatMap(({ rowKey, value }) => {
    const row = known.get(rowKey);
    return row && row.value !== value ? [{ id: row.id, value }] : [];
  });
  await change.updateEach('holds', changed, ['value']);
  return gone.length + fresh.length + changed.length;
}

type HeldCell = readonly [key: string, field: HoldField, value: string | number];

/** Texts of many ads, each its own; one that can't be kept refuses them all, and says whose it is. */
export async function holdTexts(
  caller: PlanCaller,
  texts: readonly (readonly [key: string, field: AdText, text: string])[],
): Promise<{ revision: number; held: number }> {
  const label = (held: number) => `Write ${counted(held, 'text')} by hand`;
  const { revision, result } = await inChange(caller, label, (change) => holdCells(change, texts));
  return { revision, held: result };
}

/** Values of many rows, each its own; one that can't be kept refuses them all. */
export async function holdEach(
  caller: PlanCaller,
  values: readonly HeldCell[],
): Promise<{ revision: number; held: number }> {
  const label = (held: number) => `Set ${counted(held, 'value')}`;
  const { revision, result } = await inChange(caller, label, (change) => holdOf(change, values));
  return { revision, held: result };
}

/** The same, within a change; answers how many differ from what was held. */
export async function holdOf(change: Change, values: readonly HeldCell[]): Promise<number> {
  await checkNames(change, values);
  return holdCells(change, values);
}

async function holdCells(change: Change, cells: readonly HeldCell[]): Promise<number> {
  const byField = new Map<HoldField, Map<string, string | number>>();
  for (const [key, field, value] of cells) {
    checkValue(key, field, value);
    byField.set(field, (byField.get(field) ?? new Map()).set(key, value));
  }
  let held = 0;
  for (const [field, values] of byField)
    held += await holdAll(
      change,
      [...values].map(([rowKey, value]) => ({ rowKey, value })),
      field,
    );
  return held;
}

/** New names, told apart from each other and from those that stay: of ad groups within a campaign, of campaigns in the plan. */
async function checkNames(change: Change, cells: readonly HeldCell[]) {
  const names = new Map(
    cells.flatMap(([key, field, value]) => (field === 'name' ? [[key, String(value)]] : [])),
  );
  if (names.size === 0) return;
  const [twin] = await change.rows<{ name: string; isCampaign: boolean; areNew: boolean }>(
    `with given as (select * from unnest($2::text[], $3::text[]) as g(key, name)),
       called as (
         select '' as within, key, coalesce(g.name, c.name) as name, g.key is not null as "isNew"
           from campaigns c left join given g using (key) where plan_id = $1
         union all
         select campaign_key, key, coalesce(g.name, a.name), g.key is not null
           from ad_groups a left join given g using (key) where plan_id = $1
             and campaign_key in (select campaign_key from ad_groups where plan_id = $1 and key = any($2::text[])))
     select min(name) filter (where "isNew") as name, within = '' as "isCampaign", bool_and("isNew") as "areNew"
       from called group by within, lower(name) having count(*) > 1 and bool_or("isNew") limit 1`,
    [[...names.keys()], [...names.values()]],
  );
  if (!twin) return;
  const { name, isCampaign, areNew } = twin;
  throw refused(
    `${
      areNew
        ? `Two ${isCampaign ? 'campaigns' : 'ad groups of one campaign'} would be`
        : `Another ${isCampaign ? 'campaign' : 'ad group of this campaign'} is`
    } called “${name}”. Names are told apart without regard to case.`,
    'name',
  );
}

export function letGo(
  caller: PlanCaller,
  places: readonly { rowKey: string; field: string }[],
): Promise<{ revision: number }> {
  const label = (count: number) => (count === 1 ? 'Let a value go' : `Let ${counted(count, 'value')} go`);
  return inChange(caller, label, async (change) => {
    const found = await change.rows<{ id: number }>(
      `select h.id from holds h join jsonb_to_recordset($2::jsonb) as p("rowKey" text, field text)
         on p."rowKey" = h.row_key and p.field = h.field where h.plan_id = $1`,
      [JSON.stringify(places)],
    );
    return change.remove('holds', found);
  });
}

const KEYWORD_OF = `coalesce(substring(row_key from '^(?:x[0-9]+[.])*k([0-9]+)')::int, 0)`;
const THEME_OF = `coalesce(substring(row_key from '^(?:x[0-9]+[.])*c?t([0-9]+)')::int, 0)`;

export const listHolds = ({ database, workspace, plan }: PlanCaller): Promise<HeldValue[]> =>
  select<HeldValue>(
    database,
    `select h.id, h.row_key as "rowKey", h.field, h.outlet, h.value, coalesce(k.norm, t.body->>'name') as keyword,
       h.keyword_id as "keywordId", coalesce(k.cut, false) as cut,
       not (exists (select from ad_groups g where g.plan_id = h.plan_id and g.key = h.row_key)
         or exists (select from ads a where a.plan_id = h.plan_id and a.key = h.row_key)
         or exists (select from campaigns c where c.plan_id = h.plan_id and c.key = h.row_key)
         or exists (select from keyword_rows r where r.plan_id = h.plan_id and r.key = h.row_key)) as orphan
     from (select *, ${KEYWORD_OF} as keyword_id, ${THEME_OF} as theme_id from holds
       where plan_id = $1 and workspace_id = $2) h
     left join keywords k on k.plan_id = h.plan_id and k.id = h.keyword_id
     left join themes t on t.plan_id = h.plan_id and t.id = h.theme_id
     order by h.id`,
    [plan, workspace],
  );
