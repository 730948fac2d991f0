import type { Facts } from '@sprig/contracts';
import { microsFromDecimal } from '@sprig/core/money';
import { clock, dayWords } from '@sprig/core/outlets';
import { readSite } from '@sprig/core/write';
import { knownLevel } from './known-places.ts';

/** What was typed as a value, or the words to say that it is none. */
export type Read<T> = { value: T } | { words: string; offers?: Offer[] };
/** What would be typed instead, and what a button says that does it. */
export type Offer = { words: string; typed: string };

const lines = (typed: string) =>
  typed
    .split('\n')
    .map((line) => line.trim())
    .filter((line) => line !== '');

/** One to a line, each once. */
export const readLines = (typed: string): Read<string[]> => ({ value: [...new Set(lines(typed))] });
export const writeLines = (list: readonly string[]): string => list.join('\n');

/** Sites and pages, each without its beginning: `https://www.games.example` is `games.example`; a page keeps its path. */
export function readSites(typed: string): Read<string[]> {
  const value: string[] = [];
  for (const [at, line] of lines(typed).entries()) {
    const site = readSite(line);
    if (site.status === 'problem')
      return {
        words: `Line ${at + 1}: “${line}” is no site or page. Write it like games.example or games.example/chess.`,
      };
    const { pathname, search } = new URL(site.href);
    value.push(`${site.host}${pathname === '/' ? '' : pathname.replace(/\/$/, '')}${search}`);
  }
  return { value: [...new Set(value)] };
}

/** `Wrenport | wren port`: a name and its other forms. */
export const readForms = (typed: string): Read<string[][]> => ({
  value: lines(typed).flatMap((line) => {
    const forms = [...new Set(line.split('|').map((form) => form.trim()))].filter((form) => form !== '');
    return forms.length > 0 ? [forms] : [];
  }),
});
export const writeForms = (list: readonly (readonly string[])[]): string =>
  list.map((forms) => forms.join(' | ')).join('\n');

/** `jug = pitcher`: words that stand for each other, two at least. */
export function readSynonyms(typed: string): Read<string[][]> {
  const value: string[][] = [];
  for (const [at, line] of lines(typed).entries()) {
    const words = [...new Set(line.split('=').map((word) => word.trim().toLowerCase()))].filter(Boolean);
    if (words.length < 2)
      return { words: `Line ${at + 1}: write two words with = between them, like sofa = couch.` };
    value.push(words);
  }
  return { value };
}
export const writeSynonyms = (list: Facts['synonyms']): string =>
  list.map((words) => words.join(' = ')).join('\n');

const DAY = /^\d{4}-\d\d-\d\d$/;

/** `Free delivery | from 2027-03-01 | until 2027-03-31`. */
export function readOffers(typed: string): Read<Facts['offers']> {
  const value: Facts['offers'] = [];
  for (const [at, line] of lines(typed).entries()) {
    const [text = '', ...terms] = line.split('|').map((part) => part.trim());
    const offer: Facts['offers'][number] = { text, from: null, until: null };
    for (const term of terms) {
      const found = /^(from|until)\s+(\S+)$/i.exec(term);
      const day = found?.[2] ?? '';
      if (!found || !DAY.test(day) || Number.isNaN(Date.parse(day)))
        return {
          words: `Line ${at + 1}: “${term}” is no date. Write it like from 2027-03-01 or until 2027-03-31.`,
        };
      offer[found[1]?.toLowerCase() === 'from' ? 'from' : 'until'] = day;
    }
    value.push(offer);
  }
  return { value };
}
export const writeOffers = (offers: Facts['offers']): string =>
  offers
    .map(({ text, from, until }) =>
      [text, from && `from ${from}`, until && `until ${until}`].filter(Boolean).join(' | '),
    )
    .join('\n');

type Location = Facts['locations'][number];
const LEVELS: readonly Location['level'][] = ['country', 'region', 'town', 'postal'];

/**
 * `Wrenport, town`. Without a level one with a figure is postal, and a country or a large region is known by its name;
 * what the others are is asked.
 */
