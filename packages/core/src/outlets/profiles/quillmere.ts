import { asMicros } from '../../money/index.ts';
import { descriptions, headlines } from '../../write/index.ts';
import { type Outlet, usualAdvice } from '../outlet.ts';
import { columns, numbered, told } from './columns.ts';
import { typeWords } from './type-words.ts';

const place = columns(['Order', 'campaign'], ['Shelf', 'group']);
const state = columns(['State', 'status']);
const bids = columns(
  ['Bid in search', 'bid-search'],
  ['Bid at partners', 'bid-partners'],
  ['Bid on pages', 'bid-display'],
);

/** Made up. No match types, but one close or wide setting of each campaign and ad group; bids by network, in whole pence or cents. */
export const quillmere: Outlet = {
  key: 'quillmere',
  name: 'Quillmere',
  limits: {
    campaignName: 80,
    groupName: 70,
    keywordLength: 60,
    keywordWords: 7,
    groupsPerCampaign: 5_000,
    rowsPerCampaign: 30_000,
    rowsPerGroup: 2_000,
    negativesPerGroup: 300,
    finalUrl: 700,
  },
  ad: {
    plain: {
      headlines: { limit: 30, least: 1, most: 2, shown: 2 },
      descriptions: { limit: 96, least: 1, most: 2, shown: 2 },
      paths: { limit: 1, least: 0, most: 0, shown: 0 },
    },
    assembled: null,
    insertion: {
      'as-is': '#searched ?: @default#',
      lower: '#searched small ?: @default#',
      sentence: '#searched sentence ?: @default#',
      title: '#searched title ?: @default#',
    },
    extras: { sitelink: { text: 30, line: 40, most: 5 }, callout: { text: 30, most: 6 } },
  },
  match: 'setting',
  matchTypes: ['broad', 'exact'],
  negativeTypes: ['phrase'],
  bids: { on: 'keyword', perNetwork: true, least: asMicros(20_000), conversions: null },
  bidIncrement: asMicros(10_000),
  budget: { least: asMicros(500_000), changesPerDay: null },
  adultSites: { taken: true, networks: ['search', 'partners', 'display'] },
  words: {
    ...typeWords(
      { broad: 'wide', modified: 'wide', phrase: 'close', exact: 'close' },
      { broad: '@', modified: '@', phrase: '@', exact: '@' },
    ),
    negative: '@',
    matchSettings: { close: 'close', wide: 'wide' },
    enabled: 'live',
    paused: 'held back',
    removed: 'withdrawn',
    adForms: { plain: 'two lines', assembled: 'assembled' },
    extraKinds: { sitelink: 'link', callout: 'remark', phone: 'phone' },
    rowKinds: {
      campaign: 'order',
      group: 'shelf',
      keyword: 'search',
      negative: 'not searched',
      ad: 'ad',
      extra: 'extra',
    },
  },
  gone: 'paused',
  needs: [{ key: 'funding', words: 'The account is funded', before: 'sheets' }],
  sheets: [
    {
      kind: 'campaigns',
      fileName: 'orders',
      columns: [
        ...columns(
          ['Order', 'campaign'],
          ['Pence a day', 'daily-budget'],
          ['Finds', 'match-setting'],
          ['Networks', 'networks'],
          ['Places', 'locations'],
          ['Without places', 'locations-out'],
          ['Languages', 'languages'],
          ['Hours', 'schedule'],
          ['Trade', 'site-kind'],
        ),
        ...state,
      ],
    },
    {
      kind: 'groups',
      fileName: 'shelves',
      columns: [...place, ...bids, ...columns(['Finds', 'match-setting']), ...state],
    },
    {
      kind: 'keywords',
      fileName: 'searches',
      columns: [
        ...place,
        ...columns(['Searched', 'keyword']),
        ...bids,
        ...columns(['Labels', 'labels']),
        ...state,
      ],
    },
    {
      kind: 'negatives',
      fileName: 'not-searched',
      columns: [...place, ...columns(['Not searched', 'keyword']), ...state],
    },
    {
      kind: 'ads',
      fileName: 'ads',
      columns: [
        ...place,
        ...numbered('Line', headlines.slice(0, 2)),
        ...numbered('Words', descriptions.slice(0, 2)),
        ...columns(['Page', 'final-url'], ['Page on phones', 'mobile-url']),
        ...state,
      ],
    },
    {
      kind: 'extras',
      fileName: 'extras',
      columns: [
        ...place,
        ...columns(
          ['Kind', 'extra-kind'],
          ['Text', 'extra-text'],
          ['Below 1', 'extra-line1'],
          ['Below 2', 'extra-line2'],
          ['Page', 'final-url'],
          ['Number', 'extra-number'],
        ),
        ...state,
      ],
    },
  ],
  rowOrder: 'keyword',
  money: { mark: '.', unit: 'minor' },
  file: {
    formats: ['tsv'],
    delimiter: ',',
    encoding: 'utf-16le',
    lineEnding: '\n',
    byteOrderMark: true,
    rowsPerFile: null,
    zipped: false,
  },
  advised: usualAdvice(),
  checks: [],
  timeZone: null,
  answer: { refusal: 'Not taken' },
  report: {
    headings: told(
      ['Date', 'day'],
      ['Order', 'campaign'],
      ['Shelf', 'group'],
      ['Searched', 'keyword'],
      ['Search as typed', 'term'],
      ['Line 1', 'ad'],
      ['Where shown', 'network'],
      ['Times shown', 'impressions'],
      ['Clicks', 'clicks'],
      ['Charged', 'cost'],
      ['Place', 'position'],
      ['Orders', 'conversions'],
      ['Order value', 'value'],
    ),
    decimal: '.',
  },
};
