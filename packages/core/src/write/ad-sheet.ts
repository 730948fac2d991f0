import { stringAt } from '../access/index.ts';
import { guessDelimiter, readRecords } from '../gather/index.ts';
import { lengthOf, linesOf, parseLine, tidy } from '../text/index.ts';
import type { VersionName } from './ad-pattern.ts';
import { readSite } from './address.ts';
import { type AdField, type AdLimits, adFields, isAdField } from './fields.ts';

/** A group as a sheet names it. */
export type SheetGroup = { key: string; campaign: string; group: string; keyword: string };
/** An ad that a row of a sheet may be about, by the name that stands in the sheet. */
export type SheetAd = { pattern: number; version: VersionName; name: string };

export type SheetField = AdField | 'finalUrl';
/** A text for one group's ad. */
export type SheetText = { group: string; ad: SheetAd; field: SheetField; text: string };
/** `line` counts from 1, the heading with it. */
export type SheetProblem = { line: number; words: string };

export type AdSheetReading = {
  rows: number;
  texts: SheetText[];
  problems: SheetProblem[];
  /** Longer than there is room for: they are taken all the same, and show as misfits. */
  tooLong: number;
  /** Headings that say nothing to us. */
  unknown: string[];
};

const fieldHeading = (field: SheetField): string =>
  field === 'finalUrl'
    ? 'Final URL'
    : field.charAt(0).toUpperCase() + field.slice(1).replace(/(\d+)$/, ' $1');

export const sheetHeadings = (fields: readonly SheetField[]): string[] => [
  'Campaign',
  'Ad group',
  'Keyword',
  ...fields.map(fieldHeading),
];

/** A sheet for a writer: each group once, with empty columns for what is to be written. */
export const writerSheet = (groups: readonly SheetGroup[], fields: readonly SheetField[]): string[][] => [
  sheetHeadings(fields),
  ...groups.map(({ campaign, group, keyword }) => [campaign, group, keyword, ...fields.map(() => '')]),
];

type Column = 'campaign' | 'group' | 'keyword' | 'ad' | SheetField | null;

/**
 * Reads a sheet that was filled in: by its headings, in any order, whatever stands between; a row is found by campaign and
 * ad group, or by the ad group alone where its name stands once. Empty cells say nothing. Rows and cells that can't be
 * taken are told with their line; all others are.
 */
export function readAdSheet(
  text: string,
  groups: readonly SheetGroup[],
  ads: readonly SheetAd[],
  usual: SheetAd,
  limits: AdLimits,
): AdSheetReading {
  const lines = linesOf(text);
  const { delimiter, columns } = guessDelimiter(lines);
  const reading: AdSheetReading = { rows: 0, texts: [], problems: [], tooLong: 0, unknown: [] };
  if (!delimiter) {
    reading.problems.push({ line: 1, words: 'This is no sheet: copy it with its headings.' });
    return reading;
  }
  const { records, problems } = readRecords(lines, delimiter, columns);
  for (const { line } of problems)
    reading.problems.push({ line, words: 'A quote in this line does not close; the line was passed over.' });
  const [head, ...rows] = records;
  const layout = (head?.fields ?? []).map(columnOf);
  if (!head || !layout.includes('group')) {
    reading.problems.push({
      line: head?.line ?? 1,
      words: 'There is no column “Ad group”. Copy the headings too.',
    });
    return reading;
  }
  reading.unknown = head.fields.filter((heading, at) => layout[at] === null && heading.trim() !== '');
  const find = groupFinder(groups);
  const byName = new Map(ads.map((ad) => [ad.name.toLowerCase(), ad]));
  for (const { fields, line } of rows) {
    const cell = (column: Column) => tidy(fields[layout.indexOf(column)] ?? '');
    const found = find(layout.includes('campaign') ? cell('campaign') : '', cell('group'));
    reading.rows++;
    if ('words' in found) {
      reading.problems.push({ line, words: found.words });
      continue;
    }
    const named = cell('ad');
    const ad = named === '' ? usual : byName.get(named.toLowerCase());
    if (!ad) {
      reading.problems.push({ line, words: `No pattern is called “${named}”.` });
      continue;
    }
    layout.forEach((column, at) => {
      if (column === null || !isText(column)) return;
      takeCell(reading, { group: found.key, ad, field: column, text: tidy(fields[at] ?? '') }, line, limits);
    });
  }
  return reading;
}

const isText = (column: Column): column is SheetField =>
  column === 'finalUrl' || (column !== null && isAdField(column));

function takeCell(reading: AdSheetReading, text: SheetText, line: number, limits: AdLimits): void {
  if (text.text === '') return;
  const wrong = (words: string) =>
    reading.problems.push({ line, words: `${fieldHeading(text.field)}: ${words}` });
  if (text.field === 'finalUrl') {
    if (readSite(text.text).status === 'problem')
      return void wrong(`“${text.text.slice(0, 60)}” is no web address.`);
  } else {
    const limit = limits[text.field];
    if (!limit) return void wrong('this form of ad has no such field.');
    const read = parseLine(text.text);
    if ('problem' in read) return void wrong(`${read.problem.token} is no token.`);
    if (!text.text.includes('@') && lengthOf(text.text) > limit.limit) reading.tooLong++;
  }
  reading.texts.push(text);
}

function columnOf(heading: string): Column {
  const said = heading.toLowerCase().replace(/[^a-z0-9]/g, '');
  if (said === 'campaign' || said === 'keyword' || said === 'ad') return said;
  if (said === 'adgroup' || said === 'group') return 'group';
  if (said === 'finalurl' || said === 'url' || said === 'landingpage') return 'finalUrl';
  if (said === 'pattern') return 'ad';
  return adFields.find((field) => field === said) ?? null;
}

function groupFinder(
  groups: readonly SheetGroup[],
): (campaign: string, group: string) => { key: string } | { words: string } {
  const both = new Map<string, string>();
  const alone = new Map<string, string[]>();
  for (const { key, campaign, group } of groups) {
    both.set(`${campaign.toLowerCase()}\n${group.toLowerCase()}`, key);
    const name = group.toLowerCase();
    alone.set(name, [...(alone.get(name) ?? []), key]);
  }
  return (campaign, group) => {
    if (group === '') return { words: 'It names no ad group.' };
    const exact = both.get(`${campaign.toLowerCase()}\n${group.toLowerCase()}`);
    if (exact !== undefined) return { key: exact };
    const named = alone.get(group.toLowerCase()) ?? [];
    if (named.length === 1 && campaign === '') return { key: stringAt(named, 0) };
    if (named.length > 1 && campaign === '')
      return { words: `${named.length} ad groups are called “${group}”. Say the campaign too.` };
    return {
      words:
        campaign === ''
          ? `No ad group is called “${group}”.`
          : `There is no ad group “${group}” in “${campaign}”.`,
    };
  };
}
