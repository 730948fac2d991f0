import { buildFrame } from './build-frame.ts';
import { type BuiltCampaign, type BuiltGroup, type BuiltRow, RowBuilder } from './build-group.ts';
import type { FrameInput } from './frame.ts';
import type { Hold } from './hold.ts';

/** The one outlet-neutral plan: `project` makes of it what an outlet gets. */
export type BuiltPlan = {
  campaigns: BuiltCampaign[];
  groups: BuiltGroup[];
  rows: BuiltRow[];
  /** What is held on rows that no rule makes any more. */
  orphans: Hold[];
};

/**
 * Campaigns, ad groups and keyword rows by the rules, with what is held on top as the last step. Building twice gives
 * the same. O(rows).
 */
export function buildPlan(input: FrameInput): BuiltPlan {
  const frame = buildFrame(input);
  const builder = new RowBuilder(frame);
  const rows: BuiltRow[] = [];
  for (const group of frame.groups) for (const row of builder.rows(group)) rows.push(row);
  return {
    campaigns: frame.campaigns.map((campaign) => ({ ...campaign, lane: campaign.lane?.id ?? null })),
    groups: frame.groups.map((group) => builder.group(group)),
    rows,
    orphans: input.holds.filter(({ rowKey }) => !frame.makes(rowKey)),
  };
}
