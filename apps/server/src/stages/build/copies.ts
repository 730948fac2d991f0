import { inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';

/** Makes a campaign or an ad group once more. The copy follows the first, under keys of its own. */
export async function copyBuilt(
  caller: PlanCaller,
  { of, name, ads }: { of: string; name: string; ads: boolean },
): Promise<{ revision: number; key: string }> {
  const { revision, result } = await inChange(caller, `Copy ${name}`, async (change) => {
    const [there] = await change.rows<{ name: string }>(
      `select name from campaigns where plan_id = $1 and key = $2
       union all select name from ad_groups where plan_id = $1 and key = $2`,
      [of],
    );
    if (!there) throw new SprigFailure('not-found', 'What is to be copied is not there any more.');
    const id = change.takeIds(1);
    await change.insert('copies', [{ id, of, body: { name: name.trim() || there.name, ads } }]);
    return `x${id}.${of}`;
  });
  return { revision, key: result };
}

/** Takes a copy away, with all that was set by hand in it. */
export const removeCopy = (caller: PlanCaller, key: string): Promise<{ revision: number }> =>
  inChange(caller, 'Take a copy away', async (change) => {
    const id = Number(/^x(\d+)\./.exec(key)?.[1] ?? 0);
    const removed = await change.remove('copies', [{ id }]);
    if (removed === 0) throw new SprigFailure('not-found', 'This is no copy.');
    const held = await change.rows<{ id: number }>(
      `select id from holds where plan_id = $1 and row_key ~ $2`,
      [`(^|[.])x${id}[.]`],
    );
    await change.remove('holds', held);
    const negatives = await change.rows<{ id: number }>(
      `select id from placed_negatives where plan_id = $1 and place ~ $2`,
      [`(^|[.])x${id}[.]`],
    );
    await change.remove('placed_negatives', negatives);
  });
