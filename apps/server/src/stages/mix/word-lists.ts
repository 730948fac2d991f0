import { type FieldEdit, recipeSchema, type WordList, wordListSchema } from '@sprig/contracts';
import { circleFrom, type Recipe, type SharedWords } from '@sprig/core/mix';
import type { Transaction } from 'sequelize';
import { select } from '../../db/connect.ts';
import { find } from '../../db/rows.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import { applyEdits } from '../../plan/documents.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { followShared } from './follow.ts';
import { sharedUsed, sharedWords } from './inputs.ts';
import { circleFailure } from './recipes.ts';

type Use = { plan: number; name: string; lists: Set<number> };

/** What each recipe of the workspace uses of the shared lists. */
async function usesOf(
  { database, workspace }: Pick<PlanCaller, 'database' | 'workspace'>,
  shared: ReadonlyMap<number, SharedWords>,
  transaction: Transaction | null = null,
): Promise<Use[]> {
  const rows = await select<{ plan: number; body: unknown }>(
    database,
    `select plan_id as plan, body from recipes where workspace_id = $1
       and jsonb_path_exists(body, '$.lists[*] ? (@.kind == "shared" || @.takes.size() > 0)')`,
    [workspace],
    { transaction },
  );
  return rows.map(({ plan, body }) => {
    const recipe = recipeSchema.parse(body);
    return { plan, name: recipe.name, lists: sharedUsed(recipe, shared) };
  });
}

export async function listWordLists(caller: PlanCaller): Promise<WordList[]> {
  const rows = await find(caller, 'word_lists', { columns: ['id', 'name', 'text', 'takes'], order: ['id'] });
  const shared = new Map(rows.map((row) => [row.id, row]));
  const uses = rows.length === 0 ? [] : await usesOf(caller, shared);
  return rows.map(({ id, name, text, takes }) => {
    const used = uses.filter(({ lists }) => lists.has(id));
    return {
      id,
      name,
      text,
      takes: [...takes],
      recipes: used.flatMap((use) => (use.plan === caller.plan ? [use.name] : [])),
      lists: rows.filter((row) => row.takes.includes(id)).map((row) => row.name),
      otherPlans: new Set(used.flatMap(({ plan }) => (plan === caller.plan ? [] : [plan]))).size,
    };
  });
}

type NewList = { name: string; text: string; takes: number[]; from: { recipe: number; list: number } | null };

/** Makes a shared list, in one change with the recipe's list that becomes it. */
export async function makeWordList(
  caller: PlanCaller,
  { name, text, takes, from }: NewList,
): Promise<{ revision: number; id: number }> {
  const { revision, result } = await inChange(caller, `Share the list ${name}`, async (change) => {
    await refuseTwin(change, name, 0);
    const [id = 0] = await change.takeSharedIds(1);
    await assertTakes(change, id, name, takes);
    await change.insert('word_lists', [{ id, name: name.trim(), text, takes }]);
    if (from) await useShared(change, from, id);
    return id;
  });
  return { revision, id: result };
}

/** A list of a recipe becomes the shared one; it says the same, so the pool has nothing to follow. */
async function useShared(change: Change, { recipe, list }: { recipe: number; list: number }, shared: number) {
  const [row] = await change.find('recipes', { columns: ['body'], where: { id: recipe }, lock: true });
  if (!row) throw notFound('recipe');
  const body: Recipe = recipeSchema.parse(row.body);
  if (!body.lists.some((one) => one.id === list)) throw notFound('list');
  const lists = body.lists.map((one) =>
    one.id === list ? { id: list, kind: 'shared' as const, list: shared } : one,
  );
  await change.update('recipes', [recipe], { body: { ...body, lists } });
}

async function refuseTwin(change: Change, name: string, but: number) {
  await change.lockShared();
  const twins = await change.rows(
    `select 1 from word_lists l join plans p on p.workspace_id = l.workspace_id where p.id = $1 and lower(l.name) = lower($2) and l.id <> $3`,
    [name.trim(), but],
  );
  if (twins.length > 0)
    throw new SprigFailure('invalid', `Another shared list is called “${name.trim()}”.`, { at: 'name' });
}

async function assertTakes(change: Change, id: number, name: string, takes: readonly number[]) {
  const shared = await sharedWords(change);
  if (takes.some((one) => one !== id && !shared.has(one))) throw notFound('shared list');
  shared.set(id, { id, name, text: '', takes });
  const circle = circleFrom(takes, shared, [id]);
  if (circle) throw circleFailure(circle);
}

async function wordListOf(change: Change, id: number): Promise<SharedWords> {
  await change.lockShared();
  const list = (await sharedWords(change)).get(id);
  if (!list) throw notFound('shared list');
  return list;
}

/** Edits a shared list once; the pools of all plans that use it follow. */
export async function editWordList(
  caller: PlanCaller,
  id: number,
  edits: readonly FieldEdit[],
): Promise<{ revision: number }> {
  const { revision } = await inChange(
    caller,
    (name: string) => `Change the shared list ${name}`,
    async (change) => {
      const { name, text, takes } = await wordListOf(change, id);
      const next = applyEdits({ name, text, takes: [...takes] }, edits, wordListSchema);
      await refuseTwin(change, next.name, id);
      await assertTakes(change, id, next.name, next.takes);
      await change.update('word_lists', [id], { ...next, name: next.name.trim() });
      if (next.text === text && next.takes.join() === takes.join()) return name;
      await followShared(change, new Set([id]));
      await tellOtherPlans(change, new Set([id]));
      return name;
    },
  );
  return { revision };
}

export const removeWordList = (caller: PlanCaller, id: number): Promise<{ revision: number }> =>
  inChange(
    caller,
    (name: string) => `Remove the shared list ${name}`,
    async (change) => {
      const list = await wordListOf(change, id);
      const shared = await sharedWords(change);
      const used = (await usesOf(caller, shared, change.transaction)).filter(({ lists }) => lists.has(id));
      const takers = [...shared.values()].filter(({ takes }) => takes.includes(id));
      const where = [...used, ...takers].map(({ name }) => `“${name}”`);
      if (where.length > 0)
        throw new SprigFailure('invalid', `It is used in ${where.join(', ')}. Take it out there first.`, {
          at: 'list',
        });
      await change.remove('word_lists', [{ id }]);
      return list.name;
    },
  );

/** Other plans whose recipes use these lists follow them in a change of their own, which is not theirs to undo. */
export async function tellOtherPlans(change: Change, lists: ReadonlySet<number>): Promise<void> {
  const shared = await sharedWords(change);
  const concerned = (await usesOf(change.caller, shared, change.transaction)).filter(
    (use) => use.plan !== change.caller.plan && [...lists].some((list) => use.lists.has(list)),
  );
  const name = [...shared.values()].find(({ id }) => lists.has(id))?.name ?? '';
  for (const plan of new Set(concerned.map((use) => use.plan)))
    await change.tell(plan, {
      what: 'words',
      lists: [...lists],
      label: `The shared list ${name} was changed`,
    });
}
