import type { NextStep, StepCode } from '@sprig/core/next';
import { counted, count as format } from '../../kit/format.ts';

type Words = {
  /** What to do, as a button says it. */
  act: string;
  /** Why it is worth doing. */
  why: string;
  /** Where it is done. */
  to: string;
};

/** A step in words, for as many things as it is about. */
export function stepWords({ code, count }: NextStep): Words {
  const words: Record<StepCode, () => Words> = {
    gather: () => ({
      act: 'Bring in keywords',
      why: 'Everything else is made of them: paste a list, drop a file, or read the site.',
      to: 'gather',
    }),
    fold: () => ({
      act: `Fold ${counted(count, 'look-alike')}`,
      why: 'They differ from another keyword by a plural, a word’s order or a slip of typing. Folded, each search is entered once, and no two of your ads stand against each other.',
      to: 'prune?view=alike&step=fold',
    }),
    block: () => ({
      act: 'Look over the words',
      why: `${counted(count, 'keyword')} and no negative yet: words that never sell only cost. Judge the heaviest ones with the arrow keys.`,
      to: 'prune',
    }),
    group: () => ({
      act: `Group ${counted(count, 'keyword')}`,
      why: 'Keywords that belong together become themes, and themes become ad groups with ads that speak of them. The whole plan can be proposed at once, and taken by branches.',
      to: 'sort?panel=whole&step=group',
    }),
    site: () => ({
      act: 'Name the site',
      why: 'Final URLs are made of it, and ads are checked against it.',
      to: 'brief?field=Site',
    }),
    locate: () => ({
      act: 'Say where ads show',
      why: 'Without a place they would be shown all over the world.',
      to: 'brief?field=Locations',
    }),
    language: () => ({
      act: 'Say who reads them',
      why: 'Ads are shown to people who speak a language that you name; outlets refuse a campaign without one.',
      to: 'brief?field=Languages+of+the+audience',
    }),
    budget: () => ({
      act: 'Set a daily budget',
      why: `${counted(count, 'campaign')} without one: no outlet takes ${count === 1 ? 'it' : 'them'}.`,
      to: 'brief?field=Daily+budget',
    }),
    write: () => ({
      act: `Write ads for ${counted(count, 'ad group')}`,
      why: 'None has an ad that fits yet. Start from a set of lines made of your brief and themes, then make them yours.',
      to: 'write?start=lines&step=write',
    }),
    mend: () => ({
      act: `Mend ${counted(count, 'ad')}`,
      why: 'A line is missing or too long in them: they could not be shipped. They stand first in the strip, with lines that would fit.',
      to: 'write',
    }),
    choose: () => ({
      act: 'Choose an outlet',
      why: 'Ads are measured by its limits, and sheets are written with its headings and words. Without one they are plain.',
      to: 'ship?field=Ship+to+another+outlet',
    }),
    clear: () => ({
      act: `Clear ${counted(count, 'blocker')}`,
      why: 'Each says what is wrong and leads to where it is mended.',
      to: 'ship',
    }),
    ship: () => ({
      act: count > 1 ? `Ship to ${format(count)} outlets` : 'Ship the sheets',
      why: 'Nothing stands in the way. A receipt keeps what was shipped, and later changes ship as a difference.',
      to: 'ship?step=ship',
    }),
    'hand-in': () => ({
      act: count > 1 ? `Hand in ${format(count)} sets` : 'Hand the sheets in',
      why: 'The simulated engine answers row by row what it takes, so that what is refused can be mended.',
      to: 'ship?step=hand-in',
    }),
  };
  return words[code]();
}
