import type { BuiltGroup, BuiltRow } from '../build/index.ts';
import type { OutletPlace } from '../sheets/index.ts';

export type Severity = 'blocker' | 'warning' | 'tip';

/** A rule of findings; `byOutlet`: its outcome hangs on an outlet's limits, so it is told once for each that a plan ships to. */
export type Rule = { severity: Severity; byOutlet?: true };
export type Rules = Readonly<Record<string, Rule>>;

/** `rows`: those of a keyword one after another. */
export type CheckedGroup = {
  group: Pick<BuiltGroup, 'name' | 'keywords'>;
  rows: readonly Pick<BuiltRow, 'text'>[];
  place: Pick<OutletPlace, 'name'>;
};

/** What a plan as a whole has, beside its ad groups. */
export type PlanFacts = {
  groups: number;
  /** Keyword rows. */
  rows: number;
  campaignName: string;
  site: string;
  orphans: number;
  /** Campaigns for which no extra is shown, by their key and name. */
  bare: readonly { key: string; name: string }[];
  /** Negatives that block keywords of the plan, as one reads them, and how many. */
  conflicts: readonly { text: string; blocked: number }[];
  /** Ad groups that are to bring calls and show no phone number, by their key and name. */
  mute: readonly { key: string; name: string }[];
  /** Campaigns, by their names, and extras, by what they say. */
  named: readonly { rule: 'marker-in-name' | 'marker-in-extra'; text: string }[];
};

/** Tells a finding of the plan. */
export type AddPlan<RuleName> = (
  rule: RuleName,
  what?: { key?: string; text?: string; count?: number },
) => void;
/** Tells a finding of one ad group. */
export type AddGroup<RuleName> = (rule: RuleName, text: string) => void;
