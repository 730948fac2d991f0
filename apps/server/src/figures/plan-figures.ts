import { setImmediate as breathe } from 'node:timers/promises';
import type { Facts } from '@sprig/contracts';
import {
  type Curve,
  CurveMaker,
  type Doubt,
  type Estimator,
  type ForecastKeyword,
  type Origin,
  TOLD_DOUBT,
} from '@sprig/core/figures';
import { BY_HAND } from '@sprig/core/gather';
import type { MarketProvider } from '@sprig/market';
import { select } from '../db/connect.ts';
import type { PlanCaller } from '../platform/caller.ts';
import { estimatorOf } from './estimates.ts';
import { standIn } from './market.ts';
import { readingRules } from './reading-rules.ts';

/** The figures that stand for a text, each with where it comes from; what a sum is made of, not what is shown. */
export type TextFigures = ForecastKeyword & {
  from: { searches: Origin | null; cpc: Origin | null; competition: Origin | null };
  doubt: Doubt;
};

type Stored = {
  norm: string;
  searches: number | null;
  cpc: number | null;
  competition: number | null;
  hand: number | null;
  taken_cpc: number | null;
  made_searches: number | null;
  made_cpc: number | null;
  made_competition: number | null;
};

/** Texts whose figures are looked up at once, so that no other request has to wait long. */
const BATCH = 5_000;

/**
 * The figures of a plan by their origins: by hand and told ones of the pool, else an estimate that was taken, else an
 * estimate, else what the stand-in market makes up where the brief says so. The same order as in the browser's pool.
 */
export class PlanFigures {
  private constructor(
    private readonly caller: PlanCaller,
    readonly facts: Facts,
    private readonly estimator: Estimator | null,
    private readonly market: MarketProvider | null,
  ) {}

  static async of(caller: PlanCaller): Promise<PlanFigures> {
    const { facts } = await readingRules(caller);
    const market = facts.market === 'stand-in' ? standIn() : null;
    return new PlanFigures(caller, facts, await estimatorOf(caller), market);
  }

  /** Of each text in normal form. */
  async figuresOf(norms: Iterable<string>): Promise<ReadonlyMap<string, TextFigures>> {
    const figures = new Map<string, TextFigures>();
    const all = [...new Set(norms)];
    for (let from = 0; from < all.length; from += BATCH) {
      const batch = all.slice(from, from + BATCH);
      const stored = new Map((await this.stored(batch)).map((row) => [row.norm, row]));
      const made = await this.made(batch.filter((norm) => !stored.has(norm)));
      for (const norm of batch) figures.set(norm, this.figures(norm, stored.get(norm) ?? made.get(norm)));
      await breathe();
    }
    return figures;
  }

  /** What is expected of each text, by the plan's assumptions. */
  async curvesOf(norms: Iterable<string>): Promise<ReadonlyMap<string, Curve>> {
    const maker = new CurveMaker(this.facts.assumptions);
    const curves = new Map<string, Curve>();
    for (const [norm, figures] of await this.figuresOf(norms)) curves.set(norm, maker.of(figures));
    return curves;
  }

  private stored(norms: readonly string[]): Promise<Stored[]> {
    return select<Stored>(
      this.caller.database,
      `select norm, searches, cpc, competition, hand, taken_cpc, made_searches, made_cpc, made_competition
       from keywords where plan_id = $1 and norm = any($2::text[])`,
      [this.caller.plan, norms],
    );
  }

  /** What the market makes up of texts that the pool lacks. */
  private async made(norms: readonly string[]): Promise<ReadonlyMap<string, Stored>> {
    if (!this.market || norms.length === 0) return new Map();
    const figures = await this.market.figures(norms);
    return new Map(
      norms.map((norm, at) => [
        norm,
        {
          norm,
          searches: null,
          cpc: null,
          competition: null,
          hand: null,
          taken_cpc: null,
          made_searches: figures[at]?.searches ?? null,
          made_cpc: figures[at]?.cpc ?? null,
          made_competition: figures[at]?.competition ?? null,
        },
      ]),
    );
  }

  private figures(norm: string, row: Stored | undefined): TextFigures {
    const market = this.market !== null;
    const searches = this.first(norm, 'searches', row, [null, market ? (row?.made_searches ?? null) : null]);
    const cpc = this.first(norm, 'cpc', row, [
      row?.taken_cpc ?? null,
      market ? (row?.made_cpc ?? null) : null,
    ]);
    const competition = this.first(norm, 'competition', row, [
      null,
      market ? (row?.made_competition ?? null) : null,
    ]);
    return {
      searches: searches.value,
      cpc: cpc.value,
      competition: competition.value,
      from: { searches: searches.from, cpc: cpc.from, competition: competition.from },
      doubt: { searches: searches.doubt, cpc: cpc.doubt },
    };
  }

  private first(
    norm: string,
    measure: 'searches' | 'cpc' | 'competition',
    row: Stored | undefined,
    [taken, made]: readonly [number | null, number | null],
  ): { value: number | null; from: Origin | null; doubt: number } {
    const usual = measure === 'cpc' ? TOLD_DOUBT.cpc : TOLD_DOUBT.searches;
    const told = row?.[measure] ?? null;
    if (told !== null) {
      return { value: told, from: (row?.hand ?? 0) & BY_HAND[measure] ? 'hand' : 'told', doubt: usual };
    }
    if (taken !== null) return { value: taken, from: 'taken', doubt: usual };
    const estimate = this.estimator?.of(measure, norm);
    if (estimate) {
      const spread = this.estimator?.model.measures[measure]?.bands[estimate.band].spread ?? usual;
      return { value: estimate.mean, from: 'estimated', doubt: spread };
    }
    return { value: made, from: made === null ? null : 'made-up', doubt: usual };
  }
}
