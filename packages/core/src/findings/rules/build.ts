import type { Outlet } from '../../outlets/index.ts';
import { lengthOf, markerIn } from '../../text/index.ts';
import type { AddGroup, AddPlan, CheckedGroup, PlanFacts, Rules } from '../rule.ts';

/** What is wrong with campaigns, ad groups, bids and fences. */
export const buildRules = {
  'no-campaign-name': { severity: 'blocker' },
  'marker-in-name': { severity: 'warning' },
  'name-cut': { severity: 'tip', byOutlet: true },
  'group-too-large': { severity: 'warning', byOutlet: true },
  'keyword-twice': { severity: 'warning' },
  'narrower-bids-less': { severity: 'warning' },
  'fence-audit': { severity: 'warning' },
  'fences-over-limit': { severity: 'warning' },
  'plan-large': { severity: 'tip' },
  'bids-start-high': { severity: 'tip' },
  orphans: { severity: 'tip' },
  'copy-not-made': { severity: 'warning' },
  'no-budget': { severity: 'blocker' },
  'spend-over-budget': { severity: 'warning' },
  'group-without-negatives': { severity: 'tip' },
  'bid-under-least': { severity: 'blocker' },
  'budget-under-least': { severity: 'blocker' },
  'group-over-limit': { severity: 'blocker' },
} as const satisfies Rules;

/** A plan with more than these is more than one person looks after with care. */
export const ADVISED_PLAN = { rows: 50_000, groups: 5_000 };

/** What stands against a plan as it is laid out. */
export function checkLayout(
  { groups, rows, campaignName, orphans, named }: PlanFacts,
  add: AddPlan<keyof typeof buildRules>,
): void {
  if (campaignName.trim() === '') add('no-campaign-name');
  for (const { rule, text } of named)
    if (rule === 'marker-in-name' && markerIn(text) !== null) add(rule, { key: text, text });
  if (rows > ADVISED_PLAN.rows || groups > ADVISED_PLAN.groups)
    add('plan-large', { text: `${rows} keyword rows in ${groups} ad groups`, count: groups });
  if (orphans > 0) add('orphans', { count: orphans });
}

/** What stands against one ad group as it is named and filled. */
export function checkNames(
  { group, place }: CheckedGroup,
  { limits, advised }: Outlet,
  add: AddGroup<keyof typeof buildRules>,
): void {
  if (lengthOf(group.name) > limits.groupName) add('name-cut', place.name);
  if (group.keywords > advised.keywordsPerGroup) add('group-too-large', group.name);
  if (markerIn(group.name) !== null) add('marker-in-name', group.name);
}
