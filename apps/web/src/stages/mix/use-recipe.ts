import * as api from '@sprig/contracts';
import { emptyRecipe } from '@sprig/core/mix';
import { useMemo, useState } from 'react';
import { useAddress } from '../../kit/address.ts';
import { useStamp } from '../../kit/use-stamp.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { useKeywordLimits } from '../../plan/use-outlets.ts';
import { useSort } from '../../plan/use-sort-data.ts';
import type { MixQuestion } from '../../pool/mixing.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';
import { useCounts } from './use-counts.ts';
import { type Draft, useDrafted } from './use-drafted.ts';
import { useFigures } from './use-figures.ts';
import { useCuts, useMix } from './use-mix.ts';
import { usePoolLists } from './use-pool-lists.ts';

const noRecipe = emptyRecipe('');
const noFacts = api.noFacts();

export type ChosenRecipe = ReturnType<typeof useRecipe>;

/** The recipe that is worked on, as it is typed, and what it makes. */
export function useRecipe(plan: api.PlanState) {
  const pool = usePool();
  const { data: mix } = useMix(plan.id);
  const { data: sort } = useSort(plan.id);
  const facts = useFacts(plan.id).value ?? noFacts;
  const [params, setParams] = useAddress();
  const [draft, setDraft] = useState<Draft>(null);
  const recipes = mix?.recipes ?? [];
  const wanted = Number(params.get('recipe'));
  const row = recipes.find(({ id }) => id === wanted) ?? recipes[0];
  const id = row?.id ?? null;
  const cuts = useCuts(plan.id, id);
  const { recipe, shared } = useDrafted(row?.recipe ?? noRecipe, mix?.shared ?? [], draft);
  const inputs = useMemo(
    () => ({
      shared: new Map(shared.map((list) => [list.id, list])),
      places: facts.places,
      brands: facts.brands,
      offers: facts.offers.map(({ text }) => text),
    }),
    [shared, facts],
  );
  const limits = useKeywordLimits(plan.id);
  const counts = useCounts(recipe, inputs);
  const question = useMemo<MixQuestion>(
    () => ({
      recipe,
      source: row?.source ?? null,
      shared: [...inputs.shared.values()].map(({ id: one, name, text, takes }) => ({
        id: one,
        name,
        text,
        takes,
      })),
      places: inputs.places,
      brands: inputs.brands,
      offers: inputs.offers,
      language: plan.brief.language,
      functionWords: facts.functionWords,
      cuts,
      limits,
      assumptions: facts.assumptions,
    }),
    [recipe, row?.source, inputs, plan.brief.language, facts.functionWords, facts.assumptions, cuts, limits],
  );
  const stamp = `${useStamp(question)}:${pool.figures}`;
  const { data: summary, error } = useWorked(() => pool.worker.mix(question), `mix ${stamp}`);
  const { figures, looks, error: figuresError } = useFigures(pool.worker, summary);
  const poolLists = usePoolLists(plan, facts, pool, row !== undefined && row !== null);
  return {
    /** Undefined until they are there. */
    mix,
    themes: sort?.themes ?? noThemes,
    facts,
    pool,
    poolLists,
    recipes,
    row,
    id,
    recipe,
    shared,
    counts,
    summary,
    figures,
    /** Changes with what is worked out of it. */
    stamp: `${stamp}:${looks}`,
    trouble: error ?? figuresError,
    setDraft,
    choose: (chosen: number) => {
      setDraft(null);
      setParams({ recipe: String(chosen) });
    },
  };
}

const noThemes: [] = [];
