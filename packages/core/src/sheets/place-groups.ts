import { gotten, itemAt, numberAt, uint32At } from '../access/index.ts';
import { partName, splitParts, UniqueNames } from '../build/index.ts';
import { type Micros, minorUnit } from '../money/index.ts';
import type { Outlet } from '../outlets/index.ts';
import { cutAtWord } from '../text/index.ts';

/** Where a group stands at an outlet: the name of its campaign's part, that part's number, and its own name. */
export type OutletPlace = { campaign: string; part: number; name: string };

export type PlacedGroup = {
  /** Its campaign's key and name. */
  campaign: string;
  campaignName: string;
  name: string;
  rows: number;
};

export const incrementOf = (outlet: Outlet, currency: string): Micros =>
  outlet.bidIncrement ?? minorUnit(currency);

export const partLimits = ({ limits }: Outlet) => ({
  groups: limits.groupsPerCampaign,
  rows: limits.rowsPerCampaign,
});

/**
 * The campaigns and names that one outlet gets, for all groups of a plan in their order: campaigns over its limits in
 * numbered parts, groups that stood in a part before staying there; names cut and unique again. O(groups).
 */
export function placeGroups(
  groups: readonly PlacedGroup[],
  outlet: Outlet,
  partBefore: (at: number) => number = () => 0,
): OutletPlace[] {
  const campaignNames = new UniqueNames(outlet.limits.campaignName);
  const places: OutletPlace[] = Array.from({ length: groups.length });
  for (const own of byCampaign(groups).values()) {
    const { campaignName } = itemAt(groups, numberAt(own, 0));
    const rows = Uint32Array.from(own, (at) => itemAt(groups, at).rows);
    const parts = splitParts(rows, partLimits(outlet), Uint32Array.from(own, partBefore));
    const names = new UniqueNames(outlet.limits.groupName);
    const partNames = new Map<number, string>();
    for (const part of [...new Set(parts)].sort((a, b) => a - b))
      partNames.set(part, campaignNames.take(campaignAt(campaignName, outlet, part)));
    own.forEach((at, place) => {
      const part = uint32At(parts, place);
      const name = names.take(itemAt(groups, at).name);
      places[at] = { campaign: gotten(partNames, part), part, name };
    });
  }
  return places;
}

function byCampaign(groups: readonly PlacedGroup[]): Map<string, number[]> {
  const campaigns = new Map<string, number[]>();
  groups.forEach(({ campaign }, at) => {
    const list = campaigns.get(campaign);
    if (list) list.push(at);
    else campaigns.set(campaign, [at]);
  });
  return campaigns;
}

/** The name of a campaign's part within the outlet's limit; the number is never what is cut. */
export function campaignAt(name: string, outlet: Outlet, part: number): string {
  const room = outlet.limits.campaignName - (part === 1 ? 0 : String(part).length + 1);
  return partName(cutAtWord(name, room), part);
}
