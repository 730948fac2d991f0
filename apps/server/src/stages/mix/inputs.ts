import { factsOf, recipeSchema } from '@sprig/contracts';
import {
  type ListInputs,
  type MixInput,
  type Recipe,
  resolveLists,
  type SharedWords,
  takenFrom,
} from '@sprig/core/mix';
import { keywordLimits } from '@sprig/core/outlets';
import { languagePack } from '@sprig/core/text';
import type { Change } from '../../plan/change/index.ts';
import { chosenOutlets } from '../../plan/outlets.ts';

export type StoredRecipe = { id: number; position: number; source_id: number | null; body: unknown };

/** The plan's recipes in their order, with their bodies parsed. */
export async function recipesOf(
  change: Change,
): Promise<(Omit<StoredRecipe, 'body'> & { recipe: Recipe })[]> {
  const rows = await change.find('recipes', {
    columns: ['id', 'position', 'source_id', 'body'],
    order: ['position', 'id'],
  });
  return rows.map(({ body, ...row }) => ({ ...row, recipe: recipeSchema.parse(body) }));
}

export async function sharedWords(change: Change): Promise<Map<number, SharedWords>> {
  const rows = await change.rows<SharedWords>(
    `select l.id, l.name, l.text, l.takes from word_lists l join plans p on p.workspace_id = l.workspace_id where p.id = $1 order by l.id`,
  );
  return new Map(rows.map((row) => [row.id, row]));
}

/** What recipes of a plan are made with besides themselves. */
export type PlanInputs = {
  lists: ListInputs;
  language: string;
  functionWords: string[] | null;
  /** Of the outlets that the plan ships to. */
  limits: MixInput['limits'];
};

export async function planInputs(change: Change): Promise<PlanInputs> {
  const [row] = await change.rows<{ language: string; body: unknown }>(
    'select b.language, f.body from briefs b join facts f on f.plan_id = b.plan_id where b.plan_id = $1',
  );
  const { places, brands, offers, functionWords } = factsOf(row?.body);
  const shared = await sharedWords(change);
  return {
    lists: { shared, places, brands, offers: offers.map(({ text }) => text) },
    language: row?.language ?? 'en',
    functionWords,
    limits: keywordLimits(
      (await chosenOutlets(change.caller, change.transaction)).map(({ outlet }) => outlet),
    ),
  };
}

export const mixInput = (
  recipe: Recipe,
  { lists, language, functionWords, limits }: PlanInputs,
): MixInput => ({
  recipe,
  lists: resolveLists(recipe.lists, lists),
  pack: languagePack(language, functionWords),
  limits,
});

/** The shared lists that a recipe uses, by themselves or taken in. */
export function sharedUsed(recipe: Recipe, shared: ReadonlyMap<number, SharedWords>): Set<number> {
  const direct = recipe.lists.flatMap((list) =>
    list.kind === 'shared' ? [list.list] : list.kind === 'own' ? list.takes : [],
  );
  return new Set([...direct, ...takenFrom(direct, shared).map(({ id }) => id)]);
}
