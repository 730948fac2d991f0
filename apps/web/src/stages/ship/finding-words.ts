import type { Finding, FindingRule } from '@sprig/core/ship';
import { counted } from '../../kit/format.ts';

const fields: Record<string, string> = {
  headline1: 'headline 1',
  headline2: 'headline 2',
  headline3: 'headline 3',
  description1: 'description 1',
  description2: 'description 2',
  path1: 'path 1',
  path2: 'path 2',
  finalUrl: 'final URL',
};

/** Each finding in words: what is wrong, for how many, and what to do. */
export function findingWords({ rule, count, field }: Pick<Finding, 'rule' | 'count' | 'field'>): {
  title: string;
  remedy: string;
} {
  const ads = counted(count, 'ad');
  const words: Record<FindingRule, { title: string; remedy: string }> = {
    'no-keywords': { title: 'There is nothing to ship: no keyword is in.', remedy: 'Gather keywords' },
    'no-campaign-name': { title: 'The campaign has no name.', remedy: 'Name it in Build' },
    'no-site': {
      title: 'The plan has no site, so ads can not be checked against it.',
      remedy: 'Set the site in the brief',
    },
    'field-unfilled': {
      title: `${ads} without ${fields[field ?? ''] ?? 'a field'}: no line fits.`,
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
    orphans: {
      title: `${counted(count, 'value')} held on rows that are no longer made.`,
      remedy: 'Judge them in Build',
    },
  };
  return words[rule];
}
