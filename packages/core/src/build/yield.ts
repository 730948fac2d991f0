import { eachType, type MatchType } from '../match/index.ts';
import { type Micros, medianOf } from '../money/index.ts';
import { bidOfRow } from './bid.ts';
import { RowBuilder } from './build-group.ts';
import type { Frame } from './frame.ts';

/** The running sum from the pool to what is built. */
export type BuildYield = {
  keywords: number;
  searches: number;
  campaigns: number;
  groups: number;
  rows: number;
  rowsByType: Record<MatchType, number>;
  /** Null where there is no row. */
  lowestBid: Micros | null;
  highestBid: Micros | null;
  medianBid: Micros | null;
  withoutEstimate: number;
  /** The most keywords that an ad group has. */
  largestGroup: number;
  /** The first names, as examples. */
  campaignNames: string[];
  groupNames: string[];
};

const EXAMPLES = 3;

/** What a frame will hold, counted. O(rows). */
export function buildYield(frame: Frame, increment: Micros): BuildYield {
  const { input, campaigns, groups } = frame;
  const builder = new RowBuilder(frame);
  const bids: Micros[] = [];
  const rowsByType = eachType(() => 0);
  const built = new Set<number>();
  let largestGroup = 0;
  for (const group of groups) {
    largestGroup = Math.max(largestGroup, group.members.length);
    for (const at of group.members) built.add(at);
    for (const row of builder.rows(group)) {
      rowsByType[row.type]++;
      bids.push(bidOfRow(row, input.layout.ladder, increment));
    }
  }
  let [lowestBid, highestBid]: [Micros | null, Micros | null] = [null, null];
  for (const bid of bids) {
    if (lowestBid === null || bid < lowestBid) lowestBid = bid;
    if (highestBid === null || bid > highestBid) highestBid = bid;
  }
  let searches = 0;
  let withoutEstimate = 0;
  for (const at of built) {
    searches += Math.max(0, input.keywords[at]?.searches ?? 0);
    if (input.keywords[at]?.cpc == null) withoutEstimate++;
  }
  return {
    keywords: built.size,
    searches,
    campaigns: campaigns.length,
    groups: groups.length,
    rows: bids.length,
    rowsByType,
    lowestBid,
    highestBid,
    medianBid: medianOf(bids),
    withoutEstimate,
    largestGroup,
    campaignNames: campaigns.slice(0, EXAMPLES).map(({ name }) => name),
    groupNames: groups.slice(0, EXAMPLES).map(({ name }) => name),
  };
}
