import type { CampaignRow } from '@sprig/contracts';

export type Block = {
  key: string;
  name: string;
  kind: 'campaign' | 'group' | 'rest' | 'keyword';
  x: number;
  width: number;
  /** What its width stands for. */
  value: number;
  campaign: string;
};

/** What the picture is drawn of: groups with the measure that widths stand for. */
export type IcicleInput = {
  campaigns: readonly CampaignRow[];
  measureOf: (block: { key: string; searches: number; keywords: number }) => number;
  /** The campaign that fills the width; null: all. */
  zoom: string | null;
  width: number;
};

/** Narrower than this a block can't be hit. */
export const LEAST_WIDTH = 5;
const GAP = 1;

/**
 * Campaigns in a row, each as wide as its share, and below each its largest ad groups; what is too narrow to be hit
 * stands together as the rest. A plan without figures shares the width evenly.
 */
export function icicleLayout({ campaigns, measureOf, zoom, width }: IcicleInput): {
  campaigns: Block[];
  groups: Block[];
} {
  const shown = campaigns.filter(({ key }) => zoom === null || key === zoom);
  const sizes = shown.map((campaign) => measureOf(campaign));
  const row = spread(sizes, 0, width);
  const top: Block[] = [];
  const groups: Block[] = [];
  shown.forEach((campaign, at) => {
    const { x, width: own } = row[at] as { x: number; width: number };
    if (own <= 0) return;
    const { key, name } = campaign;
    top.push({ key, name, kind: 'campaign', x, width: own, value: sizes[at] as number, campaign: key });
    groups.push(...groupBlocks(campaign, measureOf, sizes[at] as number, x, own));
  });
  return { campaigns: top, groups };
}

function groupBlocks(
  campaign: CampaignRow,
  measureOf: IcicleInput['measureOf'],
  whole: number,
  x: number,
  width: number,
): Block[] {
  const values = campaign.largest.map((group) => measureOf(group));
  const listed = values.reduce((sum, value) => sum + value, 0);
  const others = Math.max(0, campaign.groups - campaign.largest.length);
  // Where nothing has a figure every group counts the same.
  const isFlat = whole <= 0;
  const sizes = isFlat ? values.map(() => 1) : values;
  const rest = isFlat ? others : Math.max(0, whole - listed);
  const total = sizes.reduce((sum, value) => sum + value, 0) + rest;
  const order = sizes.map((size, at) => ({ size, at })).sort((a, b) => b.size - a.size || a.at - b.at);
  const blocks: Block[] = [];
  let at = x;
  let hidden = others;
  let hiddenValue = rest;
  for (const { size, at: place } of order) {
    const own = (size / total) * width;
    if (own < LEAST_WIDTH) {
      hidden++;
      hiddenValue += size;
      continue;
    }
    const { key, name } = campaign.largest[place] as CampaignRow['largest'][number];
    blocks.push({
      key,
      name,
      kind: 'group',
      x: at,
      width: own - GAP,
      value: values[place] as number,
      campaign: campaign.key,
    });
    at += own;
  }
  const left = x + width - at;
  if (hidden > 0 && left > 1)
    blocks.push({
      key: `rest ${campaign.key}`,
      name: `${hidden.toLocaleString('en')} more`,
      kind: 'rest',
      x: at,
      width: left - GAP,
      value: hiddenValue,
      campaign: campaign.key,
    });
  return blocks;
}

/** Places side by side in proportion to their sizes; evenly where none has one. */
export function spread(
  sizes: readonly number[],
  from: number,
  width: number,
): { x: number; width: number }[] {
  const total = sizes.reduce((sum, size) => sum + Math.max(0, size), 0);
  let x = from;
  return sizes.map((size) => {
    const own = total > 0 ? (Math.max(0, size) / total) * width : width / sizes.length;
    const place = { x, width: Math.max(0, own - GAP) };
    x += own;
    return place;
  });
}
