import { tokenWords } from '@sprig/contracts';
import { type CampaignBy, type FenceKind, strangeToken } from '@sprig/core/build';
import { eachType, type MatchType, matchRules } from '@sprig/core/match';
import { parseLine } from '@sprig/core/text';
import { readWhole } from '../../kit/read-typed.ts';

/** The token that tells campaigns of a kind apart, as the name to begin with. */
export const campaignPattern: Record<CampaignBy, string> = {
  one: '',
  theme: '@theme',
  place: '@place',
  source: '@source',
  stage: '@stage',
};

export const fenceHelp: Record<FenceKind, string> = {
  off: 'Nothing keeps a search in its own ad group: the highest bid × relevance answers it.',
  exact:
    'Each keyword is a negative exact wherever else it could be answered, but where it belongs: the narrowest match type that has it.',
  tight: 'Phrase keywords fence too, as negative phrases, where that blocks none of the group’s own.',
};

export const why: Record<MatchType, string> = eachType((type) => matchRules[type].whyBid);

const NAME_TOKENS = '@keyword, @theme, @branch, @place, @stage and @source';

/** Reads a name pattern as it is typed. */
export function readPattern(typed: string): { value: string } | { words: string } {
  if (typed.trim() === '') return { words: `It needs a name. There are ${NAME_TOKENS}.` };
  if (typed.length > 500) return { words: 'A name has up to 500 characters. Shorten it.' };
  const read = parseLine(typed);
  if ('problem' in read) return { words: tokenWords(read.problem) };
  const strange = strangeToken(read.line);
  return strange === undefined
    ? { value: typed }
    : { words: `A name can’t hold ${strange}. There are ${NAME_TOKENS}.` };
}

/** Reads a whole number from `least` on; empty where it may be left open. */
export function readCount(
  least: number,
  most: number,
  mayBeOpen = true,
): (typed: string) => { value: number | null } | { words: string } {
  return (typed) => {
    const value = readWhole(typed);
    if (value === null) return mayBeOpen ? { value } : { words: 'Type a number.' };
    if (value === undefined || value < least || value > most)
      return {
        words: `Type a whole number from ${least.toLocaleString('en')} to ${most.toLocaleString('en')}.`,
      };
    return { value };
  };
}

/** Reads a day such as 2027-03-31; empty is none. */
export function readDay(typed: string): { value: string | null } | { words: string } {
  const day = typed.trim();
  if (day === '' || day === '–') return { value: null };
  const isDay = /^\d{4}-\d\d-\d\d$/.test(day) && !Number.isNaN(Date.parse(day));
  return isDay ? { value: day } : { words: 'Not a day. Write it like 2027-03-31.' };
}
