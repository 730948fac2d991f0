import type { ReportReading, ReportReplacing } from '@sprig/contracts';
import { reportRoles } from '@sprig/core/learn';
import { count, counted } from '../../kit/format.ts';
import { reportRoleWords } from '../../plan/report-role-words.ts';

export const roleChoices = reportRoles.map((role) => ({ value: role, words: reportRoleWords[role] }));

const PROBLEMS: Record<ReportReading['problems']['shown'][number]['code'], string> = {
  day: 'no day',
  week: 'no week',
  time: 'ends before it begins',
  figure: 'no number: the rest of the row counts',
  account: 'names no account, in a report of several: the row is not read',
  currency:
    'another currency than the other amounts: the rest of the row counts. Bring the report in with a column that tells the account',
  hour: 'no hour',
  'match-type': 'no match type that is known: the row counts without one',
  broken: 'quotes that don’t close, or a line that is too long',
};

/** `Line 18, Clicks: “x” is no number …` */
export const problemText = ({
  line,
  code,
  column,
  text,
}: ReportReading['problems']['shown'][number]): string =>
  `Line ${count(line)}${column ? `, ${column}` : ''}: ${text === '' ? 'empty' : `“${text}”`}, ${PROBLEMS[code]}.`;

export const notMetWords: Record<ReportReading['notMet'][number]['why'], string> = {
  campaign: 'no such campaign in this plan',
  group: 'no such ad group',
  keyword: 'no such keyword in its ad group',
  'match-type': 'its match type can’t be told',
  ad: 'no such ad in its ad group',
};

/** What taking it in would do to what stands. */
export function replacingWords({ rows, times, campaigns, added, gone, changed }: ReportReplacing): string {
  if (rows === 0) return added === 0 ? 'Adds nothing.' : `Adds ${counted(added, 'row')}; replaces nothing.`;
  if (added + gone + changed === 0) return 'All of it was told so already: nothing changes.';
  const parts = [
    added > 0 ? `${counted(added, 'row')} more` : '',
    gone > 0 ? `${counted(gone, 'row')} gone` : '',
    changed > 0 ? `${counted(changed, 'figure')} changed` : '',
  ].filter((part) => part !== '');
  return `Replaces ${counted(times, 'time')} of ${counted(campaigns, 'campaign')}, ${counted(rows, 'row')}; ${parts.join(', ')}.`;
}
