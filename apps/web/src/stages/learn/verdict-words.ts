import type { VerdictList, VerdictRow } from '@sprig/contracts';
import type { VerdictLimits } from '@sprig/core/judge';
import { counted } from '../../kit/format.ts';
import { dayText, figureText } from '../../plan/results/result-words.ts';
import { noNumber, typedNumber } from './read-number.ts';

/** What lists are called, and what stands in them. */
export const listWords: Record<VerdictList, readonly [name: string, about: string]> = {
  'broken-page': ['Broken page', 'The page does not answer, or sells no more though it is clicked.'],
  'never-pays': ['Never pays', 'Costs several times the aim and has sold nothing.'],
  'not-sold': ['Not sold', 'Clicked, and sells far worse than what surrounds it: see to the page.'],
  'not-clicked': [
    'Not clicked',
    'Seen high up, and clicked far less than its position has it: see to the ad.',
  ],
  'too-low': ['Too low', 'Stands too low to be seen: raise the bid.'],
  pays: ['Pays', 'Sells for much less than the aim: more of it.'],
  fine: ['Fine', 'Nothing stands out.'],
  'too-early': ['Too early', 'Too little was seen to tell anything.'],
  rests: ['Resting', 'Something was done about these: they rest until their day.'],
  again: ['Look again', 'The day has come to see what it brought.'],
};

const twoDigits = new Intl.NumberFormat('en-GB', { maximumSignificantDigits: 2 });
const percent = (share: number): string => `${twoDigits.format(share * 100)}%`;
const tenths = new Intl.NumberFormat('en-GB', { maximumFractionDigits: 1 });
const AROUND: Partial<Record<VerdictRow['evidence']['by'], string>> = {
  group: 'its ad group',
  theme: 'its theme',
  campaign: 'its campaign',
};
const MILLION = 1_000_000;

/** Why a row has its verdict, in a sentence. */
export function evidenceText(row: VerdictRow, currency: string): string {
  const { own, against, by, more, chance } = row.evidence;
  const money = (micros: number | null) => figureText('cost', micros, currency);
  const rare = chance !== null && chance < 0.001 ? ', hardly by chance' : '';
  switch (row.verdict) {
    case 'broken-page':
      return by === 'page'
        ? 'Its page did not answer when it was last looked at.'
        : `${counted(own ?? 0, 'click')} since its last conversion; before, ${percent(against ?? 0)} of clicks sold${rare}.`;
    case 'never-pays':
      return `${money(own)} spent and nothing sold; a conversion may cost ${money(against)}.`;
    case 'not-sold':
      return `${percent(own ?? 0)} of ${counted(row.clicks, 'click')} sold; ${AROUND[by] ?? 'others'} sells ${percent(against ?? 0)}${rare}.`;
    case 'not-clicked':
      return `CTR ${percent(own ?? 0)} at position ${tenths.format(row.position ?? 0)}; ${percent(against ?? 0)} is to be expected there${rare}.`;
    case 'too-low':
      return by === 'lost-rank'
        ? `${percent(own ?? 0)} of impressions lost to rank.`
        : `Position ${tenths.format(own ?? 0)} over ${counted(row.impressions, 'impression')}.`;
    case 'pays':
      return `${money(own)} a conversion; ${money(against)} is aimed at.`;
    case 'too-early':
      return more
        ? `${counted(Math.ceil(more.count), more.of.slice(0, -1))} more needed${whenText(row.days)}.`
        : '';
    default:
      return '';
  }
}

function whenText(days: number | null): string {
  if (days === null) return '';
  return days > 365 ? ', more than a year as it goes' : `, in about ${counted(days, 'day')} as it goes`;
}

type Done = NonNullable<VerdictRow['act']>['act'];

function doneText(done: Done, currency: string): string {
  const money = (micros: number) => figureText('cpc', micros, currency);
  switch (done.kind) {
    case 'pause':
      return 'Paused';
    case 'raise':
      return `Bid raised by ${done.by}%`;
    case 'aim':
      return `Bid aimed at position ${done.position}`;
    case 'bid':
      return `Bid set from ${money(done.before)} to ${money(done.after)} ${done.from === 'aim' ? 'to the aim' : 'by position'}`;
    default:
      return 'Seen to';
  }
}

/** What was done, and what came of it so far. */
export function actText({ act }: VerdictRow, currency: string): string {
  if (!act) return '';
  const why = act.verdict === null ? '' : ` (${listWords[act.verdict][0].toLowerCase()})`;
  const said = `${doneText(act.act, currency)} on ${dayText(act.on)}${why}, look again on ${dayText(act.until)}.`;
  const { was, since } = act;
  if (since.days === 0) return said;
  const daily = (counted: typeof was, value: number) => value / Math.max(1, counted.days);
  const clicks = `${tenths.format(daily(was, was.clicks))} → ${tenths.format(daily(since, since.clicks))} clicks`;
  const cost = `${figureText('cost', daily(was, was.cost), currency)} → ${figureText('cost', daily(since, since.cost), currency)}`;
  const sold = `${tenths.format(daily(was, was.conversions))} → ${tenths.format(daily(since, since.conversions))} conversions`;
  return `${said} A day, before and since: ${clicks}, ${cost}, ${sold}.`;
}

export type LimitName = keyof VerdictLimits;
const SHARES: ReadonlySet<LimitName> = new Set(['notSold', 'notClicked', 'lostRank', 'pays', 'falseBlame']);
const isShareLimit = (name: LimitName): boolean => SHARES.has(name);
export const limitText = (name: LimitName, value: number): string =>
  isShareLimit(name) ? percent(value) : tenths.format(value);

/** Reads a limit as it is typed: shares in percent. */
export function readLimit(name: LimitName, typed: string): { value: number } | { words: string } {
  const value = typedNumber(typed);
  if (value === null) return { words: noNumber(typed, isShareLimit(name) ? '50%' : '100') };
  return { value: isShareLimit(name) ? value / 100 : value };
}

export const amountText = (micros: number, currency: string): string =>
  figureText('cost', Math.round(micros / MILLION) * MILLION, currency).replace(/[.,]00$/, '');
