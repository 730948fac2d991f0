import { readSite } from '../../write/index.ts';
import type { AddPlan, PlanFacts, Rules } from '../rule.ts';

/** What the brief leaves open. */
export const briefRules = {
  'no-site': { severity: 'warning' },
  'no-location': { severity: 'warning' },
  'presence-interested': { severity: 'warning' },
  'no-language': { severity: 'warning' },
  'no-target': { severity: 'warning' },
  'adults-not-taken': { severity: 'blocker' },
  'adults-network': { severity: 'blocker' },
} as const satisfies Rules;

/** What stands against a plan by its brief. */
export function checkBrief({ site }: PlanFacts, add: AddPlan<keyof typeof briefRules>): void {
  if (readSite(site).status === 'problem') add('no-site');
}
