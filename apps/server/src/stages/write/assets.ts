import { type AssetView, MOST_ASSETS } from '@sprig/contracts';
import { campaignKeyPattern, groupKeyPattern } from '@sprig/core/build';
import { type AssetBody, anyAssetLimits, checkAsset, readPhone } from '@sprig/core/write';
import { select } from '../../db/connect.ts';
import { inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';

export const listAssets = ({ database, workspace, plan }: PlanCaller): Promise<AssetView[]> =>
  select<AssetView>(
    database,
    'select id, at, body from assets where plan_id = $1 and workspace_id = $2 order by id',
    [plan, workspace],
  );

const WORDS = { sitelink: 'a sitelink', callout: 'a callout', phone: 'a phone number' };

/** As it is kept: without loose spaces, a phone number as it ships. */
function sound(body: AssetBody): AssetBody {
  const [problem] = checkAsset(body, anyAssetLimits);
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
      throw new SprigFailure('invalid', 'There is no such place for an asset.', { at: 'at' });
  return [...new Set(at)];
}

export async function makeAsset(
  caller: PlanCaller,
  at: readonly string[],
  body: AssetBody,
): Promise<{ revision: number; id: number }> {
  const { revision, result } = await inChange(caller, `Make ${WORDS[body.kind]}`, async (change) => {
    const [there] = await change.rows<{ count: number }>(
      'select count(*)::int as count from assets where plan_id = $1',
    );
    if ((there?.count ?? 0) >= MOST_ASSETS)
      throw new SprigFailure('invalid', `A plan has up to ${MOST_ASSETS} assets. Remove one first.`, {
        at: 'body',
      });
    const id = change.takeIds(1);
    await change.insert('assets', [{ id, at: places(at), body: sound(body) }]);
    return id;
  });
  return { revision, id: result };
}

export const changeAsset = (caller: PlanCaller, id: number, at: readonly string[], body: AssetBody) =>
  inChange(caller, `Change ${WORDS[body.kind]}`, async (change) => {
    const rows = await change.find('assets', { columns: ['id'], where: { id }, lock: true });
    if (rows.length === 0) throw notFound('asset');
    await change.update('assets', [id], { at: places(at), body: sound(body) });
  });

export const removeAsset = (caller: PlanCaller, id: number) =>
  inChange(caller, 'Remove an asset', async (change) => {
    if ((await change.remove('assets', [{ id }])) === 0) throw notFound('asset');
  });
