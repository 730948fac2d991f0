import { itemAt } from '../access/index.ts';
import { microsFromDecimal } from '../money/index.ts';
import {
  ADULTS,
  type CampaignFacts,
  type CampaignSettings,
  DAYS,
  type Day,
  DELIVERY,
  GOALS,
  PRESENCE,
  ROTATION,
  type SettingValue,
  STRATEGY,
} from '../outlets/index.ts';

export type ReadSettings = {
  /** What was said; a setting that nothing was said of is missing. */
  facts: Partial<CampaignFacts>;
  /** Settings whose words can't be read. */
  problems: { value: SettingValue; text: string }[];
};

const LEVELS = ['country', 'region', 'town', 'postal'];

/**
 * Reads settings back from their cells: `readSettings(campaignSettings(facts)).facts` says what `facts` says, but for what
 * its cells leave empty. An empty cell says nothing.
 */
export function readSettings(cells: Partial<CampaignSettings>): ReadSettings {
  const facts: Partial<CampaignFacts> = {};
  const problems: ReadSettings['problems'] = [];
  for (const [name, cell] of Object.entries(cells)) {
    const value = name as SettingValue;
    const text = cell.trim();
    if (text === '') continue;
    const read = READERS[value](text);
    if (read === null) problems.push({ value, text });
    else Object.assign(facts, read);
  }
  return { facts, problems };
}

type Reader = (text: string) => Partial<CampaignFacts> | null;

const partsOf = (text: string): string[] =>
  text
    .split(';')
    .map((part) => part.trim())
    .filter((part) => part !== '');

const ofWords =
  <F extends 'presence' | 'delivery' | 'rotation' | 'strategy' | 'goal'>(
    field: F,
    words: Record<CampaignFacts[F], string>,
  ): Reader =>
  (text) => {
    const found = Object.entries<string>(words).find(
      ([key, word]) => word.toLowerCase() === text.toLowerCase() || key === text.toLowerCase(),
    );
    return found ? { [field]: found[0] } : null;
  };

const READERS: Record<SettingValue, Reader> = {
  networks: (text) => {
    const named = partsOf(text).map((part) => part.toLowerCase());
    if (named.some((name) => !['search', 'partners', 'display'].includes(name))) return null;
    return {
      networks: {
        search: named.includes('search'),
        partners: named.includes('partners'),
        display: named.includes('display'),
      },
    };
  },
  locations: (text) => ({ locations: placesOf(text) }),
  'locations-out': (text) => ({ locationsOut: placesOf(text) }),
  presence: ofWords('presence', PRESENCE),
  languages: (text) => ({ languages: partsOf(text) }),
  schedule: (text) => {
    const times = partsOf(text).map(timeOf);
    return times.includes(null) ? null : { schedule: times as NonNullable<(typeof times)[number]>[] };
  },
  devices: (text) => {
    const devices = { desktop: 0, phone: 0, tablet: 0 };
    for (const part of partsOf(text)) {
      const [, name = '', step = ''] =
        /^(desktop|phone|tablet)\s*([+-]?\d+(?:\.\d+)?)\s*%$/i.exec(part) ?? [];
      const basisPoints = Math.round(Number(step) * 100);
      if (name === '' || basisPoints < -9_000 || basisPoints > 90_000) return null;
      devices[name.toLowerCase() as keyof typeof devices] = basisPoints;
    }
    return { devices };
  },
  delivery: ofWords('delivery', DELIVERY),
  strategy: ofWords('strategy', STRATEGY),
  'target-cost': (text) => {
    const targetCost = microsFromDecimal(text);
    return targetCost ? { targetCost } : null;
  },
  'target-return': (text) => {
    const [, told = ''] = /^(\d+(?:[.,]\d+)?)\s*%?$/.exec(text) ?? [];
    const targetReturn = Math.round(Number(told.replace(',', '.')) * 100);
    return targetReturn > 0 ? { targetReturn } : null;
  },
  conversions: (text) => ({ conversions: partsOf(text) }),
  starts: (text) => (isDay(text) ? { starts: text } : null),
  ends: (text) => (isDay(text) ? { ends: text } : null),
  rotation: ofWords('rotation', ROTATION),
  'sites-out': (text) => ({ sitesOut: partsOf(text) }),
  goal: ofWords('goal', GOALS),
  'site-kind': (text) => ({ category: text }),
  audience: (text) => (text.toLowerCase() === ADULTS.toLowerCase() ? { adults: true } : null),
};

