import { MOST_OWN } from '@sprig/contracts';
import type { OwnKeywords } from '@sprig/core/build';
import { normalise } from '@sprig/core/text';
import { type Change, inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
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

type CopyBody = { name: string; ads: boolean; own?: OwnKeywords | null };

/** Lets a copied ad group have keywords of its own, or follow the first again; answers how many it has of its own. */
export async function editCopy(
  caller: PlanCaller,
  { key, own }: { key: string; own: 'as-is' | string[] | null },
): Promise<{ revision: number; keywords: number }> {
  const label = own === null ? 'Let a copy follow again' : 'Give a copy keywords of its own';
  const { revision, result } = await inChange(caller, label, async (change) => {
    const id = Number(/^x(\d+)\./.exec(key)?.[1] ?? 0);
    const [copy] = await change.rows<{ of: string; body: CopyBody }>(
      'select of, body from copies where plan_id = $1 and id = $2 for update',
      [id],
    );
    if (!copy || `x${id}.${copy.of}` !== key)
      throw new SprigFailure('not-found', 'This is no copy of an ad group.', { at: 'key' });
    const { own: before, ...body } = copy.body;
    if (own === null) {
      await change.update('copies', [id], { body });
      return 0;
    }
    const [there] = await change.rows<{ campaign: string }>(
      'select campaign_key as campaign from ad_groups where plan_id = $1 and key = $2',
      [key],
    );
    const campaign = there?.campaign ?? before?.campaign;
    if (campaign === undefined)
      throw new SprigFailure('not-found', 'The copy is being built. Try again in a moment.', { at: 'key' });
    const keywords = own === 'as-is' ? await builtIn(change, key) : await pooled(change, own);
    if (keywords.length === 0)
      throw new SprigFailure('invalid', 'It needs a keyword at least. To have none, take the copy away.', {
        at: 'own',
      });
    await change.update('copies', [id], { body: { ...body, own: { keywords, campaign } } });
    return keywords.length;
  });
  return { revision, keywords: result };
}

async function builtIn(change: Change, key: string): Promise<number[]> {
  const rows = await change.rows<{ id: number }>(
    'select distinct keyword_id as id from keyword_rows where plan_id = $1 and group_key = $2 order by id',
    [key],
  );
  if (rows.length > MOST_OWN)
    throw new SprigFailure('invalid', `A copy has up to ${counted(MOST_OWN, 'keyword')} of its own.`, {
      at: 'own',
    });
  return rows.map(({ id }) => id);
}

/** Keywords of the pool that are in, by their texts; those that are not are told. */
async function pooled(change: Change, texts: readonly string[]): Promise<number[]> {
  const norms = [...new Set(texts.map((text) => normalise(text)).filter((norm) => norm !== ''))];
  const rows = await change.rows<{ id: number; norm: string }>(
    `select id, norm from keywords where plan_id = $1 and norm = any($2::text[])
     and not cut and folded_into is null and blocked_by is null order by id`,
    [norms],
  );
  const known = new Set(rows.map(({ norm }) => norm));
  const unknown = norms.filter((norm) => !known.has(norm));
  if (unknown.length > 0)
    throw new SprigFailure(
      'invalid',
      `${counted(unknown.length, 'keyword')} not in the pool, such as “${unknown.slice(0, 3).join('”, “')}”. Take them in first.`,
      { at: 'own' },
    );
  return rows.map(({ id }) => id);
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
