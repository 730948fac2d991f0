import { asMicros } from '../../money/index.ts';
import { type Outlet, usualAdvice } from '../outlet.ts';
import { columns, told } from './columns.ts';
import { typeWords } from './type-words.ts';

const none = { limit: 1, least: 0, most: 0, shown: 0 };
const place = columns(['Drive', 'campaign'], ['Cluster', 'group']);
const state = columns(['On or off', 'status']);

/** Made up. Keywords and negatives are in notation; one title and one text to an ad; bids by ad group. */
export const harrowlight: Outlet = {
  key: 'harrowlight',
  name: 'Harrowlight',
  limits: {
    campaignName: 60,
    groupName: 60,
    keywordLength: 64,
    keywordWords: 8,
    groupsPerCampaign: 2_000,
    rowsPerCampaign: 24_000,
    rowsPerGroup: 1_000,
    negativesPerGroup: 600,
    finalUrl: 512,
  },
  ad: {
    plain: {
      headlines: { limit: 46, least: 1, most: 1, shown: 1 },
      descriptions: { limit: 124, least: 1, most: 1, shown: 1 },
      paths: none,
    },
    assembled: null,
    insertion: null,
    extras: { sitelink: { text: 20, line: 30, most: 4 }, callout: { text: 20, most: 4 } },
  },
  match: 'notation',
  matchTypes: ['broad', 'phrase', 'exact'],
  negativeTypes: ['broad', 'phrase', 'exact'],
  bids: { on: 'group', perNetwork: false, least: asMicros(50_000), conversions: null },
  bidIncrement: asMicros(10_000),
  budget: { least: asMicros(2_000_000), changesPerDay: 3 },
  adultSites: { taken: false, networks: [] },
  words: {
    ...typeWords(
      { broad: 'broad', modified: 'modified broad', phrase: 'phrase', exact: 'exact' },
      { broad: '@', modified: '@', phrase: '"@"', exact: '[@]' },
    ),
    negative: '-@',
    matchSettings: { close: 'close', wide: 'wide' },
    enabled: 'on',
    paused: 'off',
    removed: 'gone',
    adForms: { plain: 'ad', assembled: 'assembled' },
    extraKinds: { sitelink: 'link', callout: 'remark', phone: 'phone' },
    rowKinds: {
      campaign: 'drive',
      group: 'cluster',
      keyword: 'keyword',
      negative: 'negative',
      ad: 'ad',
      extra: 'extra',
    },
  },
  gone: 'removed',
  needs: [{ key: 'phone', words: 'A phone number is confirmed in the account', before: 'live' }],
  sheets: [
    {
      kind: 'campaigns',
      fileName: 'drives',
      columns: [
        ...columns(
          ['Drive', 'campaign'],
          ['Budget', 'daily-budget'],
          ['Area', 'locations'],
          ['Not area', 'locations-out'],
          ['Language', 'languages'],
          ['First day', 'starts'],
          ['Last day', 'ends'],
        ),
        ...state,
      ],
    },
    {
      kind: 'groups',
      fileName: 'clusters',
      columns: [...place, ...columns(['Bid', 'bid']), ...state],
    },
    {
      kind: 'keywords',
      fileName: 'keywords',
      columns: [...place, ...columns(['Keyword', 'keyword-notation']), ...state],
    },
    {
      kind: 'negatives',
      fileName: 'negatives',
      columns: [...place, ...columns(['Kept out', 'keyword-notation']), ...state],
    },
    {
      kind: 'ads',
      fileName: 'ads',
      columns: [
        ...place,
        ...columns(['Title', 'headline1'], ['Text', 'description1'], ['Page', 'final-url']),
        ...state,
      ],
    },
  ],
  rowOrder: 'match-type',
  money: { mark: ',', unit: 'major' },
  file: {
    formats: ['csv'],
    delimiter: ';',
    encoding: 'windows-1252',
    lineEnding: '\r\n',
    byteOrderMark: false,
    rowsPerFile: 1_500,
    zipped: true,
  },
  advised: usualAdvice(),
  checks: [],
  timeZone: null,
  answer: { refusal: 'Problem' },
  report: {
    headings: told(
      ['On', 'day'],
      ['Drive', 'campaign'],
      ['Cluster', 'group'],
      ['Keyword', 'keyword'],
      ['Typed', 'term'],
      ['Title', 'ad'],
      ['Views', 'impressions'],
      ['Visits', 'clicks'],
      ['Outlay', 'cost'],
      ['Mean place', 'position'],
      ['Results', 'conversions'],
      ['Takings', 'value'],
    ),
    decimal: ',',
  },
};
