import type { TakeNote, TakeResult } from '@sprig/contracts';
import type { MergeKind, SheetProblem } from '@sprig/core/sheets';
import { count, counted } from '../../kit/format.ts';

export const mergeWords: Record<MergeKind, string> = {
  added: 'new',
  changed: 'differ',
  removed: 'gone',
  missing: 'only here',
};

/** Why a row was not read, and what would help. */
export function sheetProblemWords({
  code,
  column,
  text,
}: Pick<SheetProblem, 'code' | 'column' | 'text'>): string {
  const said = `“${text}”`;
  const of = column === '' ? '' : ` under “${column}”`;
  const words: Record<SheetProblem['code'], string> = {
    'no-heading': 'The sheet is empty.',
    'column-missing': `There is no column “${column}”. Add it, or say below which one it is.`,
    'column-twice': `Two columns are called “${column}”: the first one was read. Rename the other.`,
    'other-sheet': 'Its headings are those of no sheet of this outlet.',
    'broken-row':
      'Its quotes do not work out, or it has more than 2,000 columns: close the quote that is open, or leave columns out.',
    'row-kind': `${said}${of} is no kind of row that this outlet has.`,
    'no-campaign': 'It names no campaign.',
    'no-group': 'It names no ad group.',
    'no-keyword': 'It has no keyword.',
    amount: `${said}${of} is no amount.`,
    'match-type': `${said}${of} is no match type of this outlet.`,
    status: `${said}${of} is no status of this outlet.`,
    'match-setting': `${said}${of} is no way of matching.`,
    'ad-form': `${said}${of} is no form of ad.`,
    'no-ad-text': 'The ad says nothing.',
    'extra-kind': `${said}${of} is no kind of extra.`,
    kept: `${said}${of} is no place of a field.`,
  };
  return words[code];
}

/** What could not be taken in as it stands. */
export function noteWords(code: TakeNote, times: number): string {
  const keywords = counted(times, 'keyword');
  const ads = counted(times, 'ad');
  const words: Record<TakeNote, string> = {
    'keyword-refused': `${keywords} left out: a character that no keyword may hold, or too long`,
    'keyword-elsewhere': `${keywords} left out: it stands in another ad group already, and a plan has each once`,
    'keyword-blocked': `${keywords} blocked by a negative of this plan`,
    'group-single': `${keywords} of an ad group made for one keyword: placed in its theme instead`,
    'types-not-asked': 'This plan gives all keywords the match types of its lanes, whatever the sheets say',
    'campaign-by-rule': `${counted(times, 'row')} of campaigns that this plan’s rules do not make: their ad groups stand in its own`,
    'ad-token': `${counted(times, 'text')} left out: a word after @ would be taken for a token`,
    'ad-insertion': `${counted(times, 'text')} left out: what is filled in there falls back on a text with brackets`,
    'ad-patterns-full': `${ads} left out: a plan has up to 50 patterns`,
    'ad-mobile': `${counted(times, 'address')} for phones left out: set the rule in Write`,
    'ad-kept': `${ads} kept in other places or of another form: change the pattern in Write`,
    'ad-address': `${counted(times, 'row')} whose final URL is no address: the plan’s own stands`,
    'no-address': `${counted(times, 'row')} that lead nowhere by the sheets: they lead where they did`,
    'bid-network': `${counted(times, 'bid')} for one network: set the steps of the networks at the outlet`,
    setting: `${counted(times, 'campaign setting')} that can’t be read`,
    'setting-of-site': `${counted(times, 'campaign')} with another goal, kind of site or audience: these are of the whole plan, set them in the brief`,
    'negative-by-rule': `${counted(times, 'negative')} not taken out: a list, the plan or a fence has it`,
    extra: `${counted(times, 'extra')} left out: no extra may be like that`,
    'extras-full': `${counted(times, 'extra')} left out: a plan has up to 500`,
    'nothing-to-pause': `${keywords} that the plan has no more`,
  };
  return words[code];
}

/** What was taken in, in one sentence. */
export function takenWords({ taken }: TakeResult): string {
  const parts = [
    [taken.keywords, 'keyword row'],
    [taken.ads, 'ad'],
    [taken.negatives, 'negative'],
    [taken.extras, 'extra'],
    [taken.groups, 'theme'],
    [taken.values, 'value'],
  ] as const;
  const said = parts.filter(([number]) => number > 0).map(([number, word]) => counted(number, word));
  if (taken.paused > 0) said.push(`${count(taken.paused)} paused or taken out`);
  return said.length === 0 ? 'Nothing had to change.' : `Took in ${said.join(', ')}. Ctrl+Z takes it back.`;
}
