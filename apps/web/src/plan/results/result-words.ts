import type { Days } from '@sprig/contracts';
import { type ResultFigure, readGrain, resultFigures } from '@sprig/core/learn';
import { count, money } from '../../kit/format.ts';
import { reportRoleWords } from '../report-role-words.ts';

export const figureWords: Record<ResultFigure, string> = {
  impressions: 'impressions',
  clicks: 'clicks',
  cost: 'cost',
  conversions: 'conversions',
  value: 'value',
  ctr: 'CTR',
  cpc: 'CPC',
  cpm: 'CPM',
  rate: 'conversion rate',
  costPerConversion: 'cost per conversion',
  return: 'return',
  position: 'position',
  share: 'share of impressions',
  lostBudget: 'lost to budget',
  lostRank: 'lost to rank',
};

/** Where there is little room. */
export const figureHeadings: Record<ResultFigure, string> = {
  ...figureWords,
  impressions: 'Impressions',
  clicks: 'Clicks',
  cost: 'Cost',
  conversions: 'Conv.',
  value: 'Value',
  rate: 'Conv. rate',
  costPerConversion: 'Cost / conv.',
  return: 'Return',
  position: 'Position',
  share: 'Share',
  lostBudget: 'Lost: budget',
  lostRank: 'Lost: rank',
};

const AMOUNTS: ReadonlySet<ResultFigure> = new Set(['cost', 'value', 'cpc', 'cpm', 'costPerConversion']);
const SHARES: ReadonlySet<ResultFigure> = new Set(['ctr', 'rate', 'share', 'lostBudget', 'lostRank']);
export const MILLION = 1_000_000;

export const isAmount = (figure: ResultFigure): boolean => AMOUNTS.has(figure);
export const isShare = (figure: ResultFigure): boolean => SHARES.has(figure);

const decimals = (most: number) => new Intl.NumberFormat('en-GB', { maximumFractionDigits: most });
export const twoDecimals = decimals(2);
const tenths = new Intl.NumberFormat('en-GB', { minimumFractionDigits: 1, maximumFractionDigits: 1 });

/** Amounts below nothing are told as they are: attribution takes back. */
export const signedMoney = (micros: number, currency: string): string =>
  micros < 0 ? `−${money(-micros, currency)}` : money(micros, currency);
const cents = (micros: number): number => Math.round(micros / 10_000) * 10_000;

/** A figure as it is read: `1,204`, `3.46%`, `£0.43`; `–` where nothing tells it. */
export function figureText(name: ResultFigure, value: number | null | undefined, currency: string): string {
  if (value === null || value === undefined) return '–';
  if (isAmount(name)) return signedMoney(cents(value), currency);
  if (isShare(name)) return `${twoDecimals.format(value * 100)}%`;
  if (name === 'conversions') return twoDecimals.format(value / MILLION);
  if (name === 'position') return tenths.format(value);
  if (name === 'return') return `${twoDecimals.format(value)}×`;
  return count(value);
}

/** In the order in which they are read: from what was shown to what it brought. */
export const figureOrder: readonly ResultFigure[] = [
  'impressions',
  'clicks',
  'ctr',
  'cpc',
  'cost',
  'conversions',
  'rate',
  'costPerConversion',
  'value',
  'return',
  'position',
  'share',
  'lostBudget',
  'lostRank',
  'cpm',
];

const dayFormat = new Intl.DateTimeFormat('en-GB', { day: 'numeric', month: 'short', timeZone: 'UTC' });
const yearFormat = new Intl.DateTimeFormat('en-GB', {
  day: 'numeric',
  month: 'short',
  year: 'numeric',
  timeZone: 'UTC',
});
export const dayText = (iso: string): string => dayFormat.format(new Date(iso));
export const daysText = ({ from, to }: Days): string =>
  from === to
    ? yearFormat.format(new Date(from))
    : `${from.slice(0, 4) === to.slice(0, 4) ? dayText(from) : yearFormat.format(new Date(from))} – ${yearFormat.format(new Date(to))}`;
const STEPS = { day: 'by day', week: 'by week', range: 'over whole ranges' } as const;
const LEVELS = {
  account: 'the account',
  campaign: 'campaigns',
  group: 'ad groups',
  keyword: 'keywords',
  term: 'search terms',
  ad: 'ads',
  extra: 'extras',
} as const;

/** `reports of keywords by day`, with what they are split by. */
export function grainText(code: string): string {
  const grain = readGrain(code);
  if (!grain) return 'reports';
  const splits = grain.splits.map((split) => reportRoleWords[split]);
  const by = splits.length > 0 ? `, split by ${splits.join(' and ')},` : '';
  return `reports of ${LEVELS[grain.level]}${by} ${STEPS[grain.step]}`;
}

export const figureAt = (name: ResultFigure, figures: readonly (number | null)[] | null): number | null =>
  figures?.[resultFigures.indexOf(name)] ?? null;

/** In the unit in which it is typed: an amount in its currency, a share in percent. */
export const typedNumber = (name: ResultFigure, value: number): number => {
  if (isAmount(name) || name === 'conversions') return value / MILLION;
  return isShare(name) ? value * 100 : value;
};

/** As it is typed, and copied. */
export const typedFigure = (name: ResultFigure, value: number): string => {
  if (isAmount(name) || name === 'conversions') return String(value / MILLION);
  return isShare(name) ? `${twoDecimals.format(value * 100)}%` : String(value);
};
