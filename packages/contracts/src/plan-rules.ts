import type { Copied, Hold, Layout, PartsBefore } from '@sprig/core/build';
import type { Outlet } from '@sprig/core/outlets';
import type { LayoutRules, PlacingRules } from '@sprig/core/plan';
import type { Theme } from '@sprig/core/sort';
import { languagePack } from '@sprig/core/text';
import { type Facts, writingOf } from './stages/brief.ts';
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
