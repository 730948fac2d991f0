import type { OutletFinding } from '@sprig/contracts';
import { ADVISED_PLAN, type Finding, type FindingRule } from '@sprig/core/findings';
import { counted, count as format } from '../../kit/format.ts';

/** `headline1` as `headline 1`. */
const fieldWords = (field: string | null): string => {
  if (field === null) return 'a field';
  if (field === 'finalUrl') return 'final URL';
  return field.replace(/(\d+)$/, ' $1');
};

/** Each finding in words: what is wrong, for how many, and what to do. */
export function findingWords({ rule, count, field }: Pick<Finding, 'rule' | 'count' | 'field'>): {
  title: string;
  remedy: string;
} {
  const ads = counted(count, 'ad');
  const objected = (what: string) => ({
    title: `${ads} whose ${fieldWords(field)} ${what}.`,
    remedy: 'See the objections in Write',
  });
  const advised = { rows: format(ADVISED_PLAN.rows), groups: format(ADVISED_PLAN.groups) };
  const words: Record<FindingRule, { title: string; remedy: string }> = {
    'no-keywords': { title: 'There is nothing to ship: no keyword is in.', remedy: 'Gather keywords' },
    'no-campaign-name': { title: 'The campaign has no name.', remedy: 'Name it in Build' },
    'no-site': {
      title: 'The plan has no site, so ads can’t be checked against it.',
      remedy: 'Set the site in the brief',
    },
    'field-unfilled': {
      title: `${ads} without ${fieldWords(field)}: no line fits.`,
      remedy: 'Add a shorter line in Write',
    },
    'address-unfilled': {
      title: `${ads} without a sound final URL.`,
      remedy: 'Write the final URL, or set the site',
    },
    'address-too-long': {
      title: `${ads} with a final URL that is too long.`,
      remedy: 'Shorten the final URL in Write',
    },
    'address-other-site': {
      title: `${ads} that lead to another site than the plan’s.`,
      remedy: 'Look at the final URL in Write',
    },
    'address-not-https': {
      title: `${ads} whose final URL is not by https.`,
      remedy: 'Change the base under Final URLs',
    },
    'address-word-not-allowed': {
      title: `${ads} with a rival’s name in the final URL.`,
      remedy: 'Look at the final URLs in Write',
    },
    'address-marker-left': {
      title: `${ads} whose final URL has something left to fill in.`,
      remedy: 'Look at the final URLs in Write',
    },
    'address-no-answer': {
      title: `${counted(count, 'final URL')} that did not answer, or answered with an error, when last asked.`,
      remedy: 'See the final URLs in Write',
    },
    'addresses-not-asked': {
      title: `${counted(count, 'final URL')} never asked whether anything is there.`,
      remedy: 'Ask them in Write',
    },
    'no-ad': { title: `${counted(count, 'ad group')} without an ad.`, remedy: 'Make a pattern for them' },
    'few-ads': {
      title: `${counted(count, 'ad group')} with fewer ads than are advised.`,
      remedy: 'Add a pattern, or split one',
    },
    'many-ads': {
      title: `${counted(count, 'ad group')} with more ads than can be told apart by their results.`,
      remedy: 'Pause or remove a pattern',
    },
    'field-left-out': {
      title: `${ads} that go without ${fieldWords(field)}: no line fits.`,
      remedy: 'Add a shorter line in Write',
    },
    'token-left': objected('has a token that is left unfilled'),
    'marker-left': objected('has something left to fill in'),
    'other-place': objected('names another place than its ad group’s'),
    'word-not-allowed': objected('names a rival'),
    'phone-in-text': objected('has a phone number in it'),
    'exclamation-in-headline': objected('has an exclamation mark'),
    'repeated-punctuation': objected('has the same mark twice in a row'),
    'word-twice': objected('says a word twice in a row'),
    capitals: objected('has a word in capitals that is not on the casing list'),
    article: objected('has “a” where “an” belongs, or the other way round'),
    'double-space': objected('has two spaces in a row'),
    'space-before-mark': objected('has a space before a mark'),
    'space-in-path': objected('has spaces in it'),
    'refused-before': objected('says what was refused before'),
    'headlines-alike': {
      title: `${counted(count, 'pair')} of headlines in one assembled ad that say the same.`,
      remedy: 'Write another one',
    },
    'word-thrice': {
      title: `${ads} in which a word may be read three times at once.`,
      remedy: 'See them in Write',
    },
    'live-one-keyword': {
      title: `${ads} with a live ${fieldWords(field)} in a group of one keyword.`,
      remedy: 'Write it instead',
    },
    'live-objection': {
      title: `${counted(count, 'keyword')} that would be objected to when put into ${fieldWords(field)}.`,
      remedy: 'Try them in Write',
    },
    'live-word-not-allowed': {
      title: `${counted(count, 'keyword')} that would put a rival’s name into ${fieldWords(field)}.`,
      remedy: 'Try them in Write',
    },
    'live-falls-back': {
      title: `${counted(count, 'keyword')} too long for ${fieldWords(field)}: the default is shown.`,
      remedy: 'Try them in Write',
    },
    'relevance-low': {
      title: `${ads} that say little of their group’s keywords.`,
      remedy: 'Sort all ads by relevance',
    },
    'no-extras': {
      title: `${counted(count, 'campaign')} without a sitelink, a callout or a phone number.`,
      remedy: 'Make one in Write',
    },
    'no-phone': {
      title: `${counted(count, 'ad group')} without a phone number, though calls are the goal.`,
      remedy: 'Make one in Write',
    },
    'marker-in-extra': {
      title: `${counted(count, 'extra')} whose text has something left to fill in.`,
      remedy: 'Mend them in Write',
    },
    'marker-in-name': {
      title: `${counted(count, 'name')} of campaigns or ad groups with something left to fill in.`,
      remedy: 'Rename them in Build',
    },
    'marker-in-keyword': {
      title: `${counted(count, 'keyword')} with something left to fill in.`,
      remedy: 'Change or cut them in Gather',
    },
    'other-place-in-keyword': {
      title: `${counted(count, 'keyword')} of another place in an ad group of one place.`,
      remedy: 'Place them in Sort',
    },
    'keyword-too-long': {
      title: `${counted(count, 'keyword')} longer than the outlet takes.`,
      remedy: 'Shorten or cut them in Gather',
    },
    'keyword-too-many-words': {
      title: `${counted(count, 'keyword')} with more words than the outlet takes.`,
      remedy: 'Shorten or cut them in Gather',
    },
    'name-cut': {
      title: `${counted(count, 'ad group name')} cut to the outlet’s limit.`,
      remedy: 'See them in Build',
    },
    'own-keyword-blocked': {
      title: `${counted(count, 'keyword')} blocked by negatives of the plan’s own.`,
      remedy: 'Judge them in Prune',
    },
    'group-too-large': {
      title: `${counted(count, 'ad group')} with more than 50 keywords: too many to speak of in one ad.`,
      remedy: 'Split them in Build or Sort',
    },
    'keyword-twice': {
      title: `${counted(count, 'keyword row')} in two ad groups that show to the same people.`,
      remedy: 'See them in Build',
    },
    'narrower-bids-less': {
      title: `${counted(count, 'keyword')} whose narrower match bids less than a wider one.`,
      remedy: 'Mend the ladder or the held bids in Build',
    },
    'theme-without-keywords': {
      title: `${counted(count, 'theme')} without keywords: no ad group is made.`,
      remedy: 'See them in Sort',
    },
    'fence-audit': {
      title: `${counted(count, 'exact keyword')} could be answered by another ad group than their own.`,
      remedy: 'See the fence audit in Build',
    },
    'fences-over-limit': {
      title: `${counted(count, 'fence')}: more than an ad group may hold, or five to a keyword.`,
      remedy: 'See the fences in Build',
    },
    'plan-large': {
      title: `${counted(count, 'ad group')}: a plan of more than ${advised.groups} ad groups or ${advised.rows} keyword rows can hardly be looked after by hand.`,
      remedy: 'Make fewer in Build, or split the plan',
    },
    'bids-start-high': {
      title: `${counted(count, 'bid')} start high. Let them come down when there are results.`,
      remedy: 'See the rules in Build',
    },
    'no-location': {
      title: `${counted(count, 'campaign')} without a location: ${count === 1 ? 'it' : 'they'} would be shown worldwide.`,
      remedy: 'Name the places in the brief',
    },
    'presence-interested': {
      title: `${counted(count, 'campaign')} shown to people elsewhere who are only interested in the places, too.`,
      remedy: 'See who they are shown to',
    },
    'no-language': {
      title: `${counted(count, 'campaign')} without a language.`,
      remedy: 'Set it in the brief',
    },
    'no-target': {
      title: `${counted(count, 'campaign')} that bid${count === 1 ? 's' : ''} for a target that is not set.`,
      remedy: 'Set it in the brief',
    },
    'no-budget': {
      title: `${counted(count, 'campaign')} without a daily budget.`,
      remedy: 'Set it in Build',
    },
    'spend-over-budget': {
      title: 'The forecast spends more a day than the budgets allow: ads will be missing part of the day.',
      remedy: 'See the forecast in Build',
    },
    'campaign-without-negatives': {
      title: `${counted(count, 'campaign')} without a negative keyword.`,
      remedy: 'Look through the words in Prune',
    },
    'broad-without-negatives': {
      title: `${counted(count, 'broad keyword')} in campaigns without any negative: they answer nearly anything.`,
      remedy: 'Add negatives in Prune',
    },
    'group-without-negatives': {
      title: `${counted(count, 'ad group')} without a negative of ${count === 1 ? 'its' : 'their'} own, nor a fence.`,
      remedy: 'See the fences in Build',
    },
    'keywords-unplaced': {
      title: `${counted(count, 'keyword')} in no theme.`,
      remedy: 'Place them in Sort',
    },
    'group-loose': {
      title: `${counted(count, 'ad group')} whose keywords have little in common: one ad can hardly speak of them all.`,
      remedy: 'Split the theme in Sort',
    },
    'rival-in-keyword': {
      title: `${counted(count, 'keyword')} with a rival’s name.`,
      remedy: 'Judge them in Prune',
    },
    'adults-not-taken': {
      title: 'The site is for adults only, and the outlet takes no such site.',
      remedy: 'Look at who the site is for in the brief',
    },
    'adults-network': {
      title: `${counted(count, 'campaign')} shown on networks where the outlet has no sites for adults.`,
      remedy: 'Change the networks in the brief',
    },
    'outlet-unsound': {
      title: `${counted(count, 'part')} of the outlet’s profile that can’t be so.`,
      remedy: 'Mend the outlet',
    },
    'bid-under-least': {
      title: `${counted(count, 'bid')} under the outlet’s least.`,
      remedy: 'See the ladder in Build',
    },
    'budget-under-least': {
      title: `${counted(count, 'campaign')} with a daily budget under the outlet’s least.`,
      remedy: 'Raise it in Build',
    },
    'group-over-limit': {
      title: `${counted(count, 'ad group')} with more keywords than the outlet takes in one.`,
      remedy: 'Split them in Build',
    },
    'prerequisite-for-sheets': {
      title: `${count === 1 ? 'One thing has' : `${counted(count, 'thing')} have`} to be in place before the outlet takes sheets.`,
      remedy: 'Tick what is in place',
    },
    'prerequisite-to-go-live': {
      title: `${count === 1 ? 'One thing has' : `${counted(count, 'thing')} have`} to be in place before anything is shown.`,
      remedy: 'Tick what is in place',
    },
    'character-not-carried': {
      title: `${counted(count, 'row')} with a character that the outlet’s encoding has not.`,
      remedy: 'Change the encoding, or the text',
    },
    'budgets-wait': {
      title: `${counted(count, 'budget')} to be changed tomorrow: the outlet takes only so many a day.`,
      remedy: 'See the difference',
    },
    'not-told-gone': {
      title: `${counted(count, 'row')} gone that the outlet’s sheets can’t tell: take them out there by hand.`,
      remedy: 'See the difference',
    },
    'not-carried': {
      title: `${counted(count, 'row')} of which something is lost on the way.`,
      remedy: 'See what is not carried',
    },
    'copy-not-made': {
      title:
        count === 1
          ? 'One copy of a campaign or ad group is not made: what it follows is made no more, or all its own keywords are cut.'
          : `${format(count)} copies of campaigns or ad groups are not made: what they follow is made no more, or all their own keywords are cut.`,
      remedy: 'Put the keywords back in Gather',
    },
    'own-check-stops': {
      title: `${counted(count, 'cell')} that its own checks don’t let through.`,
      remedy: 'See what it looks at under Outlets',
    },
    'own-check': {
      title: `${counted(count, 'cell')} that its own checks object to.`,
      remedy: 'See what it looks at under Outlets',
    },
    'few-conversions': {
      title: `${counted(count, 'campaign')} for which it is to bid by itself, with fewer conversions in 30 days than it needs for that.`,
      remedy: 'Bid by hand until there are enough: choose it in Build',
    },
    'campaign-too-large': {
      title: `${counted(count, 'campaign')} with more ad groups than are advised.`,
      remedy: 'Split them by theme, in Build',
    },
    'few-extras': {
      title: `${counted(count, 'campaign')} with fewer sitelinks or callouts than are advised.`,
      remedy: 'Make some in Write',
    },
    'ads-not-accepted': {
      title: `The ads of ${counted(count, 'ad group')} are not accepted yet.`,
      remedy: 'Have them looked at: the desk, in Write',
    },
    orphans: {
      title: `${counted(count, 'value')} held on rows that are no longer made.`,
      remedy: 'Judge them in Build',
    },
  };
  return words[rule];
}

