import type { BidRest, ResultBidList } from '@sprig/contracts';
import type { BidBound } from '@sprig/core/judge';

/** What lists are called, and what stands in them. */
export const bidListWords: Record<ResultBidList, readonly [name: string, about: string]> = {
  change: ['To change', 'Bids that results tell to change, those that move the most money first.'],
  stay: ['Stay', 'Enough is told, and they stay as they are.'],
  few: ['Too few', 'Too little was seen of these.'],
  aimless: ['No aim', 'Their campaigns’ own settings have no aim that can be followed.'],
  soon: ['Just changed', 'Changed a little while ago: clicks have to show first what that brings.'],
};

const toBrief = { to: '../brief', there: 'To the brief' };
/** Why nothing can be said of any bid, and where that is mended. */
export const restWords: Record<BidRest, { title: string; about: string; to: string; there: string }> = {
  'no-aim': {
    title: 'No aim is set',
    about: 'Say in the brief what a conversion may cost, or what the cost is to bring.',
    ...toBrief,
  },
  currency: {
    title: 'The account counts in another currency',
    about: 'Bids are in the plan’s currency, and no exchange rate is known here.',
    ...toBrief,
  },
  'nothing-sold': {
    title: 'Nothing was sold yet',
    about: 'Bids to an aim follow from conversions. Bids by position do without.',
    to: '?view=bids&bids=bands',
    there: 'Bids by position',
  },
  'no-value': {
    title: 'No value is told',
    about: 'A return needs reports with a column of values; or aim at a cost instead.',
    ...toBrief,
  },
  'no-position': {
    title: 'No position is told',
    about: 'Reports of this account have no average position. What loses too much to rank has a verdict.',
    to: '?view=verdicts&list=too-low',
    there: 'What stands too low',
  },
  'not-high': {
    title: 'Bids do not start high',
    about: 'Build can have them start high, and come down by themselves on a day.',
    to: '../build?view=rules',
    there: 'To the rules of Build',
  },
};
/** What keeps a bid from going where it should. */
export const boundWords: Record<BidBound, string> = {
  none: '',
  most: 'the most at a time',
  floor: 'at the floor',
  ceiling: 'at the ceiling',
};
