import { normalise } from '@sprig/core/text';
import { market } from '../../market.ts';

/** Clicks cost `cpc` each; impressions × CTR is how many a month has. */
const costOf = (impressions: number, ctr: number, cpc: number): number =>
  Math.round((impressions * ctr * cpc) / 10_000);

/** What the market says of combinations: searches a month, CPC, and what a month of clicks would cost. */
export async function figuresOf(texts: readonly string[]) {
  const provider = market();
  const figures = await provider.figures(texts.map(normalise));
  return {
    provider: { name: provider.name, isStandIn: provider.isStandIn },
    searches: figures.map(({ searches }) => searches),
    cpc: figures.map(({ cpc }) => cpc),
    cost: figures.map(({ impressions, ctr, cpc }) => costOf(impressions, ctr, cpc)),
  };
}
