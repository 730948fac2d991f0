import * as api from '@sprig/contracts';
import type { Recipe, RecipeList } from '@sprig/core/mix';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useCallback, useMemo } from 'react';
import { call, untilSaved, wordsOf } from '../../data/call.ts';
import { readChanged } from '../../data/changed.ts';
import { valueAt, withValue } from '../../data/document.ts';
import { queryClient } from '../../data/query-client.ts';
import { question } from '../../data/question.ts';
import { runChange } from '../../data/run-change.ts';

type Kind = 'recipe' | 'shared';
type Mix = { recipes: api.RecipeRow[]; shared: api.WordList[] };

const mixOf = (plan: number) => question(api.readMix, { params: { plan } });

/** The newest edit of each plan that is on its way: what is fetched must know of all that were made before. */
const underWay = new Map<number, Promise<unknown>>();

/** The plan's recipes and the workspace's shared lists. */
export const useMix = (plan: number) =>
  useQuery({
    ...mixOf(plan),
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

const none: string[] = [];

/** What is cut from a recipe, by text. */
export function useCuts(plan: number, recipe: number | null): string[] {
  const { data } = useQuery({
    ...question(api.readCuts, { params: { plan, recipe: recipe ?? 0 } }),
    enabled: recipe !== null,
    select: ({ cuts }) => cuts,
  });
  return data ?? none;
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
      const kept = queryClient.getQueryData(mixOf(plan).queryKey);
      const document =
        kind === 'recipe'
          ? kept?.recipes.find((row) => row.id === id)?.recipe
          : kept?.shared.find((list) => list.id === id);
      const edits = wanted
        .map(({ at, after }) => ({ at, before: valueAt(document, at), after }))
        .filter(({ before, after }) => JSON.stringify(before) !== JSON.stringify(after));
      if (!kept || !document || edits.length === 0) return Promise.resolve(null);
      const next = edits.reduce((mix, { at, after }) => withEdit(mix, kind, id, at, after), kept);
      queryClient.setQueryData(mixOf(plan).queryKey, next);
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
    <T>(work: () => Promise<T>, words?: (result: T) => string): Promise<T | null> =>
      runChange(plan, work, words),
    [plan],
  );
  /** The text of a list with all that was written here, also what is not drawn yet; null where it has none of its own. */
  const textOf = useCallback(
    (recipe: number, list: RecipeList): string | null => {
      const mix = queryClient.getQueryData(mixOf(plan).queryKey);
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
