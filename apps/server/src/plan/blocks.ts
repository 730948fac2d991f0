import { NegativeIndex, type NegativeKeyword, type NegativeType, writeNegative } from '@sprig/core/match';
import { grouped } from '../platform/grouped.ts';

export type BlockLevel = 'plan' | 'list' | 'campaign' | 'group' | 'fence';
/** A negative that stands between a search and an ad group. */
export type Block = { text: string; type: NegativeType; level: BlockLevel };

export type BlockInput = {
  groups: readonly { key: string; campaign: string }[];
  /** Of the plan, for all of its campaigns. */
  plan: readonly NegativeKeyword[];
  /** Of shared lists: for all campaigns (null) or for some. */
  listed: readonly (NegativeKeyword & { campaigns: readonly string[] | null })[];
  /** Of one campaign or ad group, by its key. */
  placed: readonly (NegativeKeyword & { place: string })[];
  fences: readonly { key: string; texts: readonly string[]; phrases: readonly number[] }[];
};

type Layer = { level: BlockLevel; index: NegativeIndex; negatives: ReadonlyMap<number, NegativeKeyword> };

const layer = (level: BlockLevel, negatives: readonly NegativeKeyword[]): Layer => ({
  level,
  index: new NegativeIndex(negatives),
  negatives: new Map(negatives.map((one) => [one.id, one])),
});

/** Tells which negative stands between a search and an ad group: those of the group, its campaign, the plan, lists. */
export class Blocks {
  private readonly ofPlan: Layer[] = [];
  private readonly byCampaign = new Map<string, Layer[]>();
  private readonly byGroup = new Map<string, Layer[]>();
  /** The fences of each group: texts, and 1 for phrases. Made an index of when the group is first asked about. */
  private readonly fences: ReadonlyMap<string, BlockInput['fences'][number]>;
  private readonly fenceLayers = new Map<string, Layer>();

  constructor(private readonly input: BlockInput) {
    if (input.plan.length > 0) this.ofPlan.push(layer('plan', input.plan));
    const everywhere = input.listed.filter(({ campaigns }) => campaigns === null);
    if (everywhere.length > 0) this.ofPlan.push(layer('list', everywhere));
    const limited = input.listed.flatMap((one) =>
      (one.campaigns ?? []).map((campaign) => ({ ...one, campaign })),
    );
    for (const [campaign, list] of grouped(limited, (one) => one.campaign))
      this.byCampaign.set(campaign, [layer('list', list)]);
    const campaigns = new Set(input.groups.map(({ campaign }) => campaign));
    for (const [place, list] of grouped(input.placed, (one) => one.place)) {
      const isCampaign = campaigns.has(place);
      const map = isCampaign ? this.byCampaign : this.byGroup;
      map.set(place, [...(map.get(place) ?? []), layer(isCampaign ? 'campaign' : 'group', list)]);
    }
    this.fences = new Map(input.fences.map((one) => [one.key, one]));
  }

  /** By the group's place in the input. */
  blockOf = (group: number, search: string): Block | undefined => {
    const { key, campaign } = this.input.groups[group] as { key: string; campaign: string };
    return (
      blockIn(this.byGroup.get(key), search) ??
      this.fenceOf(key, search) ??
      blockIn(this.byCampaign.get(campaign), search) ??
      blockIn(this.ofPlan, search)
    );
  };

  private fenceOf(key: string, search: string): Block | undefined {
    const known = this.fenceLayers.get(key);
    if (known) return blockIn([known], search);
    const list = this.fences.get(key);
    if (!list) return undefined;
    const made = layer(
      'fence',
      list.texts.map((norm, id) => ({ id, norm, type: list.phrases[id] === 1 ? 'phrase' : 'exact' })),
    );
    this.fenceLayers.set(key, made);
    return blockIn([made], search);
  }
}

function blockIn(layers: readonly Layer[] | undefined, search: string): Block | undefined {
  for (const { level, index, negatives } of layers ?? []) {
    const id = index.blocking(search);
    const found = id === undefined ? undefined : negatives.get(id);
    if (found) return { text: writeNegative(found.norm, found.type), type: found.type, level };
  }
  return undefined;
}
