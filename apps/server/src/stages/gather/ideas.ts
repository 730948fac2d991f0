import type { Idea, ImportResult, ideaFilters, ideaRequest, SearchKnown } from '@sprig/contracts';
import { CurveMaker } from '@sprig/core/figures';
import { filterWords, type SaidKeyword } from '@sprig/core/gather';
import { readNotation } from '@sprig/core/match';
import { normalise } from '@sprig/core/text';
import type { MarketFigures, MarketProvider } from '@sprig/market';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { marketOf, standIn } from '../../figures/market.ts';
import { PlanFigures } from '../../figures/plan-figures.ts';
import { inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { takeInKeywords } from './import.ts';

type Request = z.output<typeof ideaRequest>;
type Filters = z.output<typeof ideaFilters>;

/** Searches looked at for one answer, and the most that are shown of them. */
const MOST_FOUND = 5_000;
const MOST_SHOWN = 1_000;
const POOL_SEEDS = 40;

/** Ideas from the market, each with its figures and whether the pool has it. */
export async function findIdeas(caller: PlanCaller, request: Request, filters: Filters) {
  const provider = await askedMarket(caller);
  const { seeds, texts } = await foundBy(caller, provider, request);
  const figures = await provider.figures(texts);
  const { wanted, unwanted } = {
    wanted: filterWords(filters.contains).wanted,
    unwanted: filterWords(filters.excludes).wanted,
  };
  const all = texts
    .map((text, at) => ({ text, ...(figures[at] as MarketFigures) }))
    .filter(
      ({ text, searches }) =>
        searches >= filters.leastSearches &&
        wanted.every((word) => text.includes(word)) &&
        !unwanted.some((word) => text.includes(word)),
    );
  const shown = all.slice(0, MOST_SHOWN);
  const there = await inPool(
    caller,
    shown.map(({ text }) => text),
  );
  return {
    provider: { name: provider.name, isStandIn: provider.isStandIn },
    seeds,
    total: all.length,
    ideas: shown.map((idea): Idea => ({ ...idea, inPool: there.has(idea.text) })),
  };
}

/** The market that the plan asks; in one that asks none this can't be done. */
async function askedMarket({ database, plan }: PlanCaller): Promise<MarketProvider> {
  const market = await marketOf((sql) => select(database, sql, [plan]));
  if (!market)
    throw new SprigFailure(
      'invalid',
      'This plan asks no market: its figures are told and estimated. The stand-in market, whose figures are made up, is switched on in the brief.',
      { at: 'market' },
    );
  return market;
}

async function foundBy(
  caller: PlanCaller,
  provider: MarketProvider,
  request: Request,
): Promise<{ seeds: string[]; texts: string[] }> {
  if (request.from === 'completions')
    return { seeds: [request.typed], texts: await provider.completions(request.typed, MOST_FOUND) };
  const seeds = await seedsOf(caller, provider, request);
  return { seeds, texts: await provider.related(seeds, MOST_FOUND) };
}

async function seedsOf(
  caller: PlanCaller,
  provider: MarketProvider,
  request: Exclude<Request, { from: 'completions' }>,
): Promise<string[]> {
  if (request.from === 'seeds') {
    const seeds = [...new Set(request.seeds.map(normalise))].filter((seed) => seed !== '');
    if (seeds.length === 0)
      throw new SprigFailure('invalid', 'Type at least one seed word, such as red mug.', { at: 'seeds' });
    return seeds;
  }
  if (request.from === 'page') return pageSeeds(provider, request.address);
  const rows = await select<{ norm: string }>(
    caller.database,
    `select norm from keywords where plan_id = $1 and workspace_id = $2 and not cut and folded_into is null and blocked_by is null
     order by searches desc nulls last, id limit ${POOL_SEEDS}`,
    [caller.plan, caller.workspace],
  );
  if (rows.length === 0)
    throw new SprigFailure('invalid', 'The pool has no keyword yet to start from. Type a seed instead.', {
      at: 'from',
    });
  return rows.map(({ norm }) => norm);
}

async function pageSeeds(provider: MarketProvider, address: string): Promise<string[]> {
  const page = await provider.readPage(address);
  if (!page)
    throw new SprigFailure(
      'invalid',
      'No page can be read there: the stand-in market reads its own sites only.',
      { at: 'address' },
    );
  if (page.seeds.length === 0)
    throw new SprigFailure('invalid', 'The page speaks of nothing that the market knows.', { at: 'address' });
  return page.seeds;
}

async function inPool({ database, plan }: PlanCaller, norms: readonly string[]): Promise<Set<string>> {
  const rows = await select<{ norm: string }>(
    database,
    'select norm from keywords where plan_id = $1 and norm = any($2::text[])',
    [plan, norms],
  );
  return new Set(rows.map(({ norm }) => norm));
}

const said = (text: string, line: number, figures: MarketFigures | undefined): SaidKeyword => {
  const figure = <T extends number>(value: T | undefined) =>
    value === undefined ? null : { value, approximate: false };
  return {
    line,
    text,
    norm: normalise(text),
    type: null,
    marks: [],
    searches: figure(figures?.searches),
    cpc: figure(figures?.cpc),
    competition: figure(figures?.competition),
    extra: figures
      ? {
          'Twelve months': figures.months.join(' '),
          Impressions: String(figures.impressions),
          CTR: `${figures.ctr / 100}%`,
        }
      : null,
  };
};

/** Takes ideas in as a source. They bring no figures but in plans that ask the stand-in market, which makes some up. */
export async function takeIdeas(caller: PlanCaller, name: string, texts: readonly string[]) {
  const sound = [...new Set(texts.map(normalise))].filter((text) => readNotation(text).status === 'read');
  if (sound.length === 0)
    throw new SprigFailure('invalid', 'None of these is a keyword that can go in.', { at: 'texts' });
  const market = await marketOf((sql) => select(caller.database, sql, [caller.plan]));
  const figures = (await market?.figures(sound)) ?? [];
  const { result } = await inChange(
    caller,
    ({ added }: ImportResult) => `Take in ${added.toLocaleString('en')} ideas`,
    (change) =>
      takeInKeywords(
        change,
        sound.map((text, at) => said(text, at + 1, figures[at])),
        { kind: 'ideas', name: name.trim() || 'Ideas', job: null },
      ),
  );
  return result;
}

/** Asks the market for the figures of keywords that are there: those given, or all without any. */
export async function askFigures(caller: PlanCaller, ids: readonly number[] | null) {
  const rows = await select<{ text: string; norm: string }>(
    caller.database,
    `select text, norm from keywords where plan_id = $1 and workspace_id = $2 and ${
      ids === null ? 'searches is null and made_searches is null' : 'id = any($3::int[])'
    } order by id`,
    ids === null ? [caller.plan, caller.workspace] : [caller.plan, caller.workspace, ids],
  );
  if (rows.length === 0)
    throw new SprigFailure('invalid', 'Every keyword has its figures already.', { at: 'ids' });
  const figures = await (await askedMarket(caller)).figures(rows.map(({ norm }) => norm));
  const { result } = await inChange(
    caller,
    ({ alreadyThere }: ImportResult) => `Ask the market about ${alreadyThere.toLocaleString('en')} keywords`,
    (change) =>
      takeInKeywords(
        change,
        rows.map(({ text }, at) => said(text, at + 1, figures[at] as MarketFigures)),
        { kind: 'ideas', name: 'Market figures', job: null },
      ),
  );
  return result;
}

/** What is known of one search, told or not. */
export async function lookUp(caller: PlanCaller, text: string): Promise<SearchKnown> {
  const norm = normalise(text);
  const plan = await PlanFigures.of(caller);
  const known = (await plan.figuresOf([norm])).get(norm);
  if (!known) throw new SprigFailure('invalid', 'Type a search.', { at: 'text' });
  const { searches, cpc, competition, from } = known;
  const there = await inPool(caller, [norm]);
  const curve = new CurveMaker(plan.facts.assumptions).of(known);
  const made = plan.facts.market === 'stand-in' && from.searches === 'made-up';
  const [figures] = made ? await standIn().figures([norm]) : [];
  return {
    text: norm,
    inPool: there.has(norm),
    searches,
    cpc,
    competition,
    from,
    months: figures?.months ?? null,
    positions: curve.map(({ position, bid, clicks, share }) => ({ position, bid, clicks, share })),
  };
}

export async function listDismissed({ database, plan, workspace }: PlanCaller): Promise<string[]> {
  const rows = await select<{ norm: string }>(
    database,
    'select norm from dismissed_ideas where plan_id = $1 and workspace_id = $2 order by id',
    [plan, workspace],
  );
  return rows.map(({ norm }) => norm);
}

/** Dismisses ideas, or lets them be proposed again; what stands so already is left. */
export function dismissIdeas(
  caller: PlanCaller,
  texts: readonly string[],
  dismissed: boolean,
): Promise<{ revision: number }> {
  const norms = [...new Set(texts.map(normalise))].filter((norm) => norm !== '');
  const label = dismissed
    ? `Dismiss ${counted(norms.length, 'idea')}`
    : `Let ${counted(norms.length, 'idea')} come again`;
  return inChange(caller, label, async (change) => {
    const there = await change.find('dismissed_ideas', {
      columns: ['id', 'norm'],
      where: { norm: norms },
      lock: true,
    });
    if (!dismissed) {
      await change.remove(
        'dismissed_ideas',
        there.map(({ id }) => ({ id })),
      );
      return;
    }
    const known = new Set(there.map(({ norm }) => norm));
    const fresh = norms.filter((norm) => !known.has(norm));
    const first = change.takeIds(fresh.length);
    await change.insert(
      'dismissed_ideas',
      fresh.map((norm, at) => ({ id: first + at, norm })),
    );
  });
}