/** How the ads of an ad group take turns; null where its words can't be read. */
export const readRotation = (text: string): CampaignFacts['rotation'] | null =>
  READERS.rotation(text.trim())?.rotation ?? null;

const isDay = (text: string): boolean => /^\d{4}-\d\d-\d\d$/.test(text) && !Number.isNaN(Date.parse(text));

/** `Eastmere (region)`; without a level it is a region. */
const placesOf = (text: string): { name: string; level: string }[] =>
  partsOf(text).map((part) => {
    const [, name = part, level = ''] = /^(.*\S)\s*\(([a-z]+)\)$/i.exec(part) ?? [];
    return LEVELS.includes(level.toLowerCase())
      ? { name, level: level.toLowerCase() }
      : { name: part, level: 'region' };
  });

/** `Mon-Fri 9:00-17:00`, `Sat+Sun 0:00-24:00`. */
function timeOf(text: string): CampaignFacts['schedule'][number] | null {
  const [, named = '', ...clocks] =
    /^([a-z+-]+)\s+(\d{1,2}):(\d\d)\s*-\s*(\d{1,2}):(\d\d)$/i.exec(text) ?? [];
  const [fromHour = 99, fromMinute = 99, toHour = 99, toMinute = 99] = clocks.map(Number);
  const from = fromHour * 60 + fromMinute;
  const to = toHour * 60 + toMinute;
  const days = daysOf(named);
  if (!days || fromMinute > 59 || toMinute > 59 || from >= to || to > DAY) return null;
  return { days, from, to };
}

const DAY = 1_440;

function daysOf(named: string): Day[] | null {
  const days = new Set<Day>();
  for (const run of named.toLowerCase().split('+')) {
    const ends = run.split('-').map((name) => DAYS.indexOf(name as Day));
    const [first = -1, last = first] = ends;
    if (first < 0 || last < first || ends.length > 2) return null;
    for (let at = first; at <= last; at++) days.add(itemAt(DAYS, at));
  }
  return DAYS.filter((day) => days.has(day));
}

/**
 * Times of the week by a clock that is `minutes` ahead: what passes midnight goes into the next day, and what
 * stands at the week's end comes round to its beginning. `Mon 20:00-23:00` by two hours is `Mon 22:00-24:00` and `Tue
 * 0:00-1:00`.
 */
export function shiftSchedule(
  schedule: CampaignFacts['schedule'],
  minutes: number,
): CampaignFacts['schedule'][number][] {
  if (minutes === 0) return [...schedule];
  const shifted: CampaignFacts['schedule'][number][] = [];
  const put = (days: readonly Day[], by: number, from: number, to: number) => {
    if (from < to)
      shifted.push({
        days: DAYS.filter((day) => days.includes(itemAt(DAYS, (DAYS.indexOf(day) - by + 7) % 7))),
        from,
        to,
      });
  };
  for (const { days, from, to } of schedule)
    for (const by of [-1, 0, 1])
      put(days, by, Math.max(0, from + minutes - by * DAY), Math.min(DAY, to + minutes - by * DAY));
  return shifted;
}

/** How many minutes one time zone's clock is ahead of another's at a moment. */
export function minutesAhead(zone: string, other: string, at: Date): number {
  return offsetOf(zone, at) - offsetOf(other, at);
}

function offsetOf(timeZone: string, at: Date): number {
  const parts = new Intl.DateTimeFormat('en-GB', {
    timeZone,
    hourCycle: 'h23',
    year: 'numeric',
    month: 'numeric',
    day: 'numeric',
    hour: 'numeric',
    minute: 'numeric',
  }).formatToParts(at);
  const part = (type: string) => Number(parts.find((one) => one.type === type)?.value ?? 0);
  const there = Date.UTC(part('year'), part('month') - 1, part('day'), part('hour'), part('minute'));
  return Math.round((there - at.getTime()) / 60_000);
}
