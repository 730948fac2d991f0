import type { HeldAds, NumberedPattern } from '@sprig/core/ads';
import type { Copied, Hold, Layout, PartsBefore } from '@sprig/core/build';
import type { RefusedText } from '@sprig/core/findings';
import type { Outlet } from '@sprig/core/outlets';
import type { LayoutRules, PlacingRules, PlanAdRules, PlanCheckRules, SaidTheme } from '@sprig/core/plan';
import type { Theme } from '@sprig/core/sort';
import { casingOf, ListedWords, languagePack } from '@sprig/core/text';
import { type AddressRule, capitalsOf, type EditorialWords, type TextRules } from '@sprig/core/write';
import { casingList, type Facts, offerOn } from './stages/brief.ts';
import type { HandPlaced, SortSettings } from './stages/sort.ts';

type Sorted = {
  language: string;
  facts: { functionWords: readonly string[] | null; places: readonly (readonly string[])[] };
  themes: readonly Theme[];
  placed: readonly HandPlaced[];
  settings: Pick<SortSettings, 'signals'>;
};

/** What a plan's keywords are placed by. */
export const placingRules = ({ language, facts, themes, placed, settings }: Sorted): PlacingRules => ({
  pack: languagePack(language, facts.functionWords),
  signals: settings.signals,
  places: facts.places,
  themes,
  placed,
});

type LaidOut = {
  language: string;
  facts: Facts;
  layout: Layout;
  holds: readonly Hold[];
  sources: ReadonlyMap<number, string>;
  copies: readonly Copied[];
  /** The outlet that it is built for. */
  outlet: Pick<Outlet, 'limits'>;
  partBefore: PartsBefore;
};

/** What a plan's placed keywords are laid out by. */
export const layoutRules = ({ language, facts, outlet, ...rest }: LaidOut): LayoutRules => ({
  layout: rest.layout,
  holds: rest.holds,
  casing: writingOf(language, facts).casing,
  sources: rest.sources,
  copies: rest.copies,
  rowsPerGroup: outlet.limits.rowsPerGroup,
  partBefore: rest.partBefore,
});

type Briefed = { language: string; site: string; facts: Facts };
type Written = Briefed & {
  patterns: readonly NumberedPattern[];
  address: AddressRule;
  held: HeldAds;
  /** The day that ads are written for, `2027-03-31`: `@offer` and `@year` are of it. */
  day: string;
  themes: ReadonlyMap<number, SaidTheme>;
};

/** What a plan's ads are written by. `writing` where it was worked out before. */
export const adRules = (
  { language, site, facts, patterns, address, held, day, themes }: Written,
  writing = writingOf(language, facts),
): PlanAdRules => ({
  patterns,
  address,
  common: {
    site,
    offer: offerOn(facts, day),
    year: day.slice(0, 4),
    brands: new ListedWords(facts.brands),
  },
  held,
  writing,
  themes,
});

/** What a plan's ads are checked by. */
export const checkRules = (
  { language, site, facts, refused }: Briefed & { refused: readonly RefusedText[] },
  writing = writingOf(language, facts),
): PlanCheckRules => ({
  site,
  words: guardedWords(facts),
  places: facts.places,
  refused,
  writing,
});

/** How texts of a plan are written: its language with its own function words, and its casing list. */
export const writingOf = (language: string, facts: Facts): TextRules => ({
  pack: languagePack(language, facts.functionWords),
  casing: casingOf(casingList(facts)),
});

/** What is looked for in ads: rivals' names, and words in capitals that rightly are. */
export const guardedWords = (facts: Facts): EditorialWords => ({
  banned: new ListedWords(facts.rivals),
  casing: capitalsOf(casingList(facts)),
});
