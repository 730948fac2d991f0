import { seeded } from '@sprig/core/text';
import type { Advertiser } from './advertiser.ts';
import { BESIDE } from './searches.ts';

/** What is behind a run of made-up traffic. Nobody is told but tests. Days are counted from the first of the account, 0. */
export type Causes = {
  /** A rival that arrives: bids of a campaign are worth this much less from then on. */
  rival: { campaign: string; from: number; worth: number } | null;
  /** A page on which nothing is bought for some days. */
  page: { address: string; from: number; to: number } | null;
  /** Ads with this first headline are clicked so much more often than the others of their ad group. */
  ad: { headline: string; times: number } | null;
  /** Words beside a search of which nothing is ever bought. */
  onlyCost: readonly string[];
  /** A word beside a search of which much is bought. */
  worthOwn: { word: string; times: number };
};

/** Causes of an account, by its seed. */
export function causesOf({ campaigns, groups }: Advertiser, seed: number): Causes {
  const random = seeded(seed ^ 0x5eed);
  const pick = <T>(list: readonly T[]): T | null => list[Math.floor(random() * list.length)] ?? null;
  const campaign = pick(campaigns);
  const address = pick(pagesOfSome(groups));
  const two = groups.filter(({ ads }) => new Set(ads.map(({ headline }) => headline)).size > 1);
  const words = [...BESIDE].sort(() => random() - 0.5);
  return {
    rival: campaign && { campaign: campaign.name, from: 18 + Math.floor(random() * 6), worth: 0.45 },
    page: address === null ? null : { address, from: 12 + Math.floor(random() * 5), to: 26 },
    ad: two[0]?.ads[0] ? { headline: two[0].ads[0].headline, times: 1.5 } : null,
    onlyCost: words.slice(0, 3),
    worthOwn: { word: words[3] ?? 'today', times: 4 },
  };
}

/** Pages to which no more than half of the ad groups lead: one that breaks is not to end everything. */
function pagesOfSome(groups: Advertiser['groups']): string[] {
  const leading = new Map<string, number>();
  const shown = groups.filter(({ ads }) => ads.length > 0);
  for (const { ads } of shown)
    for (const page of new Set(ads.map((one) => one.page))) leading.set(page, (leading.get(page) ?? 0) + 1);
  return [...leading].flatMap(([page, times]) => (page !== '' && times * 2 <= shown.length ? [page] : []));
}