export function readLocations(typed: string): Read<Location[]> {
  const value = new Map<string, Location>();
  const unknown: number[] = [];
  const all = typed.split('\n');
  for (const [at, raw] of all.entries()) {
    const line = raw.trim();
    if (line === '') continue;
    const found = /^(.*?)\s*[,\t;]\s*(\w+)$/.exec(line);
    const said = found?.[2]?.toLowerCase();
    const level = LEVELS.find((one) => one === said || `${one} code` === said);
    if (said && !level && found && /^[a-z]+$/i.test(said))
      return {
        words: `Line ${at + 1}: “${found[2]}” is no level. There are country, region, town and postal.`,
      };
    const name = level ? (found?.[1] ?? '') : line;
    const guessed = /\d/.test(name) ? 'postal' : knownLevel(name);
    if (!level && !guessed) unknown.push(at);
    value.set(name.toLowerCase(), { name, level: level ?? guessed ?? 'town' });
  }
  const [first] = unknown;
  if (first === undefined) return { value: [...value.values()] };
  const withLevel = (level: string) =>
    all.map((line, at) => (unknown.includes(at) ? `${line.trim()}, ${level}` : line)).join('\n');
  const they = (one: string, many: string) =>
    unknown.length === 1
      ? `It is a ${one}`
      : `${unknown.length === 2 ? 'Both' : `All ${unknown.length}`} are ${many}`;
  return {
    words: `Line ${first + 1}: is “${(all[first] ?? '').trim()}” a country, a region or a town? Write which behind a comma.`,
    offers: [
      { words: they('town', 'towns'), typed: withLevel('town') },
      { words: they('region', 'regions'), typed: withLevel('region') },
    ],
  };
}
export const writeLocations = (list: readonly Location[]): string =>
  list.map(({ name, level }) => `${name}, ${level}`).join('\n');

type Slot = Facts['schedule'][number];
type Day = Slot['days'][number];
const DAYS: readonly Day[] = ['mon', 'tue', 'wed', 'thu', 'fri', 'sat', 'sun'];

/** `Mon-Fri 9:00-17:30`, `Sat+Sun 10-16`. */
export function readSchedule(typed: string): Read<Slot[]> {
  const value: Slot[] = [];
  for (const [at, line] of lines(typed).entries()) {
    const found = /^([a-z+\-, ]+?)\s+(\d{1,2})(?::(\d\d))?\s*[-–]\s*(\d{1,2})(?::(\d\d))?$/i.exec(line);
    const days = found && readDays(found[1] ?? '');
    const minutes = (hour?: string, minute?: string) => Number(hour) * 60 + Number(minute ?? 0);
    const [from, to] = [minutes(found?.[2], found?.[3]), minutes(found?.[4], found?.[5])];
    if (!found || !days) return { words: `Line ${at + 1}: write it like Mon-Fri 9:00-17:30.` };
    if (from > 1_440 || to > 1_440 || from >= to)
      return {
        words: `Line ${at + 1}: the time ends before it begins. A night is two lines: until 24:00, and from 0:00.`,
      };
    value.push({ days, from, to });
  }
  return { value };
}

function readDays(text: string): Day[] | null {
  const days = new Set<Day>();
  for (const run of text
    .toLowerCase()
    .split(/[+,\s]+/)
    .filter(Boolean)) {
    const [from, to] = run.split('-').map((name) => DAYS.findIndex((day) => name.startsWith(day)));
    if (from === undefined || from < 0 || (to !== undefined && to < from)) return null;
    for (let at = from; at <= (to ?? from); at++) days.add(DAYS[at] as Day);
  }
  return days.size > 0 ? [...days] : null;
}

export const writeSchedule = (slots: readonly Slot[]): string =>
  slots.map(({ days, from, to }) => `${dayWords(days)} ${clock(from)}-${clock(to)}`).join('\n');

/** `+20`, `-10.5%` as basis points. */
export function readAdjustment(typed: string): Read<number> {
  const found = /^([+\-–−]?)\s*(\d{1,3})(?:[.,](\d{1,2}))?\s*%?$/.exec(typed.trim());
  if (!found) return { words: `“${typed}” is no percentage. Type it like +20 or -10.` };
  const points = Number(found[2]) * 100 + Number((found[3] ?? '').padEnd(2, '0'));
  const value = found[1] !== '' && found[1] !== '+' ? -points : points;
  if (value < -9_000 || value > 90_000) return { words: 'An adjustment goes from -90% to +900%.' };
  return { value: value === 0 ? 0 : value };
}
export const writeAdjustment = (points: number): string => `${points > 0 ? '+' : ''}${points / 100}%`;

/** A day, or nothing. */
export function readDay(typed: string): Read<string | null> {
  const text = typed.trim();
  if (text === '') return { value: null };
  return DAY.test(text) && !Number.isNaN(Date.parse(text))
    ? { value: text }
    : { words: `“${text}” is no day. Write it like 2027-03-31.` };
}

/** `400%` as basis points: what comes back of the cost. Empty: none is aimed at. */
export function readReturn(typed: string): Read<number | null> {
  if (typed.trim() === '') return { value: null };
  const share = microsFromDecimal(typed.replace(/[%\s]/g, '').replace(',', '.'));
  const value = share === undefined ? 0 : Math.round(share / 10_000);
  if (value < 1) return { words: `“${typed}” is no return. Type it like 400%, for four times the cost.` };
  if (value > MOST_RETURN) return { words: 'A return goes up to 1,000,000%.' };
  return { value };
}
const MOST_RETURN = 100_000_000;
export const writeReturn = (value: number | null): string => (value === null ? '' : `${value / 100}%`);
