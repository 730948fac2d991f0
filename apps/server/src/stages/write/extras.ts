import { type ExtraView, MOST_EXTRAS } from '@sprig/contracts';
import { campaignKeyPattern, groupKeyPattern } from '@sprig/core/build';
import { anyExtraLimits, checkExtra, type ExtraBody, readPhone } from '@sprig/core/write';
import { select } from '../../db/connect.ts';
import { inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';

export const listExtras = ({ database, workspace, plan }: PlanCaller): Promise<ExtraView[]> =>
  select<ExtraView>(
    database,
    'select id, at, body from extras where plan_id = $1 and workspace_id = $2 order by id',
    [plan, workspace],
  );

const WORDS = { sitelink: 'a sitelink', callout: 'a callout', phone: 'a phone number' };

/** As it is kept: without loose spaces, a phone number as it ships. */
function sound(body: ExtraBody): ExtraBody {
  const [problem] = checkExtra(body, anyExtraLimits);
  if (problem) throw new SprigFailure('invalid', problem.words, { at: `body.${problem.field}` });
  switch (body.kind) {
    case 'sitelink':
      return {
        ...body,
        text: body.text.trim(),
        line1: body.line1.trim(),
        line2: body.line2.trim(),
        address: body.address.trim(),
      };
    case 'callout':
      return { ...body, text: body.text.trim() };
    case 'phone': {
      const read = readPhone(body.number);
      return { ...body, number: 'number' in read ? read.number : body.number };
    }
  }
}

function places(at: readonly string[]): string[] {
  for (const key of at)
    if (key !== 'plan' && !campaignKeyPattern.test(key) && !groupKeyPattern.test(key))
      throw new SprigFailure('invalid', 'There is no such place for an extra.', { at: 'at' });
  return [...new Set(at)];
}

export async function makeExtra(
  caller: PlanCaller,
  at: readonly string[],
  body: ExtraBody,
): Promise<{ revision: number; id: number }> {
  const { revision, result } = await inChange(caller, `Make ${WORDS[body.kind]}`, async (change) => {
    const [there] = await change.rows<{ count: number }>(
      'select count(*)::int as count from extras where plan_id = $1',
    );
    if ((there?.count ?? 0) >= MOST_EXTRAS)
      throw new SprigFailure('invalid', `A plan has up to ${MOST_EXTRAS} extras. Remove one first.`, {
        at: 'body',
      });
    const id = change.takeIds(1);
    await change.insert('extras', [{ id, at: places(at), body: sound(body) }]);
    return id;
  });
  return { revision, id: result };
}

export const changeExtra = (caller: PlanCaller, id: number, at: readonly string[], body: ExtraBody) =>
  inChange(caller, `Change ${WORDS[body.kind]}`, async (change) => {
    const rows = await change.find('extras', { columns: ['id'], where: { id }, lock: true });
    if (rows.length === 0) throw notFound('extra');
    await change.update('extras', [id], { at: places(at), body: sound(body) });
  });

export const removeExtra = (caller: PlanCaller, id: number) =>
  inChange(caller, 'Remove an extra', async (change) => {
    if ((await change.remove('extras', [{ id }])) === 0) throw notFound('extra');
  });
