import type { AddPlan, PlanFacts, Rules } from '../rule.ts';

/** What negatives block, and what they leave through. */
export const pruneRules = {
  'own-keyword-blocked': { severity: 'blocker' },
  'campaign-without-negatives': { severity: 'warning' },
  'broad-without-negatives': { severity: 'warning' },
  'rival-in-keyword': { severity: 'warning' },
} as const satisfies Rules;

/** What stands against a plan by its negatives. */
export function checkNegatives({ conflicts }: PlanFacts, add: AddPlan<keyof typeof pruneRules>): void {
  for (const { text, blocked } of conflicts) add('own-keyword-blocked', { key: text, text, count: blocked });
}
