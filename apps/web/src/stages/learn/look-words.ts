import type { Days, Look, LookAnswer, NoLook } from '@sprig/contracts';
import {
  countedFigures,
  differMoreThanChance,
  type LookGrouping,
  type ResultFigure,
  readGrain,
  resultFigures,
} from '@sprig/core/learn';
import { count, counted, money, short, wholeMoney } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { reportRoleWords } from '../../plan/report-role-words.ts';

/** What a look tells apart: one, and several. */
export const groupingWords: Record<LookGrouping, readonly [one: string, many: string]> = {
  campaign: ['campaign', 'campaigns'],
  group: ['ad group', 'ad groups'],
  keyword: ['keyword', 'keywords'],
  match: ['match type', 'match types'],
  term: ['search term', 'search terms'],
  ad: ['ad', 'ads'],
  extra: ['extra', 'extras'],
  theme: ['theme', 'themes'],
  stage: ['funnel stage', 'funnel stages'],
  source: ['source', 'sources'],
  brand: ['brand or not', 'brand or not'],
  label: ['label', 'labels'],
  place: ['place', 'places'],
  device: ['device', 'devices'],
  network: ['network', 'networks'],
  page: ['landing page', 'landing pages'],
  hour: ['hour', 'hours'],
  weekday: ['weekday', 'weekdays'],
  day: ['day', 'days'],
};

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
const MILLION = 1_000_000;

const isAmount = (figure: ResultFigure): boolean => AMOUNTS.has(figure);
const isShare = (figure: ResultFigure): boolean => SHARES.has(figure);

const decimals = (most: number) => new Intl.NumberFormat('en-GB', { maximumFractionDigits: most });
const parts = decimals(2);
const tenths = new Intl.NumberFormat('en-GB', { minimumFractionDigits: 1, maximumFractionDigits: 1 });

/** Amounts below nothing are told as they are: attribution takes back. */
const signedMoney = (micros: number, currency: string): string =>
  micros < 0 ? `−${money(-micros, currency)}` : money(micros, currency);
const cents = (micros: number): number => Math.round(micros / 10_000) * 10_000;

/** A figure as it is read: `1,204`, `3.46%`, `£0.43`; `–` where nothing tells it. */
export function figureText(name: ResultFigure, value: number | null | undefined, currency: string): string {
  if (value === null || value === undefined) return '–';
  if (isAmount(name)) return signedMoney(cents(value), currency);
  if (isShare(name)) return `${parts.format(value * 100)}%`;
  if (name === 'conversions') return parts.format(value / MILLION);
  if (name === 'position') return tenths.format(value);
  if (name === 'return') return `${parts.format(value)}×`;
  return count(value);
}

