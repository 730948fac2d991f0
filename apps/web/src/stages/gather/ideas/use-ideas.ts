import * as api from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import { call } from '../../../data/call.ts';
import { useJob } from '../../../data/jobs.ts';
import { computed, question } from '../../../data/question.ts';
import { useStamp } from '../../../kit/use-stamp.ts';
import { useFacts } from '../../../plan/use-facts.ts';
import { useSort } from '../../../plan/use-sort-data.ts';
import type { FoundGaps, IdeaRow, IdeasInput } from '../../../pool/ideas.ts';
import { usePool } from '../../../pool/use-pool.ts';
import { useSideWorker } from '../../../pool/use-side-worker.ts';
import type { JoinInput } from '../../../pool/would-join.ts';

export type From = 'gaps' | 'site' | 'around' | 'typed' | 'market';
export type Asked =
  | { from: 'gaps' }
  | { from: 'site'; job: string | null }
  | { from: 'around'; words: string[] }
  | { from: 'typed'; typed: string }
  | { from: 'market'; seeds: string[] };

/** What was found: ideas, and of gaps their classes. `words` stands where there are none. */
export type Found = FoundGaps & { reading: api.SiteReading | null };

/** Ideas of what is asked, from a worker of their own, so that the pool's stays free. */
export function useIdeas(plan: api.PlanState, asked: Asked) {
  const pool = usePool();
  const facts = useFacts(plan.id).value;
  const { data: dismissed } = useQuery({
    ...question(api.listDismissed, { params: { plan: plan.id } }),
    select: ({ texts }) => texts,
    placeholderData: keepPreviousData,
  });
  const job = useJob(plan.id, asked.from === 'site' ? asked.job : null).data;
  const reading = useMemo(() => {
    const read = job?.status === 'done' ? api.siteReading.safeParse(job.result) : null;
    return read?.success ? read.data : null;
  }, [job]);
  const { data: sort } = useSort(plan.id);
  const side = useSideWorker();
  const input: IdeasInput | null = useMemo(
    () =>
      facts && dismissed
        ? {
            language: plan.brief.language,
            functionWords: facts.functionWords,
            places: facts.places,
            dismissed,
          }
        : null,
    [facts, dismissed, plan.brief.language],
  );
  const join: JoinInput | null = useMemo(
    () =>
      facts && sort
        ? {
            language: plan.brief.language,
            functionWords: facts.functionWords,
            places: facts.places,
            themes: sort.themes,
            settings: sort.settings,
          }
        : null,
    [facts, sort, plan.brief.language],
  );
  const usesMarket = facts?.market === 'stand-in';
  const from = { asked, figures: pool.figures, input, address: reading?.address };
  const find = async (signal: AbortSignal): Promise<Found> => {
    const worker = side();
    await worker.refresh(plan.id);
    await worker.learn(plan.id, usesMarket);
    const found = (ideas: IdeaRow[]): Found => ({ ideas, classes: [], reading: null });
    switch (asked.from) {
      case 'gaps':
        return { ...(await worker.gaps(input as IdeasInput)), reading: null };
      case 'around':
        return found(asked.words.length === 0 ? [] : await worker.around(asked.words, input as IdeasInput));
      case 'typed':
        return found(await worker.completions(asked.typed, input as IdeasInput));
      case 'site': {
        const dismissedTexts = new Set(input?.dismissed);
        const phrases = (reading?.phrases ?? []).filter(({ text }) => !dismissedTexts.has(text));
        return {
          ...found(
            await worker.weighed(
              phrases.map(({ text, pages, where }) => ({
                text,
                why: `In ${where.map((one) => WHERE[one]).join(', ')} of ${pages} ${pages === 1 ? 'page' : 'pages'}`,
              })),
            ),
          ),
          reading,
        };
      }
      case 'market':
        return found(await fromMarket(plan.id, asked.seeds, signal));
    }
  };
  const { data, error, isFetching } = useQuery({
    ...computed(plan.id, ['found ideas', from], find, ['built']),
    enabled: input !== null && pool.ready,
    placeholderData: (old: Found | undefined, query) =>
      (query?.queryKey.at(-1) as typeof from | undefined)?.asked.from === asked.from ? old : undefined,
    retry: false,
  });
  // By stamps: what was found and all themes are too much to be told apart by their texts at each render.
  const stamps = [useStamp(data), useStamp(join)];
  const { data: joined } = useQuery({
    ...computed(
      plan.id,
      ['ideas join', ...stamps],
      async () => {
        const found = data as Found;
        const themes = await side().wouldJoin(
          found.ideas.map(({ text }) => text),
          join as JoinInput,
        );
        return { ...found, ideas: found.ideas.map((idea, at) => ({ ...idea, joins: themes[at] ?? null })) };
      },
      ['built'],
    ),
    gcTime: 0,
    enabled: data !== undefined && join !== null && join.themes.length > 0,
  });
  return {
    data: joined ?? data,
    error,
    isFetching,
    job: job ?? null,
    usesMarket,
    hasThemes: (sort?.themes.length ?? 0) > 0,
  };
}

const WHERE: Record<api.SiteReading['phrases'][number]['where'][number], string> = {
  title: 'the title',
  heading: 'headings',
  navigation: 'the navigation',
  link: 'links',
  picture: 'pictures',
  product: 'product names',
};

async function fromMarket(plan: number, seeds: string[], signal: AbortSignal): Promise<IdeaRow[]> {
  const { ideas } = await call(api.findIdeas, {
    params: { plan },
    body: {
      request: seeds.length > 0 ? { from: 'seeds', seeds } : { from: 'pool' },
      filters: { contains: '', excludes: '', leastSearches: 0 },
    },
    signal,
  });
  return ideas.map(({ text, searches, cpc, competition, inPool }) => ({
    text,
    searches,
    cpc,
    competition,
    from: { searches: 'made-up', cpc: 'made-up', competition: 'made-up' },
    why: 'The stand-in market made it up',
    joins: null,
    of: null,
    inPool,
  }));
}
