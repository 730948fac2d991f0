import { type ExtraView, MOST_EXTRAS, MOST_PLACES } from '@sprig/contracts';
import { campaignKeyPattern, groupKeyPattern, type Status } from '@sprig/core/build';
import { anyExtraLimits, checkExtra, type ExtraBody, readPhone } from '@sprig/core/write';
import { select } from '../../db/connect.ts';
import { inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';

export const listExtras = ({ database, workspace, plan }: PlanCaller): Promise<ExtraView[]> =>
  select<ExtraView>(
    database,
    `select id, at, body, coalesce(outlets, '{}') as outlets, coalesce(status, 'enabled') as status from extras where plan_id = $1 and workspace_id = $2 order by id`,
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
  { at, body, outlets, status }: Omit<ExtraView, 'id'>,
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
    await change.insert('extras', [{ id, at: places(at), body: sound(body), outlets: [...outlets], status }]);
    return id;
  });
  return { revision, id: result };
}

export const changeExtra = (
  caller: PlanCaller,
  id: number,
  {
    at,
    body,
    outlets,
    status,
  }: {
    at: readonly string[];
    body: ExtraBody;
    outlets?: string[] | undefined;
    status?: Status | undefined;
  },
) =>
  inChange(caller, `Change ${WORDS[body.kind]}`, async (change) => {
    const rows = await change.find('extras', { columns: ['id'], where: { id }, lock: true });
    if (rows.length === 0) throw notFound('extra');
    await change.update('extras', [id], {
      at: places(at),
      body: sound(body),
      ...(outlets && { outlets }),
      ...(status && { status }),
    });
  });

/** Shows extras at places and takes others away from them; answers how many extras changed. */
export async function placeExtras(
  caller: PlanCaller,
  {
    places: asked,
    give,
    take,
  }: { places: readonly string[]; give: readonly number[]; take: readonly number[] },
): Promise<{ revision: number; changed: number }> {
  const at = places(asked);
  const label = (changed: number) =>
    `Change where ${counted(changed, 'extra')} ${changed === 1 ? 'is' : 'are'} shown`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const rows = await change.find('extras', {
      columns: ['id', 'at'],
      where: { id: [...give, ...take] },
      lock: true,
    });
    if (rows.length < new Set([...give, ...take]).size) throw notFound('extra any more');
    const taken = new Set(at);
    const next = rows.map((row) => ({
      id: row.id,
      at: give.includes(row.id) ? [...new Set([...row.at, ...at])] : row.at.filter((key) => !taken.has(key)),
    }));
    if (next.some((row) => row.at.length > MOST_PLACES))
      throw new SprigFailure(
        'invalid',
        `An extra is shown at up to ${MOST_PLACES.toLocaleString('en')} places. Show it for the plan or for campaigns instead.`,
        { at: 'places' },
      );
    return change.updateEach('extras', next, ['at']);
  });
  return { revision, changed: result };
}

export const removeExtra = (caller: PlanCaller, id: number) =>
  inChange(caller, 'Remove an extra', async (change) => {
    if ((await change.remove('extras', [{ id }])) === 0) throw notFound('extra');
  });
