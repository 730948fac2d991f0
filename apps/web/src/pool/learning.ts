import { fetchEstimates, LEARNED_FROM, urlOf } from '@sprig/contracts';
import { type EstimateModel, Estimator, type NoEstimate } from '@sprig/core/figures';
import type { PoolStore } from './pool-store.ts';
import { aboutOf, type EstimateSaid, type Learned } from './worker-answers.ts';

/** Keywords that are estimated before others have their turn. */
const ESTIMATED_AT_ONCE = 1_500;

/** Estimates of a plan's keywords by what the server has learned last, and why they are as they are. */
export class Learning {
  constructor(private readonly store: PoolStore) {}

  private learnedFrom: string | null = null;
  private usesMarket = false;
  private estimator: Estimator | null = null;

  /**
   * Estimates by what the server has learned last. Answers a number that grows whenever estimates are others, and how
   * good they are.
   */
  async learn(plan: number, usesMarket: boolean): Promise<Learned> {
    const query = { known: this.learnedFrom ?? undefined };
    const answer = await fetch(urlOf(fetchEstimates, { params: { plan }, query }));
    if (!answer.ok) throw new Error('What the figures tell could not be fetched. Try again in a moment.');
    const isNew = answer.status === 200;
    if (isNew) {
      this.learnedFrom = answer.headers.get(LEARNED_FROM);
      this.estimator = new Estimator((await answer.json()) as EstimateModel);
    }
    if (isNew || usesMarket !== this.usesMarket) {
      this.usesMarket = usesMarket;
      this.store.estimateBy(this.estimator, usesMarket);
      await this.fillEstimates();
    }
    const { measures } = this.estimator?.model ?? {};
    return {
      changes: this.store.figuresChanges,
      searches: aboutOf(measures?.searches),
      cpc: aboutOf(measures?.cpc),
    };
  }

  /** Goes over the pool a little at a time, so that a keystroke between is answered at once. */
  async fillEstimates(): Promise<void> {
    while (this.store.fillEstimates(ESTIMATED_AT_ONCE)) await new Promise((go) => setTimeout(go, 0));
  }

  /** The texts of keywords that are in and whose searches nobody told, in the order in which they came. */
  untold(): string[] {
    return Array.from(this.store.inRows())
      .filter((row) => this.store.searches(row) < 0)
      .map(this.store.text);
  }

  /** Why a keyword's searches or CPC are estimated as they are; null where it is not estimated. */
  estimateOf(measure: 'searches' | 'cpc', id: number): EstimateSaid | null {
    const row = this.store.rowById(id);
    if (row === undefined || !this.estimator) return null;
    const norm = this.store.norm(row);
    const estimate = this.estimator.of(measure, norm);
    const factors = this.estimator.factors(measure, norm);
    return estimate && factors && { ...estimate, factors };
  }

  /** Why nothing is estimated of a keyword; null where something is. */
  whyNoEstimate(measure: 'searches' | 'cpc', id: number): NoEstimate | null {
    const row = this.store.rowById(id);
    if (row === undefined) return null;
    return this.estimator ? this.estimator.whyNot(measure, this.store.norm(row)) : 'little-told';
  }

  /** What the pool's words are often written as by mistake. */
  get slips() {
    return this.estimator?.model.vocabulary.slips ?? {};
  }
}
