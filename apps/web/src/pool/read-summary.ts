import type { Reading } from '@sprig/core/gather';
import type { PoolStore } from './pool-store.ts';
import { type ReadSummary, SAMPLE, SHOWN_PROBLEMS } from './worker-answers.ts';

/** What was understood of a list, beside the pool that it is for. */
export function summaryOf(
  store: PoolStore,
  { layout, counts, keywords, negatives, problems, setAside }: Reading,
): ReadSummary {
  const norms = new Set<string>();
  for (let row = 0; row < store.length; row++) norms.add(store.norm(row));
  return {
    layout,
    counts,
    keywords: keywords.length,
    negatives: negatives.length,
    alreadyThere: keywords.filter(({ norm }) => norms.has(norm)).length,
    withSearches: keywords.filter(({ searches }) => searches !== null).length,
    withCpc: keywords.filter(({ cpc }) => cpc !== null).length,
    problems: problems.slice(0, SHOWN_PROBLEMS),
    problemCount: problems.length,
    setAside: setAside.filter(({ why }) => why !== 'header').slice(0, SHOWN_PROBLEMS),
    setAsideCount: setAside.filter(({ why }) => why !== 'header').length,
    sample: keywords.slice(0, SAMPLE).map(({ line, text, asked, searches, cpc }) => ({
      line,
      text,
      asked,
      searches: searches?.value ?? null,
      cpc: cpc?.value ?? null,
    })),
  };
}
