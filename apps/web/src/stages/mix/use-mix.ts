import * as api from '@sprig/contracts';
import type { Recipe, RecipeList } from '@sprig/core/mix';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { toast } from 'sonner';
import { call, untilSaved, wordsOf } from '../../api/call.ts';
import { readChanged } from '../../api/changed.ts';
import { valueAt, withValue } from '../../api/document.ts';
import { planKey } from '../../api/plan.ts';
import { queryClient } from '../../api/query-client.ts';

type Kind = 'recipe' | 'shared';
type Mix = { recipes: api.RecipeRow[]; shared: api.WordList[] };

const mixKey = (plan: number) => [...planKey(plan), 'mix'];

/** The newest edit of each plan that is on its way: what is fetched must know of all that were made before. */
const underWay = new Map<number, Promise<unknown>>();

/** The plan's recipes and the workspace's shared lists. */
export const useMix = (plan: number) =>
  useQuery({
    queryKey: mixKey(plan),
    queryFn: async (): Promise<Mix> => {
      for (;;) {
        const last = underWay.get(plan);
        await last;
        const mix = await call(api.readMix, { params: { plan } });
        if (underWay.get(plan) === last) return mix;
      }
    },
    placeholderData: keepPreviousData,
  });

/** What is cut from a recipe, by text. */
export function useCuts(plan: number, recipe: number | null): string[] {
  const { data } = useQuery({
    queryKey: [...planKey(plan), 'cuts', recipe],
    enabled: recipe !== null,
    queryFn: async () => (await call(api.readCuts, { params: { plan, recipe: recipe ?? 0 } })).cuts,
    placeholderData: (old, query) => (query?.queryKey.at(-1) === recipe ? old : undefined),
  });
  return useMemo(() => data ?? [], [data]);
}

/** Edits recipes and shared lists in place, and does other things to them. */
export function useMixActions(plan: number) {
  const refresh = useCallback(() => readChanged(plan), [plan]);

  /**
   * Shown at once and sent one after another, each with what it replaces, so that nobody writes over what they have
   * not seen. Answers null, or the words of a refusal.
   */
  const editAll = useCallback(
    (kind: Kind, id: number, wanted: readonly { at: string; after: unknown }[]): Promise<string | null> => {
      const kept = queryClient.getQueryData<Mix>(mixKey(plan));
      const document =
        kind === 'recipe'
          ? kept?.recipes.find((row) => row.id === id)?.recipe
          : kept?.shared.find((list) => list.id === id);
      const edits = wanted
        .map(({ at, after }) => ({ at, before: valueAt(document, at), after }))
        .filter(({ before, after }) => JSON.stringify(before) !== JSON.stringify(after));
      if (!kept || !document || edits.length === 0) return Promise.resolve(null);
      const next = edits.reduce((mix, { at, after }) => withEdit(mix, kind, id, at, after), kept);
      queryClient.setQueryData(mixKey(plan), next);
      const sent = (underWay.get(plan) ?? Promise.resolve()).then(() => send(plan, kind, id, edits));
      underWay.set(plan, sent);
      return untilSaved(
        sent.then((refusal) => {
          if (underWay.get(plan) === sent) void refresh();
          return refusal;
        }),
      );
    },
    [plan, refresh],
  );
  const edit = useCallback(
    (kind: Kind, id: number, at: string, after: unknown) => editAll(kind, id, [{ at, after }]),
    [editAll],
  );

  const done = useCallback(
    async <T>(work: () => Promise<T>, words?: (result: T) => string): Promise<T | null> => {
      try {
        const result = await work();
        await refresh();
        if (words) toast(words(result));
        return result;
      } catch (error) {
        toast.error(wordsOf(error));
        return null;
      }
    },
    [refresh],
  );
  /** The text of a list with all that was written here, also what is not drawn yet; null where it has none of its own. */
  const textOf = useCallback(
    (recipe: number, list: RecipeList): string | null => {
      const mix = queryClient.getQueryData<Mix>(mixKey(plan));
      if (list.kind === 'shared') return mix?.shared.find(({ id }) => id === list.list)?.text ?? null;
      const lists = mix?.recipes.find(({ id }) => id === recipe)?.recipe.lists ?? [];
      const own = lists.find(({ id }) => id === list.id);
      return own?.kind === 'own' ? own.text : null;
    },
    [plan],
  );
  return useMemo(() => ({ edit, editAll, done, textOf }), [edit, editAll, done, textOf]);
}

async function send(plan: number, kind: Kind, id: number, edits: api.FieldEdit[]): Promise<string | null> {
  try {
    if (kind === 'recipe') await call(api.editRecipe, { params: { plan, recipe: id }, body: { edits } });
    else await call(api.editWordList, { params: { plan, list: id }, body: { edits } });
    return null;
  } catch (error) {
    return wordsOf(error);
  }
}

function withEdit(mix: Mix, kind: Kind, id: number, at: string, after: unknown): Mix {
  if (kind === 'recipe') {
    const recipes = mix.recipes.map((row) =>
      row.id === id ? { ...row, recipe: withValue<Recipe>(row.recipe, at, after) } : row,
    );
    return { ...mix, recipes };
  }
  return { ...mix, shared: mix.shared.map((list) => (list.id === id ? withValue(list, at, after) : list)) };
}
