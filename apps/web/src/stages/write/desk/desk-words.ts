import type { DeskGroup, DeskOnly } from '@sprig/contracts';
import { date, time } from '../../../kit/format.ts';

export const onlyWords: Record<DeskOnly, string> = {
  todo: 'To do',
  mine: 'Yours',
  handed: 'Wait for a look',
  back: 'Sent back',
  accepted: 'Accepted',
  all: 'All',
};

/** What is to be done about the ads of an ad group, in a few words; its tone. */
export function standsAs(group: DeskGroup): [words: string, tone: 'bad' | 'good' | 'plain'] {
  const { state, ads, misfits, hasChanged } = group;
  if (state === 'back') return ['sent back', 'bad'];
  if (ads === 0) return ['has no ad', 'bad'];
  if (misfits > 0) return [`${misfits} ${misfits === 1 ? 'does' : 'do'} not fit`, 'bad'];
  if (state === 'handed') return ['waits for a look', 'plain'];
  if (state === 'accepted') return ['accepted', 'good'];
  return hasChanged ? ['changed since', 'plain'] : ['', 'plain'];
}

/** How the ads of the group in view stand, by whom and since when. */
export function stateText({ state, by, at, hasChanged, reason }: DeskGroup): string {
  const who = by ? ` by ${by}` : '';
  const when = at ? `, ${time(at)}` : '';
  if (state === 'handed') return `Handed over${who}${when}.`;
  if (state === 'accepted') return `Accepted${who}${when}.`;
  if (state === 'back') return `Sent back${who}${when}: ${reason}${hasChanged ? ' (changed since)' : ''}`;
  return hasChanged ? `Changed since they were handed over or accepted${who}${when}.` : '';
}

/** `for you by 4 Dec 2026`. */
export const givenText = ({ isYou, name, due }: NonNullable<DeskGroup['given']>, today: string): string => {
  const who = isYou ? 'yours' : `for ${name}`;
  if (due === null) return who;
  return due < today ? `${who}, was due on ${date(due)}` : `${who} by ${date(due)}`;
};
