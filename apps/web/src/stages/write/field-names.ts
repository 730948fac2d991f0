import type { AddressRuleName } from '@sprig/core/findings';
import type { AdField, EditorialRule } from '@sprig/core/write';

/** `headline1` as `Headline 1`. */
export const fieldName = (field: string): string =>
  field === 'finalUrl'
    ? 'Final URL'
    : field.charAt(0).toUpperCase() + field.slice(1).replace(/(\d+)$/, ' $1');

export const styleChoices = [
  { value: 'as-is', words: 'as typed' },
  { value: 'lower', words: 'lower' },
  { value: 'sentence', words: 'Sentence' },
  { value: 'title', words: 'Title' },
] as const;

const RULES: Record<
  EditorialRule | AddressRuleName | 'refused-before' | 'other-place',
  (found: string) => string
> = {
  'token-left': (found) => `${found} is left unfilled`,
  'marker-left': (found) => `${found} is still to be filled in`,
  'other-place': (found) => `names ${found}, which is not this group’s place`,
  'word-not-allowed': (found) => `names ${found}, which is not to be used`,
  'phone-in-text': (found) => `${found} reads as a phone number`,
  'exclamation-in-headline': () => 'a headline has no !',
  'repeated-punctuation': (found) => `${found} has the same mark twice in a row`,
  'word-twice': (found) => `“${found}” says a word twice`,
  capitals: (found) => `${found} is in capitals`,
  article: (found) => `“${found}” needs ${/^an\s/iu.test(found) ? '“a”' : '“an”'}`,
  'double-space': () => 'two spaces in a row',
  'space-before-mark': (found) => `a space before “${found.trim()}”`,
  'space-in-path': () => 'a path has no spaces',
  'address-not-https': () => 'not by https',
  'address-other-site': (found) => `${found} is not the plan’s site`,
  'address-too-long': () => 'longer than the outlet allows',
  'address-word-not-allowed': (found) => `names ${found}, which is not to be used`,
  'address-marker-left': (found) => `${found} is still to be filled in`,
  'refused-before': (found) => `was refused before${found ? `: ${found}` : ''}`,
};

/** What is objected to in a field, in words. */
export const problemText = (field: AdField | 'finalUrl', rule: keyof typeof RULES, found: string): string =>
  `${fieldName(field)}: ${RULES[rule](found)}`;
