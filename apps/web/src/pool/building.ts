import type { HeldValue } from '@sprig/contracts';
import { type BuiltStanding, type Facts, layoutRules } from '@sprig/contracts';
import {
  type BuildKeyword,
  type BuildYield,
  bidOfRow,
  buildYield,
  type Layout,
  RowBuilder,
} from '@sprig/core/build';
import { CurveMaker, type Forecast, type ForecastKeyword, perDay } from '@sprig/core/figures';
import { type MatchType, matchTypes } from '@sprig/core/match';
import { asMicros, type Micros, medianOf } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { layOut, partsBefore, placedKeywords } from '@sprig/core/plan';
import type { PoolStore } from './pool-store.ts';
import { rulesOf, type SortInput, type Sorting } from './sorting.ts';

/** What a build is worked out from in the browser, while its rules are being changed. */
export type BuildInput = {
  layout: Layout;
  sort: SortInput;
  facts: Facts;
  holds: HeldValue[];
  sources: { id: number; name: string }[];
  standing: BuiltStanding;
  increment: Micros;
};

/** The yield, with the median bid of each match type and a day's forecast at the ladder's bids. */
export type LiveBuild = BuildYield & {
  medians: Record<MatchType, Micros | null>;
  /** Null where nothing can be forecast. */
  day: Forecast | null;
  /** Searches of which nothing can be forecast: their searches or their CPC are not known. */
  missing: number;
  /** What share of the clicks rests on estimates, and on made-up figures, in basis points. */
  estimated: number;
  madeUp: number;
};

/** The build as the rules would make it now. */
export class Building {
  private pool: { key: string; keywords: BuildKeyword[]; rowOf: ReadonlyMap<string, number> } | null = null;

  constructor(
    private readonly store: PoolStore,
    private readonly sorting: Sorting,
  ) {}

  live({ layout, sort, facts, holds, sources, standing, increment }: BuildInput): LiveBuild {
    const frame = layOut(this.keywords(sort), {
      ...rulesOf(sort),
      ...layoutRules({
        language: sort.language,
        facts,
        layout,
        holds,
        sources: new Map(sources.map(({ id, name }) => [id, name])),
        copies: standing.copies,
        partBefore: partsBefore(standing.parts),
        outlet: plainOutlet,
      }),
    });
    const builder = new RowBuilder(frame);
    const bids = Object.fromEntries(matchTypes.map((type) => [type, [] as Micros[]])) as Record<
      MatchType,
      Micros[]
    >;
    const entered = new Map<string, Micros>();
    for (const group of frame.groups)
      for (const row of builder.rows(group)) {
        const bid = bidOfRow(row, layout.ladder, increment);
        bids[row.type].push(bid);
        const best = entered.get(row.text);
        if (best === undefined || bid > best) entered.set(row.text, bid);
      }
    return {
      ...buildYield(frame, increment),
      medians: Object.fromEntries(
        matchTypes.map((type) => [type, medianOf(bids[type])]),
      ) as LiveBuild['medians'],
      ...this.forecast(entered, new CurveMaker(facts.assumptions)),
    };
  }

  /** A search is counted once, at the highest bid of its text. */
  private forecast(
    entered: ReadonlyMap<string, Micros>,
    curves: CurveMaker,
  ): Pick<LiveBuild, 'day' | 'missing' | 'estimated' | 'madeUp'> {
    const { store } = this;
    const sum = { clicks: 0, cost: 0, impressions: 0 };
    const from = { estimated: 0, 'made-up': 0 };
    let missing = 0;
    for (const [text, bid] of entered) {
      const row = this.pool?.rowOf.get(text);
      if (row === undefined) continue;
      const before = sum.clicks;
      if (!curves.add(forecastKeyword(store, row), bid, sum)) missing++;
      const origins = [store.originOf(row, 'searches'), store.originOf(row, 'cpc')];
      if (origins.includes('made-up')) from['made-up'] += sum.clicks - before;
      else if (origins.includes('estimated') || origins.includes('taken'))
        from.estimated += sum.clicks - before;
    }
    const share = (part: number) => (sum.clicks > 0 ? Math.round((part * 10_000) / sum.clicks) : 0);
    return {
      day: missing === entered.size ? null : perDay({ clicks: sum.clicks, cost: asMicros(sum.cost) }),
      missing,
      estimated: share(from.estimated),
      madeUp: share(from['made-up']),
    };
  }

  /** The keywords that are in, placed in their themes. */
  private keywords(sort: SortInput): BuildKeyword[] {
    const { store } = this;
    const key = `${store.changes} ${JSON.stringify([sort.themes, sort.placed, sort.settings.signals, sort.places, sort.language, sort.functionWords])}`;
    if (this.pool?.key === key) return this.pool.keywords;
    const keywords = placedKeywords(store.asPlan(), this.sorting.prepare(sort).placed);
    const rowOf = new Map(keywords.map(({ id, text }) => [text, store.rowById(id) as number]));
    this.pool = { key, keywords, rowOf };
    return keywords;
  }
}

/** What a forecast of a row of the pool is made of; a sum takes the mean of what is estimated. */
function forecastKeyword(store: PoolStore, row: number): ForecastKeyword {
  const known = (value: number) => (value < 0 ? null : value);
  return {
    searches: known(store.meanSearches(row)),
    cpc: known(store.shownCpc(row)),
    competition: known(store.shownCompetition(row)),
  };
}
