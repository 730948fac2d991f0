import type { WorthItem } from '@sprig/contracts';
import type { WorthCode } from '@sprig/core/next';
import { counted, wholeMoney } from '../kit/format.ts';

type Words = {
  /** What there is, with how many. */
  said: (count: number) => string;
  /** Why it is worth doing. */
  why: string;
  /** Where it is done, within the plan. */
  to: string;
};

const verdict = (list: string): string => `learn?view=verdicts&list=${list}`;

export const worthWords: Record<WorthCode, Words> = {
  blockers: {
    said: (n) => `${counted(n, 'blocker')} in the way of shipping`,
    why: 'Nothing is shipped before they are mended.',
    to: 'ship',
  },
  misfits: {
    said: (n) => `${counted(n, 'ad')} missing or not filled in`,
    why: 'An ad group without an ad that fits does not show.',
    to: 'write?view=ads',
  },
  'no-page': {
    said: (n) => `${counted(n, 'final URL')} leading nowhere`,
    why: 'They can’t be made, are too long, or did not answer when they were asked.',
    to: 'write?view=addresses',
  },
  'broken-page': {
    said: (n) => `${counted(n, 'keyword')} selling no more`,
    why: 'They sold, and suddenly do not, though clicks go on: a page is likely broken.',
    to: verdict('broken-page'),
  },
  'never-pays': {
    said: (n) => `${counted(n, 'keyword')} never paying`,
    why: 'They cost several times the aim and sold nothing.',
    to: verdict('never-pays'),
  },
  'not-sold': {
    said: (n) => `${counted(n, 'keyword')} clicked, not sold`,
    why: 'They sell far worse than what surrounds them: see to their pages.',
    to: verdict('not-sold'),
  },
  'not-clicked': {
    said: (n) => `${counted(n, 'keyword')} seen, not clicked`,
    why: 'They are clicked far less than their position has it: see to their ads.',
    to: verdict('not-clicked'),
  },
  'too-low': {
    said: (n) => `${counted(n, 'keyword')} too low`,
    why: 'A higher bid would have them seen.',
    to: verdict('too-low'),
  },
  pays: {
    said: (n) => `${counted(n, 'keyword')} paying well`,
    why: 'A conversion costs much less than the aim: there may be more of them.',
    to: verdict('pays'),
  },
  terms: {
    said: (n) => `${counted(n, 'search term')} to judge`,
    why: 'Searched for, and no exact keyword equals them: each is worth an ad group, or a block.',
    to: 'learn?view=terms',
  },
  'budget-out': {
    said: (n) => `${counted(n, 'campaign')} whose budget ran out`,
    why: 'On these days ads stopped before the day did.',
    to: 'learn?view=watch',
  },
  'bids-to-aim': {
    said: (n) => `${counted(n, 'bid')} to bring to the aim`,
    why: 'What a click may cost by what came of it is not what is bid.',
    to: 'learn?view=bids',
  },
  'ads-decided': {
    said: (n) => `${counted(n, 'split test')} decided`,
    why: 'One version is better: keep it, and give up the other.',
    to: 'learn?view=ads',
  },
  'bids-down': {
    said: (n) => `${counted(n, 'bid')} about to come down`,
    why: 'They started high, and come down by themselves in the next days; the next difference ships that.',
    to: 'learn?view=bids&bids=down',
  },
  'look-again': {
    said: (n) => `${counted(n, 'verdict')} to look at again`,
    why: 'Something was done about them, and their day has come.',
    to: verdict('again'),
  },
  'too-big': {
    said: (n) => `${counted(n, 'ad group')} too large`,
    why: 'Fewer keywords to an ad group let its ads speak of them.',
    to: 'build?view=groups',
  },
  'few-negatives': {
    said: (n) => `Negatives missing in ${counted(n, 'place')}`,
    why: 'Without negatives they pay for words that never sell; where reports tell of clicks, only what was clicked is counted.',
    to: 'prune',
  },
  unanswered: {
    said: (n) => `${counted(n, 'set')} of sheets without an answer`,
    why: 'Hand them in, and tell here what was refused.',
    to: 'ship?view=receipts',
  },
};

/** The money at stake, as far as it can be told. */
export const stakeText = ({ stake, currency }: WorthItem): string =>
  stake === null || currency === null ? '' : wholeMoney(stake, currency);