/** On an axis, where there is little room. */
export function axisText(name: ResultFigure, value: number, currency: string): string {
  if (isAmount(name)) {
    if (value >= 1_000 * MILLION) return short(value / MILLION);
    return value >= 10 * MILLION ? wholeMoney(value, currency) : signedMoney(value, currency);
  }
  if (isShare(name)) return `${parts.format(value * 100)}%`;
  if (name === 'conversions') return parts.format(value / MILLION);
  return name === 'position' || name === 'return' ? parts.format(value) : short(value);
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

const COUNTED: ReadonlySet<ResultFigure> = new Set(countedFigures);

/**
 * What a figure was before, where the two can be held against each other: of ranges of which not as many days are told,
 * only what is worked out can, and no count or sum.
 */
export function beforeOf(
  name: ResultFigure,
  figures: readonly (number | null)[] | null,
  found: Pick<LookAnswer, 'days' | 'daysBefore'>,
): number | null {
  return COUNTED.has(name) && !isAsLong(found) ? null : figureAt(name, figures);
}

/** What rates are shares of. */
const SHARE_OF: Partial<Record<ResultFigure, readonly [of: ResultFigure, all: ResultFigure]>> = {
  ctr: ['clicks', 'impressions'],
  rate: ['conversions', 'clicks'],
};

/** Whether a rate has changed by more than chance, at 5%; null where that can't be told, or it is no rate. */
export function isMoreThanChance(
  name: ResultFigure,
  now: readonly (number | null)[],
  before: readonly (number | null)[] | null,
): boolean | null {
  const parts = SHARE_OF[name];
  if (!parts || !before) return null;
  const [of, all] = parts;
  const share = (figures: readonly (number | null)[]) => ({
    // Parts of conversions are rounded, since the test counts.
    of: Math.round((figureAt(of, figures) ?? -1) / (of === 'conversions' ? MILLION : 1)),
    all: figureAt(all, figures) ?? 0,
  });
  return differMoreThanChance(share(now), share(before));
}

/** Whether as many days are told of what is looked at as of what it is held against. */
export const isAsLong = ({ days, daysBefore }: Pick<LookAnswer, 'days' | 'daysBefore'>): boolean =>
  days !== null && daysBefore !== null && days.least === daysBefore.least && days.most === daysBefore.most;

/** As it is typed in a condition, and back. */
export const typedFigure = (name: ResultFigure, value: number): string => {
  if (isAmount(name) || name === 'conversions') return String(value / MILLION);
  return isShare(name) ? `${parts.format(value * 100)}%` : String(value);
};

export function readFigure(name: ResultFigure, typed: string): { value: number } | { words: string } {
  const bare = typed.trim().replace(/[\p{Sc}%×\s]/gu, '');
  const plain = /^\d+,\d{1,2}$/.test(bare) ? bare.replace(',', '.') : bare.replaceAll(',', '');
  const number = Number(plain);
  if (plain === '' || !Number.isFinite(number))
    return { words: `“${typed}” is no number. Type it like ${typedFigure(name, EXAMPLES[name] ?? 100)}.` };
  if (isShare(name)) return { value: number / 100 };
  return { value: isAmount(name) || name === 'conversions' ? Math.round(number * MILLION) : number };
}
const EXAMPLES: Partial<Record<ResultFigure, number>> = {
  ctr: 0.02,
  rate: 0.05,
  position: 3.5,
  cpc: 400_000,
  cost: 20 * MILLION,
};

/** How much more or less it is than before: `+12%`; null where it can't be told. */
export function changeOf(now: number | null | undefined, before: number | null | undefined): number | null {
  if (now === null || now === undefined || before === null || before === undefined || before === 0)
    return null;
  return (now - before) / Math.abs(before);
}
export function changeText(change: number): string {
  const percent = Math.round(change * 100);
  if (percent === 0) return '±0%';
  return `${percent > 0 ? '+' : '−'}${Math.abs(percent) > 999 ? '>999' : Math.abs(percent)}%`;
}

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
export const dayCount = ({ from, to }: Days): number =>
  Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000) + 1;

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

/** Why a look shows nothing, and what would help. */
export function noLookWords(why: NoLook, by: LookGrouping): readonly [title: string, words: string] {
  const [, many] = groupingWords[by];
  if (why.none === 'reports')
    return [
      'No report has come home yet',
      'Take in what an outlet tells of impressions, clicks and cost, or let a simulated engine run.',
    ];
  if (why.none === 'dimension')
    return [
      `No report of this account tells ${why.missing.map((one) => reportRoleWords[one]).join(' and ')}`,
      `A report with such a column is needed to look at ${many}. Take one in, or look at something else.`,
    ];
  if (why.none === 'days')
    return [
      'No report tells days',
      'These reports are of weeks or whole ranges. Take in one with a row for each day.',
    ];
  return ['Nothing is told of these days', 'Choose other days, or take in a report of them.'];
}

const WEEKDAYS = ['Monday', 'Tuesday', 'Wednesday', 'Thursday', 'Friday', 'Saturday', 'Sunday'];
const UNNAMED: Partial<Record<LookGrouping, string>> = {
  theme: 'no theme',
  stage: 'no stage',
  source: 'not in the plan',
  brand: 'not in the plan',
  label: 'no label',
  match: 'no match type told',
};

/** What a group is called; what the report does not name is said so. */
export function groupName(by: LookGrouping, name: string): string {
  if (name === '') return UNNAMED[by] ?? `no ${groupingWords[by][0]} told`;
  if (by === 'weekday') return WEEKDAYS[Number(name) - 1] ?? name;
  if (by === 'day') return daysText({ from: name, to: name });
  if (by === 'hour') return `${name.padStart(2, '0')}:00`;
  if (by === 'match') return matchWords[name as keyof typeof matchWords] ?? name;
  return name;
}

/** `12 of 28 days`, where not all are told. */
export const toldDaysText = ({ least, most, of }: { least: number; most: number; of: number }): string =>
  least === most ? `${most} of ${counted(of, 'day')}` : `${least} to ${most} of ${counted(of, 'day')}`;

export const figureAt = (name: ResultFigure, figures: readonly (number | null)[] | null): number | null =>
  figures?.[resultFigures.indexOf(name)] ?? null;

/** Conditions in words: `position over 4`. */
export const conditionText = ({ figure, is, than }: Look['figures'][number], currency: string): string =>
  `${figureWords[figure]} ${is} ${figureText(figure, than, currency)}`;
