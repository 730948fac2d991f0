import { type MatchType, matchRules, matchTypes } from '../match/index.ts';
import { hashOf } from '../text/index.ts';

/**
 * The stable keys of what is derived: made of rule and source numbers, never of names, so that renaming moves nothing.
 * Campaigns: `c`, `ct5` (of theme 5), `cw1f` (a place), `cs12` (a source), `cf3` (a stage), with `l2` behind it in lane 2.
 * Ad groups: `k12` (of keyword 12), `t5` (of theme 5), then what a campaign's kind parts them by, the part, and the lane:
 * `t5f3p2l2`. Keyword rows: `k12:e`. Ads: the group's, then `/a` and the number of the ad's pattern,
 * `b` behind it for the second version of a split test. What is copied has `x3.` before it.
 */
export const groupKeyOf = (keywordId: number): string => `k${keywordId}`;
export const rowKeyOf = (keywordId: number, type: MatchType): string =>
  `k${keywordId}:${matchRules[type].key}`;

const CAMPAIGN = String.raw`c(?:t\d+|w[0-9a-f]+|s\d+|f\d)?(?:l\d+)?`;
const GROUP = String.raw`(?:k\d+|t\d+(?:w[0-9a-f]+|s\d+|f\d)?(?:p\d+)?)(?:l\d+)?`;
const ROW = String.raw`k\d+:[${matchTypes.map((type) => matchRules[type].key).join('')}]`;
const COPY = String.raw`(?:x\d+\.)*`;

export const campaignKeyPattern = new RegExp(`^${COPY}${CAMPAIGN}$`);
export const groupKeyPattern = new RegExp(`^${COPY}${GROUP}$`);
export const rowKeyPattern = new RegExp(`^${COPY}${ROW}$`);
export const adKeyPattern = new RegExp(String.raw`^${COPY}${GROUP}/a\d+b?$`);

export type KeyKind = 'campaign' | 'group' | 'row' | 'ad';

export function kindOfKey(key: string): KeyKind | null {
  if (adKeyPattern.test(key)) return 'ad';
  if (rowKeyPattern.test(key)) return 'row';
  if (groupKeyPattern.test(key)) return 'group';
  return campaignKeyPattern.test(key) ? 'campaign' : null;
}

/** The ad group of an ad's key; any other key as it is. */
export function groupOfAd(key: string): string {
  const at = key.indexOf('/a');
  return at < 0 ? key : key.slice(0, at);
}

/** The number of an ad's pattern, by the ad's key; 0 where it is none. */
export const patternOfAd = (key: string): number => Number(/\/a(\d+)b?$/.exec(key)?.[1] ?? 0);

/** The version of a split test that an ad is, by its key; the first where it is of none. */
export const versionOfAd = (key: string): 'a' | 'b' => (key.endsWith('b') ? 'b' : 'a');

/** The numbered part that a themed group's key names; 1 where it names none. */
export const partOfKey = (key: string): number => Number(/p(\d+)(?:l\d+)?$/.exec(key)?.[1] ?? 1);

/** A place's name as part of a key. */
export const placeKey = (name: string): string => `w${hashOf(name).toString(16)}`;
