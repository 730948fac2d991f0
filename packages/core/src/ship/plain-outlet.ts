import type { CellValue, Outlet, SheetColumn } from './outlet.ts';

const columns = (...list: [heading: string, value: CellValue][]): SheetColumn[] =>
  list.map(([heading, value]) => ({ heading, value }));

const ads = columns(
  ['Headline 1', 'headline1'],
  ['Headline 2', 'headline2'],
  ['Headline 3', 'headline3'],
  ['Description 1', 'description1'],
  ['Description 2', 'description2'],
  ['Path 1', 'path1'],
  ['Path 2', 'path2'],
  ['Final URL', 'final-url'],
);
const campaign = columns(['Campaign', 'campaign']);
const group = columns(['Campaign', 'campaign'], ['Ad group', 'group']);
const keyword = columns(['Keyword', 'keyword'], ['Match type', 'match-type']);
const budget = columns(['Daily budget', 'daily-budget']);
const bid = columns(['Max CPC', 'bid']);
const status = columns(['Status', 'status']);
const settings = columns(
  ['Networks', 'networks'],
  ['Locations', 'locations'],
  ['Excluded locations', 'locations-out'],
  ['Shown to', 'presence'],
  ['Languages', 'languages'],
  ['Schedule', 'schedule'],
  ['Device bid adjustments', 'devices'],
  ['Delivery', 'delivery'],
  ['Bid strategy', 'strategy'],
  ['Start', 'starts'],
  ['End', 'ends'],
);

/** The generic outlet: every value in a column of its own, under the trade's names. */
export const plainOutlet: Outlet = {
  key: 'plain',
  name: 'Plain sheets',
  limits: {
    campaignName: 128,
    groupName: 128,
    keywordLength: 80,
    keywordWords: 10,
    groupsPerCampaign: 15_000,
    rowsPerCampaign: 60_000,
    finalUrl: 1_024,
  },
  ad: {
    headline1: { limit: 32, required: true },
    headline2: { limit: 32, required: true },
    headline3: { limit: 32, required: false },
    description1: { limit: 88, required: true },
    description2: { limit: 88, required: false },
    path1: { limit: 16, required: false },
    path2: { limit: 16, required: false },
  },
  bidIncrement: null,
  words: {
    matchTypes: { broad: 'Broad', modified: 'Modified broad', phrase: 'Phrase', exact: 'Exact' },
    enabled: 'Enabled',
    rowKinds: {
      campaign: 'Campaign',
      group: 'Ad group',
      keyword: 'Keyword',
      negative: 'Negative keyword',
      ad: 'Ad',
    },
  },
  sheets: [
    { kind: 'campaigns', fileName: 'campaigns', columns: [...campaign, ...budget, ...settings, ...status] },
    { kind: 'groups', fileName: 'ad-groups', columns: [...group, ...bid, ...status] },
    { kind: 'keywords', fileName: 'keywords', columns: [...group, ...keyword, ...bid, ...status] },
    { kind: 'negatives', fileName: 'negative-keywords', columns: [...campaign, ...keyword] },
    { kind: 'ads', fileName: 'ads', columns: [...group, ...ads, ...status] },
    {
      kind: 'combined',
      fileName: 'combined',
      columns: [...columns(['Row', 'row-kind']), ...group, ...budget, ...keyword, ...bid, ...ads, ...status],
    },
  ],
  file: { formats: ['csv', 'tsv'], lineEnding: '\r\n', byteOrderMark: false },
};
