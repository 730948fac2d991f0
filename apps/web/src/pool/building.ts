import type { HeldValue } from '@sprig/contracts';
import { casingList, type Facts } from '@sprig/contracts';
import {
  addForecast,
  type BuildKeyword,
  type BuildYield,
  bidOf,
  buildFrame,
  buildYield,
  type CurvePoint,
  type Forecast,
  forecastAt,
  type Layout,
  nothingForecast,
  perDay,
  RowBuilder,
} from '@sprig/core/build';
import { type MatchType, matchTypes } from '@sprig/core/match';
import { asMicros, type Micros, medianOf } from '@sprig/core/money';
import { placesOfRows } from '@sprig/core/sort';
import { casingOf, languagePack } from '@sprig/core/text';
import type { PoolStore } from './pool-store.ts';
import type { SortInput, Sorting } from './sorting.ts';

/** What a build is worked out from in the browser, while its rules are being changed. */
export type BuildInput = {
  layout: Layout;
  sort: SortInput;
  facts: Facts;
  holds: HeldValue[];
  sources: { id: number; name: string }[];
  increment: Micros;
};

/** The yield, with the median bid of each match type and a day's forecast at the ladder's bids. */
export type LiveBuild = BuildYield & {
  medians: Record<MatchType, Micros | null>;
  /** Null until the market was asked. */
  day: Forecast | null;
  /** Keywords that the market was asked about, the most searched first. */
  known: number;
};

/** The build as the rules would make it now; ad groups that were split before may be cut another way. */
export class Building {
  private pool: { key: string; keywords: BuildKeyword[] } | null = null;
  private readonly curves = new Map<string, CurvePoint[]>();

  constructor(
    private readonly store: PoolStore,
    private readonly sorting: Sorting,
  ) {}

  live({ layout, sort, facts, holds, sources, increment }: BuildInput): LiveBuild {
    const pack = languagePack(sort.language, sort.functionWords);
    const keywords = this.keywords(sort, facts);
    const frame = buildFrame({
      keywords,
      layout,
      holds: holds.map(({ rowKey, field, outlet, value }) => ({ rowKey, field, outlet, value })),
      pack,
      casing: casingOf(casingList(facts)),
      themes: sort.themes,
      places: facts.places.map(([name = '']) => name),
      sources: new Map(sources.map(({ id, name }) => [id, name])),
    });
    const builder = new RowBuilder(frame);
    const bids = Object.fromEntries(matchTypes.map((type) => [type, [] as Micros[]])) as Record<
      MatchType,
      Micros[]
    >;
    const entered = new Map<string, Micros>();
    for (const group of frame.groups)
      for (const row of builder.rows(group)) {
        const bid = bidOf({ base: row.base, steps: row.steps, held: row.heldBid }, layout.ladder, increment);
        bids[row.type].push(bid);
        const best = entered.get(row.text);
        if (best === undefined || bid > best) entered.set(row.text, bid);
      }
    return {
      ...buildYield(frame, increment),
      medians: Object.fromEntries(
        matchTypes.map((type) => [type, medianOf(bids[type])]),
      ) as LiveBuild['medians'],
      ...this.forecast(entered),
    };
  }

  private forecast(entered: ReadonlyMap<string, Micros>): Pick<LiveBuild, 'day' | 'known'> {
    let sum = nothingForecast;
    let known = 0;
    for (const [text, bid] of entered) {
      const curve = this.curves.get(text);
      if (!curve) continue;
      known++;
      sum = addForecast(sum, forecastAt(curve, bid));
    }
    return { day: known === 0 ? null : perDay(sum), known };
  }

  /** The keywords that are in, placed in their themes. */
  private keywords(sort: SortInput, facts: Facts): BuildKeyword[] {
    const { store } = this;
    const key = `${store.changes} ${JSON.stringify([sort.themes, sort.placed, sort.settings.signals, sort.places, facts.places, sort.language, sort.functionWords])}`;
    if (this.pool?.key === key) return this.pool.keywords;
    const { placing, stages } = this.sorting.prepare(sort);
    const placeOf = placesOfRows(this.sorting.words, facts.places);
    const keywords: BuildKeyword[] = [];
    for (let row = 0; row < store.length; row++) {
      if (!store.isIn(row)) continue;
      const [cpc, searches] = [store.cpc(row), store.searches(row)];
      keywords.push({
        id: store.id(row),
        text: store.text(row),
        norm: store.norm(row),
        asked: store.asked(row),
        marks: [],
        cpc: cpc < 0 ? null : asMicros(cpc),
        searches: searches < 0 ? null : searches,
        theme: placing[row] as number,
        stage: stages[row]?.stage ?? null,
        place: placeOf(row),
        sources: store.sources(row),
      });
    }
    keywords.sort((a, b) => a.id - b.id);
    this.pool = { key, keywords };
    return keywords;
  }

  /** The most searched keywords that the market was not asked about yet. */
  wanting(most: number): string[] {
    const wanted = (this.pool?.keywords ?? []).filter(({ norm }) => !this.curves.has(norm));
    return wanted
      .sort((a, b) => (b.searches ?? -1) - (a.searches ?? -1))
      .slice(0, most)
      .map(({ norm }) => norm);
  }

  /** Takes what the market said, as flat lists of `positions` for each text. */
  tell(
    texts: readonly string[],
    {
      positions,
      bids,
      clicks,
      shares,
    }: { positions: number; bids: number[]; clicks: number[]; shares: number[] },
  ): void {
    texts.forEach((text, at) => {
      const curve: CurvePoint[] = [];
      for (let place = at * positions; place < (at + 1) * positions; place++)
        if ((bids[place] ?? 0) > 0)
          curve.push({
            position: place - at * positions + 1,
            bid: asMicros(bids[place] as number),
            clicks: clicks[place] ?? 0,
            share: shares[place] ?? 0,
          });
      this.curves.set(text, curve);
    });
  }
}
