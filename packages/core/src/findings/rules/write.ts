import { markerIn } from '../../text/index.ts';
import type { AddPlan, PlanFacts, Rules } from '../rule.ts';

/** What is wrong with ads, their addresses and extras. What ads say is checked where they are written, by `AdChecks`. */
export const writeRules = {
  'field-unfilled': { severity: 'blocker', byOutlet: true },
  'address-unfilled': { severity: 'blocker', byOutlet: true },
  'address-too-long': { severity: 'blocker', byOutlet: true },
  'address-other-site': { severity: 'warning', byOutlet: true },
  'address-not-https': { severity: 'warning', byOutlet: true },
  'address-word-not-allowed': { severity: 'blocker', byOutlet: true },
  'address-marker-left': { severity: 'warning', byOutlet: true },
  'address-no-answer': { severity: 'warning' },
  'addresses-not-asked': { severity: 'tip' },
  'no-ad': { severity: 'blocker', byOutlet: true },
  'token-left': { severity: 'blocker', byOutlet: true },
  // No blockers: what looks like one may be meant, and is then accepted with its reason.
  'marker-left': { severity: 'warning', byOutlet: true },
  'marker-in-extra': { severity: 'warning' },
  'other-place': { severity: 'warning', byOutlet: true },
  'word-not-allowed': { severity: 'blocker', byOutlet: true },
  'live-word-not-allowed': { severity: 'warning', byOutlet: true },
  'refused-before': { severity: 'warning', byOutlet: true },
  'few-ads': { severity: 'warning', byOutlet: true },
  'many-ads': { severity: 'warning', byOutlet: true },
  'field-left-out': { severity: 'warning', byOutlet: true },
  'phone-in-text': { severity: 'warning', byOutlet: true },
  'exclamation-in-headline': { severity: 'warning', byOutlet: true },
  'repeated-punctuation': { severity: 'warning', byOutlet: true },
  'word-twice': { severity: 'warning', byOutlet: true },
  capitals: { severity: 'warning', byOutlet: true },
  article: { severity: 'warning', byOutlet: true },
  'double-space': { severity: 'warning', byOutlet: true },
  'space-before-mark': { severity: 'warning', byOutlet: true },
  'space-in-path': { severity: 'warning', byOutlet: true },
  'headlines-alike': { severity: 'warning', byOutlet: true },
  'live-one-keyword': { severity: 'warning', byOutlet: true },
  'live-objection': { severity: 'warning', byOutlet: true },
  'live-falls-back': { severity: 'tip', byOutlet: true },
  'word-thrice': { severity: 'tip', byOutlet: true },
  'relevance-low': { severity: 'tip', byOutlet: true },
  // Where the workspace asks for it.
  'ads-not-accepted': { severity: 'blocker' },
  'no-extras': { severity: 'tip' },
  'no-phone': { severity: 'warning' },
} as const satisfies Rules;

/** What stands against a plan by its extras. */
export function checkExtras({ bare, mute, named }: PlanFacts, add: AddPlan<keyof typeof writeRules>): void {
  for (const { key, name } of bare) add('no-extras', { key, text: name });
  for (const { key, name } of mute) add('no-phone', { key, text: name });
  for (const { rule, text } of named)
    if (rule === 'marker-in-extra' && markerIn(text) !== null) add(rule, { key: text, text });
}
