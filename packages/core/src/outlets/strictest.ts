import { itemAt } from '../access/index.ts';
import { type FormLimits, type Insertion, limitsOf, type PartLimits, partsOfAd } from '../write/index.ts';
import type { AdRules, Outlet } from './outlet.ts';

/** An outlet, or several together, of which ads are measured by all that take them. */
export type MeasuredOutlet = Outlet & { members?: readonly Outlet[] };
/** What of it ads are written by. */
export type AdMeasure = Pick<MeasuredOutlet, 'ad' | 'key' | 'members'>;

/**
 * What all of some outlets together ask of what is written: each field as short as the shortest that takes it, as many
 * fields as the one with most of them, needed where one of them needs it. An outlet without a form has no say in it; a form
 * that none of them knows is null. With one outlet it is that one.
 *
 * Titles of 32, 46 and 30 letters, three, one and two of them: the first two hold 30, the third 32.
 */
export function strictestOf(outlets: readonly [Outlet, ...Outlet[]]): MeasuredOutlet {
  const [first, ...others] = outlets;
  if (others.length === 0) return first;
  const least = <T extends Record<string, number>>(limits: readonly T[]): T =>
    Object.fromEntries(
      Object.keys(itemAt(limits, 0)).map((name) => [
        name,
        Math.min(...limits.map((one) => one[name] as number)),
      ]),
    ) as T;
  const extras = outlets.map(({ ad }) => ad.extras);
  return {
    ...first,
    members: outlets,
    key: `all:${outlets.map(({ key }) => key).join('+')}`,
    name: 'all outlets',
    limits: least(outlets.map(({ limits }) => limits)),
    advised: strictestAdvice(outlets),
    ad: {
      plain: strictestForm(outlets, 'plain'),
      assembled: strictestForm(outlets, 'assembled'),
      insertion: outlets.map(({ ad }) => ad.insertion).find((one): one is Insertion => one !== null) ?? null,
      extras: {
        sitelink: least(extras.map(({ sitelink }) => sitelink)),
        callout: least(extras.map(({ callout }) => callout)),
      },
    },
  };
}

/**
 * What the ads of a pattern are measured by: all of these outlets that it is for, by their keys (none: all of them). Null: it is
 * for none of them.
 */
export function adRulesFor({ ad, key, members }: AdMeasure, keys: readonly string[]): AdRules | null {
  if (keys.length === 0) return ad;
  if (!members) return keys.includes(key) ? ad : null;
  const [first, ...others] = members.filter((one) => keys.includes(one.key));
  if (!first) return null;
  return others.length + 1 === members.length ? ad : strictestOf([first, ...others]).ad;
}

/** As many ads as the one that advises most of them at least, and no more than any advises. */
function strictestAdvice(outlets: readonly Outlet[]): Outlet['advised'] {
  const of = (form: 'plain' | 'assembled') => ({
    least: Math.max(...outlets.map(({ advised }) => advised[form].least)),
    most: Math.min(...outlets.map(({ advised }) => advised[form].most)),
  });
  return {
    plain: of('plain'),
    assembled: of('assembled'),
    keywordsPerGroup: Math.min(...outlets.map(({ advised }) => advised.keywordsPerGroup)),
    groupsPerCampaign: leastOf(outlets.map(({ advised }) => advised.groupsPerCampaign)),
    sitelinks: Math.max(...outlets.map(({ advised }) => advised.sitelinks)),
    callouts: Math.max(...outlets.map(({ advised }) => advised.callouts)),
  };
}

const leastOf = (numbers: readonly (number | null)[]): number | null =>
  numbers.reduce((least, one) => (least === null || (one !== null && one < least) ? one : least), null);

/** The outlets, of one or of several together, by their keys. */
export const membersOf = ({ ad, key, members }: AdMeasure) => members ?? [{ ad, key }];

/** Which of them get ads of a form from a pattern that is for these outlets (none: for all), by their places. */
export const takersOf = (outlet: AdMeasure, keys: readonly string[], form: 'plain' | 'assembled'): number[] =>
  membersOf(outlet).flatMap(({ ad, key }, at) =>
    ad[form] && (keys.length === 0 || keys.includes(key)) ? [at] : [],
  );

function strictestForm(outlets: readonly Outlet[], name: 'plain' | 'assembled'): FormLimits | null {
  const forms = outlets.flatMap(({ ad }) => ad[name] ?? []);
  if (forms.length === 0) return null;
  return Object.fromEntries(
    partsOfAd.map((part) => [part, strictestPart(forms.map((form) => form[part]))]),
  ) as FormLimits;
}

function strictestPart(parts: readonly PartLimits[]): PartLimits {
  const most = Math.max(...parts.map((part) => part.most));
  const each = Array.from({ length: most }, (_, at) =>
    Math.min(...parts.flatMap((part) => (part.most > at ? (part.each?.[at] ?? part.limit) : []))),
  );
  const taken = parts.filter((part) => part.most > 0);
  return {
    limit: Math.min(...(taken.length > 0 ? taken : parts).map((part) => part.limit)),
    each,
    least: Math.max(...parts.map((part) => part.least)),
    most,
    shown: Math.max(...parts.map((part) => part.shown)),
  };
}

/** How long a keyword may be, in words and in characters, to be taken by each of some outlets. */
export function keywordLimits(outlets: readonly Outlet[]): { words: number; length: number } {
  return {
    words: Math.min(...outlets.map(({ limits }) => limits.keywordWords)),
    length: Math.min(...outlets.map(({ limits }) => limits.keywordLength)),
  };
}

/** The outlets of some whose ads of a form have a field, each with how long it may be, the shortest first. */
export function roomsFor(
  outlets: readonly Outlet[],
  form: keyof Pick<AdRules, 'plain' | 'assembled'>,
  field: keyof ReturnType<typeof limitsOf>,
): { name: string; limit: number }[] {
  return outlets
    .flatMap(({ name, ad }) => {
      const limits = ad[form];
      const limit = limits && limitsOf(limits)[field]?.limit;
      return limit ? [{ name, limit }] : [];
    })
    .sort((a, b) => a.limit - b.limit);
}
