import {
  addressRuleSchema,
  adPatternSchema,
  type FieldEdit,
  MOST_PATTERNS,
  patternFrom,
} from '@sprig/contracts';
import type { NumberedPattern } from '@sprig/core/ads';
import { type AddressRule, type AdPattern, isAdField, readSite } from '@sprig/core/write';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { addressRuleFrom, patternsOf } from '../../plan/ad-inputs.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { applyEdits } from '../../plan/documents.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';

export async function readPatterns({
  database,
  workspace,
  plan,
}: PlanCaller): Promise<{ patterns: NumberedPattern[]; address: AddressRule }> {
  const [rule] = await select<{ body: unknown }>(
    database,
    'select a.body from plans p left join address_rules a on a.plan_id = p.id where p.id = $1 and p.workspace_id = $2',
    [plan, workspace],
  );
  if (!rule) throw notFound('plan');
  return {
    patterns: await patternsOf((sql) => select(database, sql, [plan])),
    address: addressRuleFrom(rule.body),
  };
}

const patternsIn = (change: Change) => patternsOf((sql) => change.rows(sql));

export async function makePattern(
  caller: PlanCaller,
  body: AdPattern,
  behind: number | null,
): Promise<{ revision: number; id: number }> {
  const { revision, result } = await inChange(caller, `Make the pattern ${body.name}`, async (change) => {
    const there = await patternsIn(change);
    if (there.length >= MOST_PATTERNS)
      throw new SprigFailure('invalid', `A plan has up to ${MOST_PATTERNS} patterns. Remove one first.`, {
        at: 'body',
      });
    const id = change.takeIds(1);
    const at = behind === null ? there.length : there.findIndex((one) => one.id === behind) + 1;
    await change.insert('ad_patterns', [{ id, position: at, body }]);
    await setOrder(change, [
      ...there.slice(0, at).map((one) => one.id),
      id,
      ...there.slice(at).map((one) => one.id),
    ]);
    return id;
  });
  return { revision, id: result };
}

const setOrder = (change: Change, ids: readonly number[]) =>
  change.updateEach(
    'ad_patterns',
    ids.map((id, position) => ({ id, position })),
    ['position'],
  );

const PARTS: Record<string, string> = {
  name: 'Rename a pattern',
  form: 'Change an ad’s form',
  status: 'Set a pattern’s status',
  labels: 'Label a pattern’s ads',
  groups: 'Choose a pattern’s ad groups',
  outlets: 'Choose a pattern’s outlets',
  split: 'Change a split test',
};

/** `headline1` as `headline 1`. */
const fieldWords = (field: string): string =>
  field === 'finalUrl' ? 'the final URL' : field.replace(/(\d+)$/, ' $1');

function labelOf(edits: readonly FieldEdit[]): string {
  const [part = '', field = ''] = (edits[0]?.at ?? '').split('.');
  return PARTS[part] ?? (isAdField(field) ? `Write ${fieldWords(field)}` : 'Write an ad');
}

export const editPattern = (caller: PlanCaller, id: number, edits: readonly FieldEdit[]) =>
  inChange(caller, labelOf(edits), async (change) => {
    const [row] = await change.find('ad_patterns', { columns: ['body'], where: { id }, lock: true });
    if (!row) throw notFound('pattern');
    const body = applyEdits(patternFrom(row.body), edits, adPatternSchema as z.ZodType<AdPattern>);
    await change.update('ad_patterns', [id], { body });
  });

export const removePattern = (caller: PlanCaller, id: number) =>
  inChange(caller, 'Remove a pattern', async (change) => {
    if ((await change.remove('ad_patterns', [{ id }])) === 0) throw notFound('pattern');
  });

export const orderPatterns = (caller: PlanCaller, ids: readonly number[]) =>
  inChange(caller, 'Order the patterns', async (change) => {
    const there = await patternsIn(change);
    const known = new Set(there.map(({ id }) => id));
    const named = [...new Set(ids)].filter((id) => known.has(id));
    const others = there.map(({ id }) => id).filter((id) => !named.includes(id));
    await setOrder(change, [...named, ...others]);
  });

export const editAddressRule = (caller: PlanCaller, edits: readonly FieldEdit[]) =>
  inChange(caller, 'Change the final URLs', async (change) => {
    const [row] = await change.rows<{ body: unknown }>(
      'select body from address_rules where plan_id = $1 and id = 1 for update',
    );
    const rule = addressRuleFrom(row?.body);
    const body = applyEdits(rule, edits, addressRuleSchema as z.ZodType<AddressRule>);
    checkBase(body);
    if (row) await change.update('address_rules', [1], { body });
    else await change.insert('address_rules', [{ id: 1, body }]);
  });

/** A base without tokens can be told at once. */
function checkBase({ base, mobile }: AddressRule) {
  for (const [at, typed] of Object.entries({ base, mobile })) {
    if (typed.includes('@') || (at === 'mobile' && typed.trim() === '')) continue;
    const read = readSite(typed);
    if (read.status === 'problem')
      throw new SprigFailure(
        'invalid',
        'This is no web address. Write @site, or one like https://site.example.',
        {
          at,
        },
      );
  }
}
