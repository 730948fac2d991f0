import type { CampaignRow } from '@sprig/contracts';
import { group as grouped } from 'd3';

export type SizedGroup = {
  key: string;
  name: string;
  campaign: string;
  /** The theme that it was made of; 0: none. */
  theme: number;
  searches: number;
  keywords: number;
};
export type NamedTheme = { id: number; parent: number | null; name: string };

/** A campaign, a theme's ad groups in it, a part of what is too much to be drawn, or an ad group. */
export type SizeNode = {
  /** An ad group's or a campaign's own; of what lies between, the way to it: `c1/t12/31-60`. */
  key: string;
  name: string;
  kind: 'campaign' | 'theme' | 'part' | 'group';
  /** The campaign that it lies in; of a part of many campaigns the first. */
  campaign: string;
  groups: readonly SizedGroup[];
  value: number;
  children: () => readonly SizeNode[];
};

/** So many lie side by side below one thing; of more the largest do, and parts of all others. */
export const MOST_BESIDE = 30;

type Input = {
  campaigns: readonly Pick<CampaignRow, 'key' | 'name' | 'searches' | 'keywords'>[];
  groups: readonly SizedGroup[];
  themes: readonly NamedTheme[];
  measureOf: (one: { key: string; searches: number; keywords: number }) => number;
};

/** Campaigns, in them their themes as deep as they go, and ad groups: never too many side by side to be read. */
export function sizeTree({ campaigns, groups, themes, measureOf }: Input): readonly SizeNode[] {
  const ways = waysOf(themes);
  const byCampaign = grouped(groups, ({ campaign }) => campaign);
  const sizeOf = (list: readonly SizedGroup[]) => list.reduce((sum, group) => sum + measureOf(group), 0);
  const groupNode = (group: SizedGroup): SizeNode => ({
    key: group.key,
    name: group.name,
    kind: 'group',
    campaign: group.campaign,
    groups: [group],
    value: measureOf(group),
    children: () => [],
  });
  /** What lies below a number of ad groups that have `depth` themes above each other in common. */
  const below = (way: string, list: readonly SizedGroup[], depth: number): readonly SizeNode[] => {
    if (list.length <= MOST_BESIDE) return bySize(list.map(groupNode));
    const byTheme = grouped(list, ({ theme }) => ways.get(theme)?.[depth]);
    const only = byTheme.size === 1 ? [...byTheme.keys()][0] : null;
    if (only) return below(way, list, depth + 1);
    const nodes = [...byTheme].flatMap(([theme, own]): SizeNode[] => {
      if (!theme || own.length === 1) return own.map(groupNode);
      const key = `${way}/t${theme.id}`;
      const [{ campaign }] = own as [SizedGroup];
      const children = once(() => below(key, own, depth + 1));
      return [{ key, name: theme.name, kind: 'theme', campaign, groups: own, value: sizeOf(own), children }];
    });
    return inParts(way, bySize(nodes));
  };
  const top = campaigns.map((campaign): SizeNode => {
    const { key, name } = campaign;
    const own = byCampaign.get(key) ?? [];
    const value = measureOf(campaign);
    return {
      key,
      name,
      kind: 'campaign',
      campaign: key,
      groups: own,
      value,
      children: once(() => below(key, own, 0)),
    };
  });
  return inParts('', top);
}

/** The largest as they are, and all others in parts of about the same number, each of which opens in the same way. */
function inParts(way: string, nodes: readonly SizeNode[], from = 1): readonly SizeNode[] {
  if (nodes.length <= MOST_BESIDE) return nodes;
  const single = MOST_BESIDE / 2;
  const each = Math.ceil((nodes.length - single) / (MOST_BESIDE - single));
  const parts: SizeNode[] = [];
  for (let at = single; at < nodes.length; at += each) {
    const own = nodes.slice(at, at + each);
    const [first, last] = [from + at, from + at + own.length - 1];
    const key = `${way}/${first}-${last}`;
    parts.push({
      key,
      name:
        own.length === 1
          ? (own[0] as SizeNode).name
          : `${first.toLocaleString('en')} to ${last.toLocaleString('en')} by size`,
      kind: 'part',
      campaign: (own[0] as SizeNode).campaign,
      groups: own.flatMap(({ groups }) => groups),
      value: own.reduce((sum, { value }) => sum + value, 0),
      children: once(() => inParts(way, own, first)),
    });
  }
  return [...nodes.slice(0, single), ...parts];
}

const bySize = (nodes: readonly SizeNode[]) => nodes.toSorted((a, b) => b.value - a.value);

function once<T>(work: () => T): () => T {
  let kept: { value: T } | null = null;
  return () => {
    kept ??= { value: work() };
    return kept.value;
  };
}

/** The themes above each theme and itself, the outermost first. */
function waysOf(themes: readonly NamedTheme[]): ReadonlyMap<number, readonly NamedTheme[]> {
  const byId = new Map(themes.map((theme) => [theme.id, theme]));
  return new Map(
    themes.map(({ id }) => {
      const way: NamedTheme[] = [];
      for (
        let at = byId.get(id);
        at && !way.includes(at);
        at = at.parent === null ? undefined : byId.get(at.parent)
      )
        way.unshift(at);
      return [id, way] as const;
    }),
  );
}

/** The way from the top down to the node with this key, as far as it is there; empty: it is not. */
export function wayTo(top: readonly SizeNode[], key: string | null): readonly SizeNode[] {
  const way: SizeNode[] = [];
  for (let level = top; key !== null && level.length > 0; ) {
    const next = level.find((node) => node.key === key || key.startsWith(`${node.key}/`));
    // Parts have keys of their own level: what they hold is looked for below them.
    const part = next ?? level.find((node) => node.kind === 'part' && holdsKey(node, key));
    if (!part) return [];
    way.push(part);
    if (part.key === key) return way;
    level = part.children();
  }
  return [];
}

const holdsKey = (node: SizeNode, key: string): boolean =>
  node
    .children()
    .some(
      (child) =>
        child.key === key ||
        key.startsWith(`${child.key}/`) ||
        (child.kind === 'part' && holdsKey(child, key)),
    );

/** The way down to what an ad group lies in, without the group itself. */
export function wayToGroup(top: readonly SizeNode[], group: string): readonly SizeNode[] {
  const way: SizeNode[] = [];
  for (let level = top; ; ) {
    const next = level.find((node) => node.kind !== 'group' && node.groups.some(({ key }) => key === group));
    if (!next) return way;
    way.push(next);
    level = next.children();
  }
}
