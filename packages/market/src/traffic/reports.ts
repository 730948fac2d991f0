import type { Outlet, ReportColumn } from '@sprig/core/outlets';
import type { Advertiser } from './advertiser.ts';
import type { Cell } from './traffic.ts';

export const trafficReports = ['campaigns', 'keywords', 'terms', 'ads'] as const;
export type TrafficReport = (typeof trafficReports)[number];

/** A day of an account, `2026-11-30`, with what happened on it. */
export type TrafficDay = { day: string; cells: readonly Cell[] };
/** A day with the account as it was then. */
export type DayOfAccount = { advertiser: Advertiser; day: TrafficDay };

type Role = ReportColumn['role'];
const NAMED: Record<TrafficReport, readonly Role[]> = {
  campaigns: ['day', 'campaign', 'network'],
  keywords: ['day', 'campaign', 'group', 'keyword', 'match-type', 'network'],
  terms: ['day', 'campaign', 'group', 'keyword', 'match-type', 'term', 'network'],
  ads: ['day', 'campaign', 'group', 'ad', 'network'],
};
const TOLD: readonly Role[] = [
  'impressions',
  'clicks',
  'ctr',
  'cpc',
  'cost',
  'position',
  'share',
  'lost-budget',
  'lost-rank',
  'conversions',
  'value',
];

type Sums = {
  names: Partial<Record<Role, string>>;
  impressions: number;
  clicks: number;
  cost: number;
  position: number;
  eligible: number;
  lostBudget: number;
  lostRank: number;
  conversions: number;
  value: number;
};

/** How an engine writes its reports, beside what its profile says. */
const MANNERS: Readonly<Record<string, { dotted: boolean; totals: boolean }>> = {
  harrowlight: { dotted: true, totals: true },
};
/** Terms that were seen less often on a day, and never clicked, the engine keeps to itself. */
const RARE = 2;

/** A report in an engine's own columns; conversions as they are known on the last of all days. */
export function reportText(
  kind: TrafficReport,
  days: readonly DayOfAccount[],
  lastDay: string,
  outlet: Outlet,
): string {
  const { dotted = false, totals = false } = MANNERS[outlet.key] ?? {};
  const { headings, decimal } = outlet.report;
  const wanted = new Set<Role>([...NAMED[kind], ...TOLD]);
  const columns = headings.filter(({ role }) => wanted.has(role) && isTold(role, kind, outlet));
  const delimiter = outlet.file.formats[0] === 'tsv' ? '\t' : outlet.file.delimiter;
  const rows: Sums[] = [];
  for (const one of days) for (const sums of summed(kind, one, lastDay, outlet, columns)) rows.push(sums);
  const cells = (sums: Sums) => columns.map(({ role }) => cellOf(role, sums, decimal, dotted));
  const line = (fields: readonly string[]) => fields.map((field) => quoted(field, delimiter)).join(delimiter);
  const all = rows.reduce(added, { ...nothing, names: { campaign: 'Total' } });
  const lines = [
    line(columns.map(({ heading }) => heading)),
    ...(totals && rows.length > 0 ? [line(cells(all))] : []),
    ...rows.map((sums) => line(cells(sums))),
  ];
  return lines.map((one) => one + outlet.file.lineEnding).join('');
}

/** Ads without a keyword have none; where its campaign or its notation tells the match type there is no column. */
const isTold = (role: Role, kind: TrafficReport, { match }: Outlet): boolean =>
  role !== 'match-type' || (kind !== 'ads' && match === 'column');

const nothing: Sums = {
  names: {},
  impressions: 0,
  clicks: 0,
  cost: 0,
  position: 0,
  eligible: 0,
  lostBudget: 0,
  lostRank: 0,
  conversions: 0,
  value: 0,
};

function added(sums: Sums, more: Sums): Sums {
  return {
    names: sums.names,
    impressions: sums.impressions + more.impressions,
    clicks: sums.clicks + more.clicks,
    cost: sums.cost + more.cost,
    position: sums.position + more.position,
    eligible: sums.eligible + more.eligible,
    lostBudget: sums.lostBudget + more.lostBudget,
    lostRank: sums.lostRank + more.lostRank,
    conversions: sums.conversions + more.conversions,
    value: sums.value + more.value,
  };
}

const DAY_MS = 86_400_000;

function summed(
  kind: TrafficReport,
  { day: { day, cells }, advertiser: { rows, groups, campaigns } }: DayOfAccount,
  lastDay: string,
  outlet: Outlet,
  columns: readonly ReportColumn[],
): Sums[] {
  const since = (Date.parse(lastDay) - Date.parse(day)) / DAY_MS;
  const by = new Map<string, Sums>();
  for (const cell of cells) {
    const row = rows[cell.row];
    const group = groups[row?.group ?? -1];
    if (!row || !group) continue;
    const names: Sums['names'] = {
      day,
      campaign: campaigns[group.campaign]?.name ?? '',
      group: group.name,
      keyword:
        outlet.match === 'notation' ? outlet.words.notation[row.type].replace('@', row.text) : row.text,
      'match-type': outlet.words.matchTypes[row.type],
      term: cell.term,
      ad: group.ads[cell.ad]?.name ?? '',
      network: cell.network,
    };
    const key = columns.map(({ role }) => names[role] ?? '').join('\u001f');
    const told = cell.delays.filter((days) => days <= since).length;
    const before = by.get(key) ?? { ...nothing, names };
    by.set(
      key,
      added(before, {
        ...nothing,
        impressions: cell.impressions,
        clicks: cell.clicks,
        cost: cell.cost,
        position: cell.position * cell.impressions,
        eligible: cell.eligible,
        lostBudget: cell.lostBudget,
        lostRank: cell.lostRank,
        conversions: told,
        value: told * cell.worth,
      }),
    );
  }
  return [...by.values()].filter(
    ({ impressions, clicks, lostBudget, lostRank }) =>
      (kind === 'campaigns' ? impressions + lostBudget + lostRank : impressions) > 0 &&
      (kind !== 'terms' || clicks > 0 || impressions >= RARE),
  );
}

function cellOf(role: Role, sums: Sums, mark: '.' | ',', dotted: boolean): string {
  const number = (value: number, places: number) => value.toFixed(places).replace('.', mark);
  const money = (micros: number) => number(micros / 1_000_000, 2);
  const share = (part: number, of: number) => (of > 0 ? `${number((part / of) * 100, 2)}%` : '');
  switch (role) {
    case 'day': {
      const day = sums.names.day ?? '';
      return dotted && day ? day.split('-').reverse().join('.') : day;
    }
    case 'impressions':
      return String(sums.impressions);
    case 'clicks':
      return String(sums.clicks);
    case 'cost':
      return money(sums.cost);
    case 'ctr':
      return share(sums.clicks, sums.impressions);
    case 'cpc':
      return sums.clicks > 0 ? money(sums.cost / sums.clicks) : '';
    case 'position':
      return sums.impressions > 0 ? number(sums.position / sums.impressions, 1) : '';
    case 'share':
      return share(sums.impressions, sums.eligible);
    case 'lost-budget':
      return share(sums.lostBudget, sums.eligible);
    case 'lost-rank':
      return share(sums.lostRank, sums.eligible);
    case 'conversions':
      return String(sums.conversions);
    case 'value':
      return money(sums.value);
    default:
      return sums.names[role] ?? '';
  }
}

const quoted = (field: string, delimiter: string): string =>
  field.includes(delimiter) || /["\r\n]/.test(field) ? `"${field.replaceAll('"', '""')}"` : field;
