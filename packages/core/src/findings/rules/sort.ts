import type { Rules } from '../rule.ts';

/** What is not placed, or loosely. */
export const sortRules = {
  'other-place-in-keyword': { severity: 'warning' },
  'theme-without-keywords': { severity: 'tip' },
  'keywords-unplaced': { severity: 'tip' },
  'group-loose': { severity: 'tip' },
} as const satisfies Rules;
