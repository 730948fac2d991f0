import { asMicros, type Micros } from '@sprig/core/money';
import { noiseOf, seeded } from '../seeded.ts';
import { goods, noise, openings, places, traits, type Weighted, wants } from './words.ts';

export type DemoKeyword = { text: string; searches: number; cpc: Micros };

const TOP_SEARCHES = 60_000;
const BASE_CPC = 620_000;
const nothing: Weighted = ['', 1, 1];

/** A keyword's figures by its words: every further word makes it rarer, ready-to-buy words make it dearer. */
function figures(parts: readonly Weighted[]): DemoKeyword {
  const used = parts.filter(([word]) => word !== '');
  const text = used.map(([word]) => word).join(' ');
  const share = used.reduce((product, [, searches]) => product * searches, 1);
  const price = used.reduce((product, [, , factor]) => product * factor, 1);
  const wobble = 0.5 + noiseOf(text);
  const searches = Math.round(TOP_SEARCHES * share * 0.45 ** (used.length - 1) * wobble);
  const cpc = Math.round((BASE_CPC * price * (0.8 + 0.4 * noiseOf(`${text}.`))) / 10_000) * 10_000;
  return { text, searches: searches > 95 ? Math.round(searches / 10) * 10 : searches, cpc: asMicros(cpc) };
}

/** Every keyword of the demo's trade, most searched first. Deterministic. */
export function demoKeywords(): DemoKeyword[] {
  const list: DemoKeyword[] = noise.map((item) => figures([item]));
  for (const opening of [nothing, ...openings])
    for (const trait of [nothing, ...traits])
      for (const good of goods)
        for (const want of [nothing, ...wants])
          for (const place of [nothing, ...places]) {
            if (opening !== nothing && (want !== nothing || place !== nothing)) continue;
            list.push(figures([opening, trait, good, want, place]));
          }
  return list.sort((a, b) => b.searches - a.searches || (a.text < b.text ? -1 : 1));
}

/** The demo plan's pool: the most searched part of it. */
export const DEMO_SIZE = 6_000;

/**
 * `count` distinct keywords of the same trade for benchmarks, with figures: the demo's texts with seeded numbers
 * and words around them, of at most 10 words and 80 characters. Deterministic by its seed.
 */
export function manyKeywords(count: number, seed = 1): DemoKeyword[] {
  const random = seeded(seed);
  const pick = (list: readonly Weighted[]) => list[Math.floor(random() * list.length)] as Weighted;
  const seen = new Set<string>();
  const list: DemoKeyword[] = [];
  while (list.length < count) {
    const size: Weighted = [`${Math.floor(random() * 400) + 1} ${random() < 0.5 ? 'cm' : 'kg'}`, 0.2, 1];
    const keyword = figures([
      pick(openings),
      pick(traits),
      pick(goods),
      random() < 0.6 ? size : nothing,
      pick(wants),
      pick(places),
    ]);
    if (seen.has(keyword.text) || keyword.text.length > 80 || keyword.text.split(' ').length > 10) continue;
    seen.add(keyword.text);
    list.push(keyword);
  }
  return list;
}
