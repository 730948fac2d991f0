import type { ChangedRow, PartTold, Receipt } from '@sprig/contracts';
import {
  type CellValue,
  columnOf,
  type RowKind,
  rowKinds,
  type SheetFormat,
  type SheetKind,
  valuesOfKind,
} from '@sprig/core/outlets';
import type { LossRule } from '@sprig/core/sheets';
import { counted } from '../../kit/format.ts';

export const sheetWords: Record<SheetKind, string> = {
  campaigns: 'Campaigns',
  groups: 'Ad groups',
  keywords: 'Keywords',
  negatives: 'Negative keywords',
  ads: 'Ads',
  extras: 'Extras',
  combined: 'All in one sheet',
};

export const kindWords: Record<RowKind, string> = {
  campaign: 'campaign',
  group: 'ad group',
  keyword: 'keyword',
  negative: 'negative',
  ad: 'ad',
  extra: 'extra',
};

export const formatWords: Record<SheetFormat, string> = {
  csv: 'csv',
  tsv: 'tsv',
  xlsx: 'workbook (xlsx)',
};

export const changeWords: Record<ChangedRow['change'], string> = {
  added: 'new',
  changed: 'changed',
  removed: 'gone',
};

export const stateWords: Record<Receipt['state'], string> = {
  written: 'written',
  accepted: 'accepted',
  answered: 'answered',
  withdrawn: 'withdrawn',
};

export const valueWords = (value: CellValue): string => columnOf(value).words;

/** What a column of a sheet can hold, in the order in which one would put it. */
export const valuesFor = (kind: SheetKind): CellValue[] =>
  kind === 'combined'
    ? [...new Set(Object.values(valuesOfKind).flat())]
    : valuesOfKind[kind.slice(0, -1) as RowKind].filter((value) => value !== 'row-kind');

/** What an outlet loses of a plan, in words. */
export function lossWords(rule: LossRule, count: number): string {
  const rows = counted(count, 'keyword');
  const words: Record<LossRule, string> = {
    'match-stands-in': `${rows} in a match type that it has not: another stands in`,
    'match-folded': `${rows} that fall together with another match type of theirs`,
    'match-left-out': `${rows} left out: no match type would do`,
    'match-mixed': `${counted(count, 'place')} of close and wide matching: one setting has to do`,
    'bid-of-group': `${rows} whose own bid is lost: the ad group bids`,
    'bid-network': `${counted(count, 'bid')} at partners or on pages that the outlet does not take, or where the campaign is not shown`,
    bid: `${counted(count, 'bid')} that no column takes`,
    budget: `${counted(count, 'daily budget')} that no column takes`,
    'keyword-left-out': `${rows} left out: no sheet lists keywords`,
    'ad-form': `${counted(count, 'ad')} left out: it has no such form`,
    'ad-fields': `${counted(count, 'ad')} with lines that it has no field for`,
    'ad-folded': `${counted(count, 'ad')} that say the same as another one there`,
    'negative-stands-in': `${counted(count, 'negative')} told more narrowly`,
    'negative-left-out': `${counted(count, 'negative')} left out: they would block more than is meant`,
    'negatives-over-limit': `${counted(count, 'negative')} over what one place may hold`,
    setting: `${counted(count, 'campaign setting')} that no column takes`,
    'kept-places': `${counted(count, 'ad')} whose lines are not kept in their places: no column tells them`,
    address: `${counted(count, 'final URL')} of ads and keywords that no column takes`,
    'extra-fields': `${counted(count, 'sitelink')} without the lines below: no columns take them`,
    extra: `${counted(count, 'extra')} that it does not take`,
    'extras-over-limit': `${counted(count, 'extra')} more than are shown`,
    labels: `${counted(count, 'row')} without labels: no column takes them`,
    paused: `${counted(count, 'paused row')} that would run: no column tells that they are paused`,
  };
  return words[rule];
}

/** Which part of a plan was shipped: `2 campaigns: Crowns, Braces; 14 ad groups; label spring`. */
export function partWords({ campaigns, campaignCount, groupCount, labels, kinds }: PartTold): string {
  const more = campaignCount > campaigns.length ? ` and ${campaignCount - campaigns.length} more` : '';
  return [
    campaignCount > 0 && `${counted(campaignCount, 'campaign')}: ${campaigns.join(', ')}${more}`,
    counted(groupCount, 'ad group'),
    labels.length > 0 && `${labels.length === 1 ? 'label' : 'labels'} ${labels.join(', ')}`,
    kinds.length < rowKinds.length && `only ${kinds.map((kind) => `${kindWords[kind]}s`).join(', ')}`,
  ]
    .filter((part) => part !== false)
    .join('; ');
}
