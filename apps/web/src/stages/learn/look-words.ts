import type { Days, Look, LookAnswer, NoLook } from '@sprig/contracts';
import {
  countedFigures,
  countsDifferMoreThanChance,
  differMoreThanChance,
  type LookGrouping,
  type ResultFigure,
  resultFigures,
} from '@sprig/core/learn';
import { counted, short, wholeMoney } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { reportRoleWords } from '../../plan/report-role-words.ts';
import {
  daysText,
  figureAt,
  figureText,
  figureWords,
  isAmount,
  isShare,
  MILLION,
  signedMoney,
  twoDecimals,
  typedFigure,
} from '../../plan/results/result-words.ts';

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

/** On an axis, where there is little room. */
export function axisText(name: ResultFigure, value: number, currency: string): string {
  if (isAmount(name)) {
    if (value >= 1_000 * MILLION) return short(value / MILLION);
    return value >= 10 * MILLION ? wholeMoney(value, currency) : signedMoney(value, currency);
  }
  if (isShare(name)) return `${twoDecimals.format(value * 100)}%`;
  if (name === 'conversions') return twoDecimals.format(value / MILLION);
  return name === 'position' || name === 'return' ? twoDecimals.format(value) : short(value);
}

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

/**
 * Whether a rate or a count has changed by more than chance, at 5%; null where that can't be told, or it is an amount or
 * a share. Counts that were not told before are 0.
 */
export function isMoreThanChance(
  name: ResultFigure,
  now: readonly (number | null)[],
  before: readonly (number | null)[] | null,
  found: Pick<LookAnswer, 'days' | 'daysBefore' | 'dispersion'>,
): boolean | null {
  if (!before) return null;
  if (name === 'impressions' || name === 'clicks' || name === 'conversions')
    return isCountMoreThanChance(name, now, before, found);
  const parts = SHARE_OF[name];
  if (!parts) return null;
  const [of, all] = parts;
  const share = (figures: readonly (number | null)[]) => ({
    // Parts of conversions are rounded, since the test counts.
    of: Math.round((figureAt(of, figures) ?? -1) / (of === 'conversions' ? MILLION : 1)),
    all: figureAt(all, figures) ?? 0,
  });
  return differMoreThanChance(share(now), share(before));
}

/** Counts of as many days, against how much days vary by themselves. */
function isCountMoreThanChance(
  name: 'impressions' | 'clicks' | 'conversions',
  now: readonly (number | null)[],
  before: readonly (number | null)[],
  found: Pick<LookAnswer, 'days' | 'daysBefore' | 'dispersion'>,
): boolean | null {
  const alpha = found.dispersion?.[name] ?? null;
  if (alpha === null || !isAsLong(found)) return null;
  const count = (figures: readonly (number | null)[]) =>
    (figureAt(name, figures) ?? 0) / (name === 'conversions' ? MILLION : 1);
  return countsDifferMoreThanChance(count(now), count(before), found.days?.most ?? 0, alpha);
}

/** Whether as many days are told of what is looked at as of what it is held against. */
export const isAsLong = ({ days, daysBefore }: Pick<LookAnswer, 'days' | 'daysBefore'>): boolean =>
  days !== null && daysBefore !== null && days.least === daysBefore.least && days.most === daysBefore.most;

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

export const dayCount = ({ from, to }: Days): number =>
  Math.round((Date.parse(to) - Date.parse(from)) / 86_400_000) + 1;

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

/** Conditions in words: `position over 4`. */
export const conditionText = ({ figure, is, than }: Look['figures'][number], currency: string): string =>
  `${figureWords[figure]} ${is} ${figureText(figure, than, currency)}`;

type Told = readonly (number | null)[] | null;

/** The figures that any of these rows tells. */
export const toldFiguresOf = (rows: readonly { figures: Told }[]): ResultFigure[] =>
  resultFigures.filter((name) => rows.some(({ figures }) => figureAt(name, figures) !== null));

/** Figures as they are typed, for a table that is taken out; one that is not told is empty. */
export const figureCells = (names: readonly ResultFigure[], figures: Told): string[] =>
  names.map((name) => {
    const value = figureAt(name, figures);
    return value === null ? '' : typedFigure(name, value);
  });
