import { normalise } from '@sprig/core/text';
import { demoTexts } from './demo/keywords.ts';
import { goods, openings, places, traits, wants } from './demo/words.ts';
import { figuresOf, positionsOf } from './figures.ts';
import type { MarketProvider, ReadPage } from './provider.ts';
import { rivalAdsFor } from './rival-ads.ts';
import { clientSite, pageHtml, rivalSite, type Site, seedsOf } from './site.ts';
import { type Part, partsOf } from './vocabulary.ts';

const named = (list: readonly (readonly [string, ...unknown[]])[]) => list.map(([text]) => text);

/** Everything that may be set before, into and behind what a seed is about. */
const around = { before: named(openings), into: named(traits), behind: named(wants), places: named(places) };

/** Searches around a seed: its goods with each opening, trait, want and place, and the seed with each of them. */
function aroundSeed(seed: string): string[] {
  const parts = partsOf(seed);
  const about = parts.filter(({ role }) => role === 'good');
  const subject = about.length > 0 ? about.map(({ text }) => text).join(' ') : seed;
  const list = new Set<string>([seed, subject, reordered(parts), plural(subject)]);
  for (const base of new Set([seed, subject])) {
    for (const word of around.before) list.add(`${word} ${base}`);
    for (const word of around.into) if (!base.includes(word)) list.add(`${word} ${base}`);
    for (const word of around.behind) if (!base.includes(word)) list.add(`${base} ${word}`);
    for (const place of around.places) if (!base.includes(place)) list.add(`${base} ${place}`);
  }
  for (const word of around.behind)
    for (const place of around.places) {
      list.add(`${subject} ${word} ${place}`);
      list.add(`${subject} ${word} in ${place}`);
    }
  for (const trait of around.into) for (const word of around.behind) list.add(`${trait} ${subject} ${word}`);
  if (about.length === 0) for (const [good] of goods) list.add(`${seed} ${good}`);
  return [...list].map(normalise).filter((text) => text !== '');
}

const reordered = (parts: readonly Part[]) =>
  parts
    .map(({ text }) => text)
    .reverse()
    .join(' ');
const plural = (text: string) => (/s$/.test(text) ? text : `${text}s`);

/** The simulated market that ships: no network, the same answers every time. `lastMonth`: 0 = January. */
export function standInMarket(lastMonth: number): MarketProvider {
  const searchesOf = new Map<string, number>();
  const searches = (text: string) => {
    const there = searchesOf.get(text);
    if (there !== undefined) return there;
    const found = figuresOf(text, lastMonth).searches;
    searchesOf.set(text, found);
    return found;
  };
  const byLikelihood = (texts: Iterable<string>, most: number) =>
    [...new Set(texts)].sort((a, b) => searches(b) - searches(a) || (a < b ? -1 : 1)).slice(0, most);
  return {
    name: 'Stand-in market',
    isStandIn: true,
    figures: async (texts) => texts.map((text) => figuresOf(text, lastMonth)),
    related: async (seeds, most) => byLikelihood(seeds.map(normalise).flatMap(aroundSeed), most),
    completions: async (typed, most) => {
      const start = normalise(typed);
      const known = demoTexts().filter((text) => text.startsWith(start));
      const guessed = start === '' ? [] : around.behind.map((word) => `${start} ${word}`);
      return byLikelihood(known.length > 0 ? known : guessed, most);
    },
    positions: async (text) => positionsOf(normalise(text), lastMonth),
    curves: async (texts) => texts.map((text) => positionsOf(normalise(text), lastMonth)),
    rivalAds: async (text) => rivalAdsFor(text),
    readPage: async (address) => readStandIn(address),
  };
}

const sites: readonly [string, Site][] = [
  ['site', clientSite],
  ['rival', rivalSite],
];

/** The stand-in site and path that an address means: `/stand-in/site/hire`, or the site's own made-up host. */
export function standInPlace(address: string): { site: Site; path: string } | null {
  const found = /^(?:https?:\/\/)?([^/]*)(\/[^?#]*)?/i.exec(address.trim());
  const host = (found?.[1] ?? '').toLowerCase().replace(/^www\./, '');
  const path = found?.[2] ?? '/';
  for (const [name, site] of sites) {
    if (host === site.host) return { site, path };
    const prefix = `/stand-in/${name}`;
    if (path === prefix || path.startsWith(`${prefix}/`))
      return { site, path: path.slice(prefix.length) || '/' };
  }
  return null;
}

function readStandIn(address: string): ReadPage | null {
  const place = standInPlace(address);
  const html = place && pageHtml(place.site, place.path);
  if (!html) return null;
  const title = /<title>(.*?)<\/title>/.exec(html)?.[1] ?? '';
  return {
    address: `https://${place.site.host}${place.path}`,
    title: title.replaceAll('&amp;', '&'),
    seeds: seedsOf(html),
  };
}
