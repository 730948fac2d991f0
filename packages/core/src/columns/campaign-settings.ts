import type { Micros } from '../money/index.ts';
import { unitsOf } from './units-of.ts';

/** The campaign settings that a sheet can carry, each written out as one cell. */
export const settingValues = [
  'networks',
  'locations',
  'locations-out',
  'presence',
  'languages',
  'schedule',
  'devices',
  'delivery',
  'strategy',
  'target-cost',
  'target-return',
  'conversions',
  'starts',
  'ends',
  'rotation',
  'sites-out',
  'goal',
  'site-kind',
  'audience',
] as const;
export type SettingValue = (typeof settingValues)[number];
export type CampaignSettings = Record<SettingValue, string>;

export type Day = 'mon' | 'tue' | 'wed' | 'thu' | 'fri' | 'sat' | 'sun';

/** What the brief says of every campaign. Device adjustments and returns are in basis points, times of day in minutes. */
export type CampaignFacts = {
  networks: { search: boolean; partners: boolean; display: boolean };
  locations: readonly { name: string; level: string }[];
  locationsOut: readonly { name: string; level: string }[];
  presence: 'in' | 'interested' | 'either';
  languages: readonly string[];
  schedule: readonly { days: readonly Day[]; from: number; to: number }[];
  devices: { desktop: number; phone: number; tablet: number };
  delivery: 'even' | 'fast';
  strategy: 'by-hand' | 'most-clicks' | 'most-conversions' | 'target-cost' | 'target-return';
  /** What a conversion may cost. */
  targetCost: Micros | null;
  /** What a cost of 100 % is to bring: 40,000 is four times. */
  targetReturn: number | null;
  /** Which conversions are counted, by their names; none: all. */
  conversions: readonly string[];
  starts: string | null;
  ends: string | null;
  rotation: 'best' | 'even';
  sitesOut: readonly string[];
} & SiteFacts;

/** What is said of the site as a whole, and so the same for all campaigns. */
export type SiteFacts = {
  goal: 'none' | 'sales' | 'leads' | 'visits' | 'calls' | 'awareness';
  category: string;
  adults: boolean;
};
export const siteFacts = ['goal', 'category', 'adults'] as const satisfies readonly (keyof SiteFacts)[];

export const DAYS: readonly Day[] = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];
const raised = (word: string) => (word[0] ?? '').toUpperCase() + word.slice(1);

export const PRESENCE = { in: 'People in', interested: 'People interested in', either: 'Either' };
export const DELIVERY = { even: 'Even', fast: 'As fast as it comes' };
export const ROTATION = { best: 'Best ads more often', even: 'All ads alike' };
export const GOALS: Record<SiteFacts['goal'], string> = {
  none: '',
  sales: 'Sales',
  leads: 'Leads',
  visits: 'Visits',
  calls: 'Calls',
  awareness: 'Awareness',
};
export const ADULTS = 'Adults only';
export const STRATEGY = {
  'by-hand': 'Bids by hand',
  'most-clicks': 'Most clicks',
  'most-conversions': 'Most conversions',
  'target-cost': 'Target cost per conversion',
  'target-return': 'Target return',
};

/** `Mon-Fri`, `Sat+Sun`, `Mon+Wed+Fri`: runs of three days and more with a hyphen. */
export function dayWords(days: readonly Day[]): string {
  const places = DAYS.flatMap((day, at) => (days.includes(day) ? [at] : []));
  const runs: number[][] = [];
  for (const place of places) {
    const run = runs.at(-1);
    if (run && run.at(-1) === place - 1) run.push(place);
    else runs.push([place]);
  }
  const name = (place: number | undefined) => raised(DAYS[place ?? 0] ?? '');
  return runs
    .map((run) => (run.length > 2 ? `${name(run[0])}-${name(run.at(-1))}` : run.map(name).join('+')))
    .join('+');
}

/** Minutes of the day as `9:00` and `24:00`. */
export const clock = (minutes: number): string =>
  `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, '0')}`;

const signed = (basisPoints: number) => `${basisPoints < 0 ? '' : '+'}${basisPoints / 100}%`;

/** The settings as cells; empty where the brief leaves them to the outlet. */
export function campaignSettings(facts: CampaignFacts): CampaignSettings {
  const { networks, devices } = facts;
  const places = (list: CampaignFacts['locations']) =>
    list.map(({ name, level }) => `${name} (${level})`).join('; ');
  const adjusted = Object.entries(devices).filter(([, step]) => step !== 0);
  return {
    networks: (['search', 'partners', 'display'] as const)
      .filter((name) => networks[name])
      .map(raised)
      .join('; '),
    locations: places(facts.locations),
    'locations-out': places(facts.locationsOut),
    presence: PRESENCE[facts.presence],
    languages: facts.languages.join('; '),
    schedule: facts.schedule
      .map(({ days, from, to }) => `${dayWords(days)} ${clock(from)}-${clock(to)}`)
      .join('; '),
    devices: adjusted.map(([name, step]) => `${raised(name)} ${signed(step)}`).join('; '),
    delivery: DELIVERY[facts.delivery],
    strategy: STRATEGY[facts.strategy],
    'target-cost': unitsOf(facts.targetCost),
    'target-return': facts.targetReturn === null ? '' : `${facts.targetReturn / 100}%`,
    conversions: facts.conversions.join('; '),
    starts: facts.starts ?? '',
    ends: facts.ends ?? '',
    rotation: ROTATION[facts.rotation],
    'sites-out': facts.sitesOut.join('; '),
    goal: GOALS[facts.goal],
    'site-kind': facts.category,
    audience: facts.adults ? ADULTS : '',
  };
}
