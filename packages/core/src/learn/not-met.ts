import type { NotMet } from './plan-names.ts';
import type { ReadFact } from './report-rows.ts';

/** What of one campaign was not met, for one reason: how much it is, and a few of it. */
export type NotMetOf = {
  campaign: string;
  why: NotMet;
  rows: number;
  clicks: number;
  /** In millionths of the account's currency. */
  cost: number;
  samples: string[];
};

const SAMPLES = 5;

/** Lists what is not met by campaign and reason. It is kept all the same: what it cost was spent. */
export class NotMetList {
  private readonly all = new Map<string, NotMetOf>();

  add({ names, told }: ReadFact, why: NotMet): void {
    const campaign = names.campaign ?? '';
    const at = `${campaign}\t${why}`;
    const of = this.all.get(at) ?? { campaign, why, rows: 0, clicks: 0, cost: 0, samples: [] };
    this.all.set(at, of);
    of.rows++;
    of.clicks += told.clicks ?? 0;
    of.cost += told.cost ?? 0;
    const sample = names.keyword ?? names.ad ?? names.group ?? campaign;
    if (of.samples.length < SAMPLES && !of.samples.includes(sample)) of.samples.push(sample);
  }

  /** What cost most comes first. */
  list(): NotMetOf[] {
    return [...this.all.values()].sort((a, b) => b.cost - a.cost || b.rows - a.rows);
  }
}
