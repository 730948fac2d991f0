import type { AdTest, AdTestsAnswer } from '@sprig/contracts';
import type { AdTestRules } from '@sprig/core/judge';
import { count } from '../../kit/format.ts';
import { dayText } from '../../plan/results/result-words.ts';
import { changeText } from './look-words.ts';

type Told = Pick<AdTest, 'verdict' | 'difference' | 'on' | 'more' | 'a' | 'b'>;
type By = AdTestRules['by'];

export const isDecided = ({ verdict }: Pick<AdTest, 'verdict'>): boolean =>
  verdict === 'a' || verdict === 'b';

const DONE: Record<By, string> = { clicks: 'is clicked', conversions: 'sells' };
export const triesWord: Record<By, string> = { clicks: 'impressions', conversions: 'clicks' };

/** `years is clicked 48% more than hand (40% to 57%)`. */
function aheadText({ difference }: Told, [first, second]: AdTest['names'], by: By): string {
  if (!difference) return '';
  const percent = Math.abs(Math.round(difference.by * 100));
  const how = percent === 0 ? 'as much as' : `${percent}% ${difference.by > 0 ? 'more' : 'less'} than`;
  return `${second} ${DONE[by]} ${how} ${first} (${changeText(difference.low)} to ${changeText(difference.high)})`;
}

/** What came of two ads, in a sentence. */
export function testText(told: Told, names: AdTest['names'], rules: AdTestRules): string {
  const ahead = aheadText(told, names, rules.by);
  const least = `${Math.round(rules.difference * 100)}%`;
  switch (told.verdict) {
    case 'a':
    case 'b':
      return `${ahead}. Decided${told.on ? ` on ${dayText(told.on)}` : ''}.`;
    case 'alike':
      return `No difference of ${least} or more. ${ahead}.`;
    case 'open':
      return `Not decided: ${told.more === null ? 'more is needed' : `about ${count(told.more)} more ${triesWord[rules.by]}`}. So far ${ahead}.`;
    default:
      return `Too little: each needs ${count(rules.clicks)} clicks.`;
  }
}

/** What the tests of an account rest on. */
export const restsOn = ({ byDay, settledTo }: AdTestsAnswer): string =>
  [
    byDay ? '' : 'reports tell no days: looked at once',
    settledTo ? `conversions count until ${dayText(settledTo)}` : '',
  ]
    .filter(Boolean)
    .join(' · ');
