import {
  type AdInput,
  AdWriter,
  type CommonTokens,
  type HeldAds,
  type NumberedPattern,
  type TokenGroup,
  type WrittenAd,
} from '../ads/index.ts';
import { type Layout, themeRules } from '../build/index.ts';
import {
  AdChecks,
  type CheckedAds,
  type GroupFinding,
  PlaceNames,
  type RefusedText,
} from '../findings/index.ts';
import type { AdMeasure, MeasuredOutlet } from '../outlets/index.ts';
import type { Theme } from '../sort/index.ts';
import {
  type Address,
  type AddressRule,
  type EditorialWords,
  readSite,
  type TextRules,
} from '../write/index.ts';

/** A theme as ads can say it: its name, that of the theme at the top of its branch, and the theme above it. */
export type SaidTheme = { name: string; branch: string; parent: number | null };

/** What a plan's ads are written by. */
export type PlanAdRules = {
  patterns: readonly NumberedPattern[];
  address: AddressRule;
  common: CommonTokens;
  held: HeldAds;
  writing: TextRules;
  themes: ReadonlyMap<number, SaidTheme>;
};

/** What a plan's ads are checked by. */
export type PlanCheckRules = {
  /** The plan's own site. */
  site: string;
  words: EditorialWords;
  /** Each place's name and then its other names. */
  places: readonly (readonly string[])[];
  refused: readonly RefusedText[];
  writing: TextRules;
};

/** An ad group as it is known before its ads are written. */
export type GroupOfAds = Pick<
  TokenGroup,
  'key' | 'keyword' | 'name' | 'theme' | 'place' | 'stage' | 'campaignKey'
>;

/** The plan's themes as ads can say them. O(themes × depth). */
export const saidThemes = (
  themes: readonly Theme[],
  layout: Pick<Layout, 'grouping' | 'branches'>,
): Map<number, SaidTheme> =>
  new Map(
    [...themeRules(themes, layout)].map(([id, { theme, top }]) => [
      id,
      { name: theme.name, branch: top.name, parent: theme.parent },
    ]),
  );

/** An ad group with all that its tokens stand for. */
export function saidGroup(
  { key, keyword, name, theme, place, stage, campaignKey }: GroupOfAds,
  themes: PlanAdRules['themes'],
): TokenGroup {
  const said = themes.get(theme);
  const themeName = said?.name ?? '';
  return { key, keyword, name, theme, place, stage, campaignKey, themeName, branch: said?.branch ?? '' };
}

const adInput = ({ themes, ...rules }: PlanAdRules): AdInput => ({
  ...rules,
  parentOf: (theme) => themes.get(theme)?.parent ?? null,
});

/** Writes a plan's ads for an outlet, one ad group after another: the step behind the rows. */
export const planAds = (rules: PlanAdRules, outlet: AdMeasure): AdWriter =>
  new AdWriter(adInput(rules), outlet);

/** Checks a plan's ads for an outlet: the last step. */
export const planChecks = ({ site, places, ...rules }: PlanCheckRules, outlet: MeasuredOutlet): AdChecks =>
  new AdChecks({ ...rules, outlet, site: readSite(site), places: new PlaceNames(places) });

/** Writes and checks the ads of a plan at one outlet, one ad group after another. */
export class AdSteps {
  private readonly writer: AdWriter;
  private readonly checks: AdChecks;

  constructor(
    private readonly rules: PlanAdRules,
    checked: PlanCheckRules,
    outlet: MeasuredOutlet,
  ) {
    this.writer = planAds(rules, outlet);
    this.checks = planChecks(checked, outlet);
  }

  written(group: GroupOfAds): WrittenAd[] {
    return this.writer.of(saidGroup(group, this.rules.themes)).ads;
  }

  /** Where keywords of an ad group lead by the rule; null where there is none. */
  keywordAddresses(group: GroupOfAds, keywords: Iterable<string>): ReadonlyMap<string, Address> | null {
    return this.writer.keywordAddresses(saidGroup(group, this.rules.themes), keywords);
  }

  /** What stands against where keywords of an ad group lead by themselves. */
  checkedAddresses(addresses: readonly Address[]): GroupFinding[] {
    return this.checks.addresses(addresses);
  }

  /** What stands against ads that were written here; `norms` are the keywords of their group. */
  checked(group: GroupOfAds, ads: readonly WrittenAd[], norms: readonly string[]): CheckedAds {
    return this.checks.group(ads, saidGroup(group, this.rules.themes), norms, this.writer);
  }
}
