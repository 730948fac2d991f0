import { type AdsBy, MOST_AD_SIDES } from '@sprig/contracts';
import { patternOfAd, versionOfAd } from '@sprig/core/build';
import type { AdPattern } from '@sprig/core/write';
import { select } from '../../db/connect.ts';
import { patternsOf } from '../../plan/ad-inputs.ts';
import type { PlanCaller } from '../../platform/caller.ts';

/** An ad of today's plan that reports tell of. */
export type ToldAd = { key: string; pattern: number; version: 'a' | 'b' };
/** Two sides that some ads are on. */
export type Sides = {
  id: string;
  names: [string, string];
  pattern: string | null;
  sideOf: (ad: ToldAd) => 0 | 1 | -1;
  paused: 'a' | 'b' | null;
};
export const toldAd = (key: string): ToldAd => ({
  key,
  pattern: patternOfAd(key),
  version: versionOfAd(key),
});

/** What is held against each other, of ads that reports tell of. */
export async function sidesBy(
  caller: PlanCaller,
  by: AdsBy,
  ads: readonly (ToldAd | null)[],
): Promise<Sides[]> {
  const patterns = await patternsOf((sql) => select(caller.database, sql, [caller.plan]));
  if (by === 'version') return patterns.flatMap(({ id, body }) => versionsIn(id, body));
  return by === 'pattern' ? pairsOfPatterns(patterns, ads) : pairsOfLabels(caller, ads);
}

function versionsIn(id: number, { name, split }: AdPattern): Sides[] {
  if (split.by === 'none') return [];
  return [
    {
      id: String(id),
      names: [split.labels[0] || 'first version', split.labels[1] || 'second version'],
      pattern: name,
      sideOf: ({ pattern, version }) => {
        if (pattern !== id) return -1;
        return version === 'a' ? 0 : 1;
      },
      paused: split.paused,
    },
  ];
}

type Numbered = { id: number; body: AdPattern };

const pairsOf = <T>(all: readonly T[]): [T, T][] =>
  all.flatMap((one, at) => all.slice(at + 1).map((other): [T, T] => [one, other]));

/** Counted names, those that come most often first. */
function most<T>(all: Iterable<T>): T[] {
  const counts = new Map<T, number>();
  for (const one of all) counts.set(one, (counts.get(one) ?? 0) + 1);
  return [...counts].sort((a, b) => b[1] - a[1]).map(([one]) => one);
}

function pairsOfPatterns(patterns: readonly Numbered[], ads: readonly (ToldAd | null)[]): Sides[] {
  const told = new Set(most(ads.flatMap((ad) => (ad ? [ad.pattern] : []))).slice(0, MOST_AD_SIDES));
  return pairsOf(patterns.filter(({ id }) => told.has(id))).map(([one, other]) => ({
    id: `${one.id} ${other.id}`,
    names: [one.body.name, other.body.name],
    pattern: null,
    sideOf: ({ pattern }) => {
      if (pattern === one.id) return 0;
      return pattern === other.id ? 1 : -1;
    },
    paused: pausedOf(one.body.status === 'paused', other.body.status === 'paused'),
  }));
}

function pausedOf(first: boolean, second: boolean): Sides['paused'] {
  if (first) return 'a';
  return second ? 'b' : null;
}

/** Labels of ads that reports tell of; an ad that has both is on no side. */
async function pairsOfLabels(
  { database, plan }: PlanCaller,
  ads: readonly (ToldAd | null)[],
): Promise<Sides[]> {
  const told = new Set(ads.flatMap((ad) => (ad ? [ad.key] : [])));
  const rows = await select<{ key: string; labels: string[]; status: string }>(
    database,
    `select key, labels, status from ads where plan_id = $1 and outlet = 'plain' and labels <> '{}' order by key`,
    [plan],
  );
  const known = rows.filter(({ key }) => told.has(key));
  const labelsOf = new Map(known.map(({ key, labels }) => [key, new Set(labels)]));
  const running = new Set(known.flatMap(({ labels, status }) => (status === 'enabled' ? labels : [])));
  const labels = most(known.flatMap((one) => one.labels)).slice(0, MOST_AD_SIDES);
  return pairsOf(labels.sort()).map(([one, other]) => ({
    id: JSON.stringify([one, other]),
    names: [one, other],
    pattern: null,
    sideOf: ({ key }) => {
      const own = labelsOf.get(key);
      const [first, second] = [own?.has(one) ?? false, own?.has(other) ?? false];
      if (first === second) return -1;
      return first ? 0 : 1;
    },
    paused: pausedOf(!running.has(one), !running.has(other)),
  }));
}
