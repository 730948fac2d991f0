import { type Hold, labelsOf, type Status, statusOf } from '../build/index.ts';
import { type AdMeasure, adRulesFor, takersOf } from '../outlets/index.ts';
import type { ListedWords, TokenValues } from '../text/index.ts';
import {
  type Address,
  type AddressMaker,
  type AddressRule,
  type AdField,
  type AdForm,
  type AdLimits,
  type AdPattern,
  addressMaker,
  type CompiledPattern,
  compileLines,
  type EditorialWords,
  type FittedFields,
  fitField,
  fitFields,
  type GroupAddress,
  groupValues,
  type InsertionCheck,
  isAdField,
  type Kept,
  limitsOf,
  readSite,
  statusOfVersion,
  type TextRules,
  textOf,
  tryInsertion,
  unfilledOf,
  type VersionName,
  versionsOf,
} from '../write/index.ts';
import type { HeldAds } from './held-ads.ts';

/** A pattern of the plan with its number, by which its ads are keyed. */
export type NumberedPattern = { id: number; body: AdPattern };

/** What tells the values of a group's tokens, and which patterns are for it. */
export type TokenGroup = {
  key: string;
  keyword: string;
  name: string;
  theme: number;
  /** Its theme's name, and that of the theme at the top of its branch; empty for the unplaced. */
  themeName: string;
  branch: string;
  place: string | null;
  stage: string | null;
  campaignKey: string;
};

/** What the tokens of all groups have in common; `@brand` is the one that a group's keyword names. */
export type CommonTokens = { site: string; offer: string; year: string; brands: ListedWords };

/** What ads are made of, whatever groups they are for. `parentOf` gives the theme above a theme, null at the top. */
export type AdInput = {
  patterns: readonly NumberedPattern[];
  address: AddressRule;
  common: CommonTokens;
  held: HeldAds;
  writing: TextRules;
  parentOf: (theme: number) => number | null;
};

/** An ad of one group at one outlet. */
export type WrittenAd = {
  /** The group's, then `/a` and the pattern's number, then `b` for the second version of a split test. */
  key: string;
  groupKey: string;
  pattern: number;
  version: VersionName;
  name: string;
  form: AdForm;
  status: Status;
  labels: string[];
  fields: FittedFields;
  kept: Kept;
  address: GroupAddress;
  /** What the rule would give in the place of what is held, by field; null where nothing is. */
  covered: Record<string, string> | null;
};

/** An ad that would say the same as another one of its group is not made; how often that was. */
export type AdsOfGroup = { ads: WrittenAd[]; doubled: number };

export const adKeyOf = (groupKey: string, pattern: number, version: VersionName = 'a'): string =>
  `${groupKey}/a${pattern}${version === 'a' ? '' : version}`;

export const unfilledOfAd = ({ fields, address }: WrittenAd): (AdField | 'finalUrl')[] => [
  ...unfilledOf(fields),
  ...(address.final.status === 'problem' ? (['finalUrl'] as const) : []),
];