/** Where a finding is mended; `text` narrows to one of those it speaks of. */
export function findingPlace({ rule, place, outlet }: OutletFinding, key?: string, text?: string): string {
  const search = (words: Record<string, string | undefined>) =>
    new URLSearchParams(Object.entries(words).flatMap(([name, value]) => (value ? [[name, value]] : [])));
  if (rule === 'no-extras' || rule === 'no-phone' || rule === 'marker-in-extra')
    return '../write?view=extras';
  if (rule === 'spend-over-budget') return '../build';
  if (rule.startsWith('address')) return '../write?view=addresses';
  if (rule === 'relevance-low') return '../write?view=ads&sort=relevance&down=no';
  if (
    rule === 'no-target' ||
    rule === 'presence-interested' ||
    rule === 'no-location' ||
    rule === 'no-language'
  )
    return '../brief';
  if (rule === 'ads-not-accepted') return '../write?view=desk&desk=all';
  if (rule === 'copy-not-made') return '../gather?state=cut';
  switch (place.stage) {
    case 'ship':
      return rule === 'outlet-unsound' ? '?view=outlets' : `?${search({ at: outlet ?? undefined })}`;
    case 'write':
      return `../write?${search({ group: key, field: place.field, outlet: outlet ?? undefined })}`;
    case 'prune':
      return rule === 'own-keyword-blocked' ? '../prune?view=negatives' : '../prune';
    case 'brief':
      return '../brief';
    case 'gather':
      return `../gather?${search({ filter: text, state: 'all' })}`;
    default:
      return `../${place.stage}?${search({ filter: text })}`;
  }
}
