import { descriptions, headlines } from '../write/index.ts';
import { type CellValue, type Outlet, plainHeading, type SheetColumn } from './outlet.ts';
import { plainOutlet } from './profiles/plain.ts';

/** What stands in each column, in the sheet's order; null: nothing that a plan has. */
export type GuessedColumns = (CellValue | null)[];

/** The trade's names for what a column holds, without spaces and marks. */
const NAMES: Partial<Record<CellValue, readonly string[]>> = {
  'row-kind': ['row', 'rowtype', 'row kind', 'entity', 'lineis'],
  campaign: ['campaign', 'campaignname'],
  'daily-budget': ['budget', 'dailybudget', 'campaigndailybudget', 'campaignbudget', 'budgetperday'],
  'match-setting': ['matching', 'campaignmatching'],
  group: ['adgroup', 'adgroupname', 'group', 'groupname'],
  keyword: ['keyword', 'keywordtext', 'searchkeyword', 'searchterm', 'phrase'],
  'match-type': ['matchtype', 'match', 'keywordmatchtype', 'keywordtype', 'matches'],
  bid: ['bid', 'maxcpc', 'cpcbid', 'cpc', 'maximumcpc', 'maxbid', 'keywordbid', 'adgroupbid', 'defaultbid'],
  'ad-form': ['adform', 'adtype'],
  path1: ['path1', 'displaypath1', 'urlpath1', 'path'],
  path2: ['path2', 'displaypath2', 'urlpath2'],
  'final-url': ['finalurl', 'url', 'landingpage', 'destination', 'destinationurl', 'link', 'address'],
  'mobile-url': ['mobileurl', 'finalmobileurl', 'mobilefinalurl', 'mobilelandingpage'],
  labels: ['labels', 'label', 'tags'],
  status: ['status', 'state', 'keywordstatus', 'enabled'],
  networks: ['networks', 'network'],
  locations: ['locations', 'location', 'targetlocations', 'region'],
  'locations-out': ['excludedlocations', 'negativelocations'],
  languages: ['languages', 'language'],
  schedule: ['schedule', 'adschedule'],
  starts: ['start', 'startdate', 'starts', 'from'],
  ends: ['end', 'enddate', 'ends', 'until'],
  rotation: ['rotation', 'adrotation'],
};

const known = new Map<string, CellValue>();
const bare = (heading: string): string => plainHeading(heading).replace(/[^\p{L}\p{N}]/gu, '');
for (const [value, names] of Object.entries(NAMES))
  for (const name of names ?? []) known.set(bare(name), value as CellValue);
for (const { columns } of plainOutlet.sheets)
  for (const { heading, value } of columns) known.set(bare(heading), value);
headlines.forEach((field, at) => {
  for (const name of ['headline', 'title', 'adtitle']) known.set(`${name}${at + 1}`, field);
});
descriptions.forEach((field, at) => {
  for (const name of ['description', 'descriptionline', 'text', 'adtext', 'line'])
    known.set(`${name}${at + 1}`, field);
});
known.set('headline', 'headline1').set('title', 'headline1');
known.set('description', 'description1').set('adtext', 'description1');

const TYPE = /^((campaign )?negative )?(broad|phrase|exact|modified broad)( match)?$/i;

/**
 * Guesses what the columns of a sheet hold, by their headings, and where those say nothing by what stands in them. Each
 * value is found once: the first column that has it. O(cells of the sample).
 */
export function guessColumns(
  headings: readonly string[],
  sample: readonly (readonly string[])[],
): GuessedColumns {
  const taken = new Set<CellValue>();
  const guessed: GuessedColumns = headings.map((heading) => {
    const value = known.get(bare(heading));
    if (value === undefined || taken.has(value)) return null;
    taken.add(value);
    return value;
  });
  const byCells = (value: CellValue, is: (cell: string) => boolean) => {
    if (taken.has(value)) return;
    const at = headings.findIndex((_, column) => {
      if (guessed[column] !== null) return false;
      const cells = sample.map((row) => (row[column] ?? '').trim()).filter((cell) => cell !== '');
      return cells.length > 0 && cells.every(is);
    });
    if (at < 0) return;
    guessed[at] = value;
    taken.add(value);
  };
  byCells('match-type', (cell) => TYPE.test(cell));
  byCells('final-url', (cell) => /^https?:\/\/\S+$/i.test(cell));
  return guessed;
}

/** `1,25` and `1.234,50` have a comma before their cents. */
function markOf(sample: readonly (readonly string[])[], places: readonly number[]): '.' | ',' {
  const amounts = sample.flatMap((row) => places.map((at) => (row[at] ?? '').trim()));
  return amounts.some((text) => /\d,\d{1,2}$/.test(text)) &&
    !amounts.some((text) => /\d\.\d{1,2}$/.test(text))
    ? ','
    : '.';
}

/** An outlet that has one sheet: this one. What is not told is as in plain sheets. */
export function guessedOutlet(
  name: string,
  headings: readonly string[],
  values: GuessedColumns,
  sample: readonly (readonly string[])[],
): Outlet {
  const columns: SheetColumn[] = headings.flatMap((heading, at) => {
    const value = values[at];
    return value ? [{ heading, value }] : [];
  });
  const money = values.flatMap((value, at) => (value === 'bid' || value === 'daily-budget' ? [at] : []));
  const typeAt = values.indexOf('match-type');
  const hasTypes = typeAt >= 0;
  return {
    ...plainOutlet,
    key: 'guessed',
    name,
    match: hasTypes ? 'column' : 'notation',
    money: { mark: markOf(sample, money), unit: 'major' },
    sheets: [
      {
        kind: 'combined',
        fileName: 'sheet',
        columns: hasTypes
          ? columns
          : columns.map((column) =>
              column.value === 'keyword' ? { ...column, value: 'keyword-notation' } : column,
            ),
      },
    ],
  };
}
