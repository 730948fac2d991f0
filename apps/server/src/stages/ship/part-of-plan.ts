import type { PartTold, ShipPart } from '@sprig/contracts';
import { type RowKind, rowKinds } from '@sprig/core/outlets';
import { SprigFailure } from '../../platform/failure.ts';

type Head = {
  key: string;
  campaignKey: string;
  campaign_name: string;
  labels: string[];
  campaign_labels: string[];
};
/** A name of an ad group at an outlet. */
type Place = { campaign: string; name: string };

/**
 * Which ad groups belong to a part of the plan, and by which names the outlet knows what is in it. Campaigns that are chosen
 * themselves are told whole: with their own row and negatives, and with ad groups that are gone.
 */
export class PartOfPlan {
  private readonly campaigns: ReadonlySet<string>;
  private readonly groups: ReadonlySet<string>;
  private readonly labels: ReadonlySet<string>;
  private readonly isWhole: boolean;
  private readonly names = new Set<string>();
  private readonly campaignNames = new Set<string>();

  constructor(private readonly part: ShipPart) {
    this.campaigns = new Set(part.campaigns);
    this.groups = new Set(part.groups);
    this.labels = new Set(part.labels);
    this.isWhole = this.campaigns.size + this.groups.size + this.labels.size === 0;
  }

  get kinds(): ReadonlySet<RowKind> {
    return new Set(this.part.kinds);
  }

  /** Refuses a part of which something is not in the plan any more. */
  assertThere(heads: readonly Head[]): void {
    const there = new Set(heads.flatMap(({ key, campaignKey }) => [key, campaignKey]));
    const gone = [...this.campaigns, ...this.groups].filter((key) => !there.has(key)).length;
    if (gone > 0)
      throw new SprigFailure(
        'conflict',
        `${gone === 1 ? 'One' : gone} of the chosen campaigns and ad groups ${gone === 1 ? 'is' : 'are'} not in the plan any more. Choose again.`,
        { at: 'part' },
      );
    if (!heads.some((head) => this.has(head)))
      throw new SprigFailure('invalid', 'No ad group belongs to this part. Choose something else.', {
        at: 'part',
      });
  }

  has(head: Pick<Head, 'key' | 'campaignKey' | 'labels' | 'campaign_labels'>): boolean {
    return (
      this.isWhole ||
      this.hasCampaign(head) ||
      this.groups.has(head.key) ||
      head.labels.some((label) => this.labels.has(label))
    );
  }

  private hasCampaign({ campaignKey, campaign_labels }: Pick<Head, 'campaignKey' | 'campaign_labels'>) {
    return this.campaigns.has(campaignKey) || campaign_labels.some((label) => this.labels.has(label));
  }

  /** Takes down a name that an ad group has at the outlet, or had there. */
  standsAt(head: Head, { campaign, name }: Place): void {
    if (!this.has(head)) return;
    if (this.hasCampaign(head)) this.campaignNames.add(campaign);
    else this.names.add(placeName(campaign, name));
  }

  /** Whether a row of this place at the outlet belongs to it. */
  holds(campaign: string, group: string): boolean {
    return (
      this.isWhole ||
      this.campaignNames.has(campaign) ||
      (group !== '' && this.names.has(placeName(campaign, group)))
    );
  }

  /** What the receipt says of it. */
  told(heads: readonly Head[]): PartTold {
    const names = new Map(
      heads.flatMap((head) =>
        !this.isWhole && this.hasCampaign(head) ? [[head.campaignKey, head.campaign_name] as const] : [],
      ),
    );
    return {
      campaigns: [...names.values()].slice(0, 20),
      campaignCount: names.size,
      groupCount: heads.filter((head) => this.has(head)).length,
      labels: [...this.labels],
      kinds: rowKinds.filter((kind) => this.kinds.has(kind)),
    };
  }
}

const placeName = (campaign: string, group: string): string => `${campaign}\t${group}`;
