import type { Rules } from '../rule.ts';

/** What stands between a plan and an outlet. */
export const shipRules = {
  'outlet-unsound': { severity: 'blocker' },
  'prerequisite-for-sheets': { severity: 'blocker' },
  'prerequisite-to-go-live': { severity: 'warning' },
  'character-not-carried': { severity: 'blocker' },
  'budgets-wait': { severity: 'warning' },
  'not-told-gone': { severity: 'warning' },
  'not-carried': { severity: 'warning' },
  'own-check-stops': { severity: 'blocker' },
  'own-check': { severity: 'warning' },
  'few-conversions': { severity: 'warning' },
  'campaign-too-large': { severity: 'warning' },
  'few-extras': { severity: 'tip' },
} as const satisfies Rules;