/** What a group's tokens stand for. The site is as one would say it: without its scheme. */
export const tokensOf = (group: TokenGroup, common: CommonTokens): TokenValues => ({
  keyword: group.keyword,
  group: group.name,
  theme: group.themeName,
  branch: group.branch,
  place: group.place ?? '',
  stage: group.stage ?? '',
  offer: common.offer,
  brand: common.brands.in(group.keyword) ?? '',
  year: common.year,
  site: common.site
    .trim()
    .replace(/^https?:\/\//i, '')
    .replace(/\/+$/, ''),
});

type Version = { version: VersionName; compiled: CompiledPattern; label: string | null };
type Ready = {
  pattern: NumberedPattern;
  limits: AdLimits;
  versions: Version[];
  isFor: (group: TokenGroup) => boolean;
  /** The outlets that get its ads. */
  takers: readonly number[];
};

/** Writes the ads of any number of groups for one outlet, with what is held on top. */
export class AdWriter {
  private readonly ready: Ready[];
  private readonly addresses: AddressMaker;

  constructor(
    private readonly input: AdInput,
    private readonly outlet: AdMeasure,
  ) {
    this.addresses = addressMaker(input.address);
    this.ready = input.patterns.flatMap((pattern) => {
      const form = adRulesFor(outlet, pattern.body.outlets)?.[pattern.body.form];
      if (!form) return [];
      return [
        {
          pattern,
          limits: limitsOf(form),
          versions: versionsOf(pattern.body),
          isFor: scopeOf(pattern.body, input.parentOf),
          takers: takersOf(outlet, pattern.body.outlets, pattern.body.form),
        },
      ];
    });
  }

  /** The group's ads in the order of their patterns. */
  of(group: TokenGroup): AdsOfGroup {
    const values = groupValues(tokensOf(group, this.input.common));
    const path = this.input.held.pathOf(group.campaignKey);
    const address = this.addresses.of(values, branchOf(group.theme, this.input.parentOf), path);
    const seen = new Set<string>();
    /** The outlets at which the group has an ad. */
    const covered = new Set<number>();
    const made: AdsOfGroup = { ads: [], doubled: 0 };
    for (const ready of this.ready) {
      const { groups } = ready.pattern.body;
      const { takers } = ready;
      if (groups.to === 'without' ? takers.every((at) => covered.has(at)) : !ready.isFor(group)) continue;
      for (const at of takers) covered.add(at);
      for (const version of ready.versions) {
        const ad = this.write(group.key, ready, version, values, address);
        // What different outlets get may say the same.
        const said = `${takers.join()}\n${saidBy(ad)}`;
        if (seen.has(said)) {
          made.doubled++;
          continue;
        }
        seen.add(said);
        made.ads.push(ad);
      }
    }
    return made;
  }

  /** Where keywords of a group lead by the rule, each once; null: where the group's ads do. */
  keywordAddresses(group: TokenGroup, keywords: Iterable<string>): ReadonlyMap<string, Address> | null {
    const { ofKeyword } = this.addresses;
    if (!ofKeyword) return null;
    const found = new Map<string, Address>();
    for (const keyword of keywords)
      if (!found.has(keyword))
        found.set(keyword, ofKeyword(groupValues(tokensOf({ ...group, keyword }, this.input.common))));
    return found;
  }

  /** Tries all keywords of a group in the fields of an ad that are live; what is held by hand is not tried. */
  insertion(
    ad: WrittenAd,
    group: TokenGroup,
    keywords: readonly string[],
    words: EditorialWords,
  ): InsertionCheck[] {
    const ready = this.ready.find(({ pattern }) => pattern.id === ad.pattern);
    const made = ready?.versions.find(({ version }) => version === ad.version);
    if (!ready || !made) return [];
    const values = tokensOf(group, this.input.common);
    return tryInsertion(made.compiled, values, keywords, ready.limits, this.input.writing, words).filter(
      ({ field }) => ad.covered?.[field] === undefined,
    );
  }

  private write(
    groupKey: string,
    { pattern: { id, body }, limits }: Ready,
    { version, compiled, label }: Version,
    values: TokenValues,
    address: GroupAddress,
  ): WrittenAd {
    const key = adKeyOf(groupKey, id, version);
    const ad: WrittenAd = {
      key,
      groupKey,
      pattern: id,
      version,
      name: body.name,
      form: body.form,
      status: statusOfVersion(body, version),
      labels: label === null || label === '' ? body.labels : [...new Set([...body.labels, label])],
      fields: fitFields(compiled, values, limits, this.input.writing),
      kept: compiled.kept,
      address,
      covered: null,
    };
    const held = this.input.held.of(groupKey, key, this.outlet.key);
    return held ? withHeld(ad, held, values, limits, this.input.writing) : ad;
  }
}

/** A theme and those above it, the nearest first; none of the unplaced. */
export function branchOf(theme: number, parentOf: (theme: number) => number | null): number[] {
  const branch: number[] = [];
  let at: number | null = theme;
  while (at !== null && at !== 0 && !branch.includes(at)) {
    branch.push(at);
    at = parentOf(at);
  }
  return branch;
}

/** Two ads of a group that a searcher can't tell apart say the same. */
function saidBy({ form, fields, kept }: WrittenAd): string {
  let said: string = form;
  for (const name in fields) {
    const fit = fields[name as AdField];
    if (!fit || fit.status === 'empty') continue;
    said += `\n${name} ${kept[name as AdField] ?? ''} ${textOf(fit)}`;
    if (fit.status === 'fits') for (const { from, to } of fit.live) said += ` ${from}-${to}`;
  }
  return said;
}

/** Whether a pattern is for a group, but for those that are for groups without an ad: these hang on the patterns before. */
export function scopeOf(
  { groups }: Pick<AdPattern, 'groups'>,
  parentOf: (theme: number) => number | null,
): (group: TokenGroup) => boolean {
  if (groups.to === 'groups') {
    const keys = new Set(groups.groups);
    return ({ key }) => keys.has(key);
  }
  if (groups.to === 'campaigns') {
    const keys = new Set(groups.campaigns);
    return ({ campaignKey }) => keys.has(campaignKey);
  }
  if (groups.to !== 'themes') return () => true;
  const themes = new Set(groups.themes);
  const known = new Map<number, boolean>();
  const isIn = (theme: number | null, depth = 0): boolean => {
    if (theme === null || theme === 0 || depth > 100) return false;
    const there = known.get(theme) ?? (themes.has(theme) || isIn(parentOf(theme), depth + 1));
    known.set(theme, there);
    return there;
  };
  return ({ theme }) => isIn(theme);
}

/** A held text stands as written, its tokens filled in; where it is too long it is unfilled, like a rule's. */
function withHeld(
  ad: WrittenAd,
  held: ReadonlyMap<string, Hold>,
  values: TokenValues,
  limits: AdLimits,
  writing: TextRules,
): WrittenAd {
  const fields = { ...ad.fields };
  const covered: Record<string, string> = {};
  const plain = { ...writing, casing: null };
  let { address } = ad;
  for (const [field, { value }] of held) {
    const text = String(value);
    if (field === 'finalUrl') {
      covered[field] = ad.address.final.status === 'address' ? ad.address.final.href : '';
      address = { ...address, final: readSite(text) };
      continue;
    }
    if (!isAdField(field)) continue;
    const limit = limits[field];
    if (!limit) continue;
    covered[field] = textOf(ad.fields[field]);
    fields[field] =
      text.trim() === '' && !limit.required
        ? { status: 'empty' }
        : fitField(field, compileLines([text], 'as-is'), values, { ...limit, required: true }, plain);
  }
  const status = held.has('status') ? statusOf(held) : ad.status;
  if (held.has('status')) covered.status = ad.status;
  const labels = held.get('labels');
  if (labels) covered.labels = ad.labels.join(', ');
  return {
    ...ad,
    fields,
    address,
    status,
    labels: labels ? labelsOf(String(labels.value)) : ad.labels,
    covered,
  };
}
