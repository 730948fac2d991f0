import { settingValues } from '../../columns/index.ts';
import { descriptions, headlines, paths } from '../../write/index.ts';
import { type Outlet, usualAdvice } from '../outlet.ts';
import { named, told } from './columns.ts';
import { typeWords } from './type-words.ts';

const ads = named(
  'ad-form',
  ...headlines.slice(0, 12),
  ...descriptions.slice(0, 4),
  ...paths,
  'kept',
  'final-url',
  'mobile-url',
);
const labels = named('labels');
const campaign = named('campaign');
const group = named('campaign', 'group');
const keyword = named('keyword', 'match-type');
const budget = named('daily-budget');
const bid = named('bid');
const status = named('status');
const extras = named('extra-kind', 'extra-text', 'extra-line1', 'extra-line2', 'extra-number');
const settings = named(...settingValues);

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
    rowsPerGroup: 10_000,
    negativesPerGroup: 5_000,
    finalUrl: 1_024,
  },
  ad: {
    plain: {
      headlines: { limit: 32, least: 2, most: 3, shown: 3 },
      descriptions: { limit: 88, least: 1, most: 2, shown: 2 },
      paths: { limit: 16, least: 0, most: 2, shown: 2 },
    },
    assembled: {
      headlines: { limit: 32, least: 3, most: 12, shown: 3 },
      descriptions: { limit: 88, least: 2, most: 4, shown: 2 },
      paths: { limit: 16, least: 0, most: 2, shown: 2 },
    },
    insertion: {
      'as-is': '<<keyword|@default>>',
      lower: '<<keyword:lower|@default>>',
      sentence: '<<keyword:sentence|@default>>',
      title: '<<keyword:title|@default>>',
    },
    extras: {
      sitelink: { text: 24, line: 36, most: 8 },
      callout: { text: 24, most: 10 },
    },
  },
  match: 'column',
  matchTypes: ['broad', 'modified', 'phrase', 'exact'],
  negativeTypes: ['broad', 'phrase', 'exact'],
  bids: { on: 'keyword', perNetwork: false, least: null, conversions: null },
  bidIncrement: null,
  budget: { least: null, changesPerDay: null },
  adultSites: { taken: true, networks: ['search', 'partners', 'display'] },
  words: {
    ...typeWords(
      { broad: 'Broad', modified: 'Modified broad', phrase: 'Phrase', exact: 'Exact' },
      { broad: '@', modified: '@', phrase: '"@"', exact: '[@]' },
    ),
    negative: '-@',
    matchSettings: { close: 'Close', wide: 'Wide' },
    enabled: 'Enabled',
    paused: 'Paused',
    removed: 'Removed',
    adForms: { plain: 'Plain', assembled: 'Assembled' },
    extraKinds: { sitelink: 'Sitelink', callout: 'Callout', phone: 'Phone' },
    rowKinds: {
      campaign: 'Campaign',
      group: 'Ad group',
      keyword: 'Keyword',
      negative: 'Negative keyword',
      ad: 'Ad',
      extra: 'Extra',
    },
  },
  gone: 'removed',
  needs: [],
  sheets: [
    {
      kind: 'campaigns',
      fileName: 'campaigns',
      columns: [...campaign, ...budget, ...settings, ...labels, ...status],
    },
    {
      kind: 'groups',
      fileName: 'ad-groups',
      columns: [...group, ...bid, ...named('rotation'), ...labels, ...status],
    },
    {
      kind: 'keywords',
      fileName: 'keywords',
      columns: [...group, ...keyword, ...bid, ...named('final-url'), ...labels, ...status],
    },
    { kind: 'negatives', fileName: 'negative-keywords', columns: [...group, ...keyword, ...status] },
    { kind: 'ads', fileName: 'ads', columns: [...group, ...ads, ...labels, ...status] },
    {
      kind: 'extras',
      fileName: 'extras',
      columns: [...group, ...extras, ...named('final-url'), ...status],
    },
    {
      kind: 'combined',
      fileName: 'combined',
      columns: [
        ...named('row-kind'),
        ...group,
        ...budget,
        ...keyword,
        ...bid,
        ...ads,
        ...extras,
        ...labels,
        ...settings,
        ...status,
      ],
    },
  ],
  rowOrder: 'group',
  money: { mark: '.', unit: 'major' },
  file: {
    formats: ['csv', 'tsv', 'xlsx'],
    delimiter: ',',
    encoding: 'utf-8',
    lineEnding: '\r\n',
    byteOrderMark: false,
    rowsPerFile: null,
    zipped: false,
  },
  advised: usualAdvice(),
  checks: [],
  timeZone: null,
  answer: { refusal: 'Refused' },
  report: {
    headings: told(
      ['Day', 'day'],
      ['Campaign', 'campaign'],
      ['Ad group', 'group'],
      ['Keyword', 'keyword'],
      ['Match type', 'match-type'],
      ['Search term', 'term'],
      ['Ad', 'ad'],
      ['Device', 'device'],
      ['Network', 'network'],
      ['Place', 'place'],
      ['Landing page', 'page'],
      ['Impressions', 'impressions'],
      ['Clicks', 'clicks'],
      ['Cost', 'cost'],
      ['Average position', 'position'],
      ['Conversions', 'conversions'],
      ['Value', 'value'],
    ),
    decimal: '.',
  },
};
