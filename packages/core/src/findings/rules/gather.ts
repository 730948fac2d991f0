import type { Outlet } from '../../outlets/index.ts';
import { lengthOf, markerIn } from '../../text/index.ts';
import type { AddGroup, AddPlan, CheckedGroup, PlanFacts, Rules } from '../rule.ts';

/** What is wrong with keywords as they came in. */
export const gatherRules = {
  'no-keywords': { severity: 'blocker' },
  'marker-in-keyword': { severity: 'warning' },
  'keyword-too-long': { severity: 'blocker', byOutlet: true },
  'keyword-too-many-words': { severity: 'blocker', byOutlet: true },
} as const satisfies Rules;

/** What stands against a plan by its keywords. */
export function checkPool({ groups }: PlanFacts, add: AddPlan<keyof typeof gatherRules>): void {
  if (groups === 0) add('no-keywords');
}

/** What stands against the keywords of one ad group; rows of a keyword come one after another. O(rows). */
export function checkKeywords(
  { rows }: CheckedGroup,
  { limits }: Outlet,
  add: AddGroup<keyof typeof gatherRules>,
): void {
  let last = '';
  for (const { text } of rows) {
    if (text === last) continue;
    last = text;
    if (markerIn(text) !== null) add('marker-in-keyword', text);
    // A character counts two at most.
    if (text.length * 2 > limits.keywordLength && lengthOf(text) > limits.keywordLength)
      add('keyword-too-long', text);
    if (wordCount(text) > limits.keywordWords) add('keyword-too-many-words', text);
  }
}

/** Of a text with single spaces. */
function wordCount(text: string): number {
  let count = 1;
  for (let at = text.indexOf(' '); at >= 0; at = text.indexOf(' ', at + 1)) count++;
  return count;
}
