import { describe, expect, test } from 'vitest';
import { icicleLayout, LEAST_WIDTH, spread, spreadAtLeast } from './icicle-layout.ts';
import {
  MOST_BESIDE,
  type NamedTheme,
  type SizedGroup,
  type SizeNode,
  sizeTree,
  wayTo,
  wayToGroup,
} from './size-tree.ts';

const bySearches = ({ searches }: { searches: number }) => searches;
const group = (key: string, searches: number, theme = 0, campaign = 'c1'): SizedGroup => ({
  key,
  name: key.toUpperCase(),
  campaign,
  theme,
  searches,
  keywords: 1,
});
const tree = (groups: SizedGroup[], themes: NamedTheme[] = []) => {
  const keys = [...new Set(groups.map(({ campaign }) => campaign))];
  const campaigns = keys.map((key) => ({
    key,
    name: key.toUpperCase(),
    searches: groups.filter((one) => one.campaign === key).reduce((sum, { searches }) => sum + searches, 0),
    keywords: 1,
  }));
  return sizeTree({ campaigns, groups, themes, measureOf: bySearches });
};
const many = (count: number, theme = 0, prefix = 'g') =>
  Array.from({ length: count }, (_, at) => group(`${prefix}${at}`, count - at, theme));
/** Everything below, ad groups by their keys. */
const leaves = (node: SizeNode): string[] =>
  node.kind === 'group' ? [node.key] : node.children().flatMap(leaves);
const most = (node: SizeNode): number => Math.max(node.children().length, ...node.children().map(most), 0);

describe('the tree of sizes', () => {
  test('a few ad groups stand in their campaign, the largest first', () => {
    const [campaign] = tree([group('a', 10), group('b', 300), group('c', 20)]);
    expect(campaign?.children().map(({ key }) => key)).toEqual(['b', 'c', 'a']);
  });

  test('more lie in their themes, as deep as these go; one alone in a theme stands by itself', () => {
    const themes = [
      { id: 1, parent: null, name: 'Hire' },
      { id: 2, parent: 1, name: 'Hire by day' },
      { id: 3, parent: 1, name: 'Hire by week' },
      { id: 4, parent: null, name: 'Repair' },
    ];
    const groups = [...many(20, 2, 'day'), ...many(25, 3, 'week'), group('alone', 5, 4), group('none', 1)];
    const [campaign] = tree(groups, themes);
    expect(campaign?.children().map(({ name, kind, groups: own }) => [name, kind, own.length])).toEqual([
      ['Hire', 'theme', 45],
      ['ALONE', 'group', 1],
      ['NONE', 'group', 1],
    ]);
    expect(
      campaign
        ?.children()[0]
        ?.children()
        .map(({ name }) => name),
    ).toEqual(['Hire by week', 'Hire by day']);
  });

  test.each([31, 614, 12_862])(
    '%i without themes: never too many side by side, and each is there once',
    (count) => {
      const [campaign] = tree(many(count));
      expect(most(campaign as SizeNode)).toBeLessThanOrEqual(MOST_BESIDE);
      const found = leaves(campaign as SizeNode);
      expect(found).toHaveLength(count);
      expect(new Set(found).size).toBe(count);
      const [first] = campaign?.children() ?? [];
      expect(first?.key).toBe('g0');
    },
  );

  test('parts are named by their place and hold what they say', () => {
    const [campaign] = tree(many(615));
    const part = campaign?.children()[MOST_BESIDE / 2];
    expect([part?.name, part?.kind, part?.groups.length]).toEqual(['16 to 55 by size', 'part', 40]);
    expect(part?.groups[0]?.key).toBe('g15');
    expect(part?.value).toBe(part?.groups.reduce((sum, { searches }) => sum + searches, 0));
  });

  test('many campaigns are no more side by side than anything else', () => {
    const top = tree(Array.from({ length: 200 }, (_, at) => group(`g${at}`, 1, 0, `c${at}`)));
    expect(top).toHaveLength(MOST_BESIDE);
    expect(top.flatMap(leaves)).toHaveLength(200);
  });

  test('the way to a node, and to what an ad group lies in', () => {
    const top = tree(many(12_862));
    const way = wayToGroup(top, 'g9000');
    expect(way[0]?.key).toBe('c1');
    expect(
      way
        .at(-1)
        ?.children()
        .some(({ key }) => key === 'g9000'),
    ).toBe(true);
    const last = way.at(-1)?.key ?? '';
    expect(wayTo(top, last).map(({ key }) => key)).toEqual(way.map(({ key }) => key));
    expect(wayTo(top, 'c1/t99')).toEqual([]);
    expect(wayTo(top, null)).toEqual([]);
  });
});

describe('the picture of it', () => {
  test('rows lie above each other, each within what holds it, as wide as its share', () => {
    const blocks = icicleLayout(tree([group('a', 200), group('b', 100), group('c', 100, 0, 'c2')]), 400);
    expect(
      blocks.map(({ key, row, rows, x, width }) => [key, row, rows, Math.round(x), Math.round(width)]),
    ).toEqual([
      ['c1', 0, 1, 0, 299],
      ['a', 1, 2, 0, 199],
      ['b', 1, 2, 200, 99],
      ['c2', 0, 1, 300, 99],
      ['c', 1, 2, 300, 99],
    ]);
  });

  test.each([375, 1_240, 2_500])(
    'of 12,862 ad groups in a window of %i nothing is too narrow, or outside',
    (width) => {
      const blocks = icicleLayout(tree(many(12_862)), width);
      for (const { x, width: own } of blocks) {
        expect(own).toBeGreaterThanOrEqual(LEAST_WIDTH - 1 - 1e-6);
        expect(x + own).toBeLessThanOrEqual(width + 1e-6);
      }
      const second = blocks.filter(({ row }) => row === 1);
      expect(second.length).toBeGreaterThan(10);
      // Nothing is left out without saying so.
      expect(second.reduce((sum, { groups }) => sum + groups, 0)).toBe(12_862);
    },
  );

  test('what has a small share is still wide enough, and what has none shares evenly', () => {
    const places = spreadAtLeast([9_990, 5, 5], 0, 100, 5);
    expect(places.map(({ width }) => Math.round(width))).toEqual([89, 4, 4]);
    expect(spread([0, 0], 0, 100)).toEqual([
      { x: 0, width: 49 },
      { x: 50, width: 49 },
    ]);
    const flat = icicleLayout(tree([group('a', 0), group('b', 0)]), 200);
    expect(flat.filter(({ row }) => row === 1).map(({ width }) => Math.round(width))).toEqual([99, 99]);
  });
});
