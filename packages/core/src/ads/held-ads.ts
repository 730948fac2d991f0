import { groupOfAd, type Hold } from '../build/index.ts';

/** What is held of ads, by the ad group that they are in, and the paths of final URLs that campaigns have. */
export class HeldAds {
  private readonly byGroup = new Map<string, Hold[]>();
  private readonly paths = new Map<string, string>();

  /** Holds of other rows are left out. O(holds). */
  constructor(holds: readonly Hold[]) {
    for (const hold of holds) {
      if (hold.field === 'path') this.paths.set(hold.rowKey, String(hold.value));
      if (!hold.rowKey.includes('/a')) continue;
      const group = groupOfAd(hold.rowKey);
      const there = this.byGroup.get(group);
      if (there) there.push(hold);
      else this.byGroup.set(group, [hold]);
    }
  }

  /** The default path of a campaign’s final URLs, by its key. */
  pathOf(campaign: string): string | undefined {
    return this.paths.get(campaign);
  }

  ofGroup(group: string): readonly Hold[] {
    return this.byGroup.get(group) ?? [];
  }

  /** What is held of an ad at an outlet, by field; what is held for this outlet goes before what is held for all. */
  of(group: string, ad: string, outlet: string): ReadonlyMap<string, Hold> | null {
    const own = this.byGroup.get(group)?.filter(({ rowKey }) => rowKey === ad);
    if (!own) return null;
    const held = new Map<string, Hold>();
    for (const hold of own) if (hold.outlet === null) held.set(hold.field, hold);
    for (const hold of own) if (hold.outlet === outlet) held.set(hold.field, hold);
    return held.size > 0 ? held : null;
  }
}
