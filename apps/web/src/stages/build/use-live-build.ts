import { dayIn, type Facts, noFacts, type PlanState, readStanding } from '@sprig/contracts';
import { type Layout, layoutOn } from '@sprig/core/build';
import { plainOutlet } from '@sprig/core/outlets';
import { incrementOf } from '@sprig/core/sheets';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { Document } from '../../data/document.ts';
import { question } from '../../data/question.ts';
import { useStamp } from '../../kit/use-stamp.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { useHolds } from '../../plan/use-holds.ts';
import { useLayout } from '../../plan/use-layout.ts';
import { useSort } from '../../plan/use-sort-data.ts';
import { useSources } from '../../plan/use-sources.ts';
import type { BuildInput, LiveBuild } from '../../pool/building.ts';
import { usePool, useWorked } from '../../pool/use-pool.ts';

const noThemes: NonNullable<ReturnType<typeof useSort>['data']>['themes'] = [];
const noSources: { id: number; name: string }[] = [];
const none = noFacts();

/** The rules with what they would make as they are typed or dragged, worked out in the browser. */
export function useLiveBuild(plan: PlanState): {
  layout: Document<Layout>;
  facts: Document<Facts>;
  live: LiveBuild | null;
  themes: typeof noThemes;
  sources: typeof noSources;
} {
  const pool = usePool();
  const layout = useLayout(plan.id);
  const { data: sort } = useSort(plan.id);
  const kept = useFacts(plan.id);
  const facts = kept.value ?? none;
  const { data: sources = noSources } = useSources(plan.id);
  const { holds } = useHolds(plan.id);
  const { data: standing } = useQuery({
    ...question(readStanding, { params: { plan: plan.id } }),
    placeholderData: keepPreviousData,
  });
  const day = dayIn(facts.timeZone, new Date());
  const rules = useMemo(() => layout.value && layoutOn(layout.value, day), [layout.value, day]);
  const input = useMemo<BuildInput | null>(
    () =>
      sort && rules && standing
        ? {
            layout: rules,
            sort: {
              language: plan.brief.language,
              functionWords: facts.functionWords,
              places: facts.places,
              ...sort,
            },
            facts,
            holds,
            sources,
            standing,
            increment: incrementOf(plainOutlet, plan.brief.currency),
          }
        : null,
    [sort, rules, standing, plan.brief.language, plan.brief.currency, facts, holds, sources],
  );
  const stamp = useStamp(input);
  const { data } = useWorked(
    async () => (input && pool.ready ? pool.worker.liveBuild(input) : null),
    `build ${pool.figures}:${stamp}`,
  );
  const live = data ?? null;
  return { layout, facts: kept, live, themes: sort?.themes ?? noThemes, sources };
}
