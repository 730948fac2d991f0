import { asMicros, type Micros } from '@sprig/core/money';
import { seeded } from '@sprig/core/text';
import { figuresOf } from '../figures.ts';
import { noiseOf } from '../noise.ts';
import { goods, noise, noiseAround, openings, places, slips, traits, type Weighted, wants } from './words.ts';

export type DemoKeyword = { text: string; searches: number; cpc: Micros; competition: number };

const nothing: Weighted = ['', 1, 1];
/** The figures of the demo's report are of the year to this month, 0 = January. */
const LAST_MONTH = 9;

const joined = (...parts: readonly Weighted[]) =>
  parts
    .map(([word]) => word)
    .filter(Boolean)
    .join(' ');

/** Every keyword of the demo's trade as most would type it. */
function* usualTexts(): Generator<string> {
  for (const opening of [nothing, ...openings])
    for (const trait of [nothing, ...traits])
      for (const good of goods)
        for (const want of [nothing, ...wants])
          for (const place of [nothing, ...places]) {
            if (opening !== nothing && (want !== nothing || place !== nothing)) continue;
            yield joined(opening, trait, good, want, place);
          }
}

/** The same searches in other clothes: turned round, with little words, hyphens and slips. */
function* otherClothes(): Generator<string> {
  for (const [good] of goods.slice(0, 7))
    for (const [want] of wants) {
      yield `${want} ${good}`;
      if (want === 'hire' || want === 'rental') yield `${good} for ${want}`;
      for (const [place] of places) yield `${good} ${want} in ${place}`;
    }
  for (const [trait] of traits) {
    if (trait.includes(' '))
      for (const [good] of goods.slice(0, 5)) yield `${trait.replaceAll(' ', '-')} ${good}`;
    yield `kayak ${trait}`;
  }
  for (const [wrong] of slips)
    for (const [want] of [nothing, ...wants]) yield joined([wrong, 1, 1], [want, 1, 1]);
}

/** What a pile of keywords always has: other meanings, other languages, questions, a rival. */
function* oddments(): Generator<string> {
  for (const [text] of noise) yield text;
  for (const [word] of noiseAround) for (const [good] of goods.slice(0, 6)) yield `${good} ${word}`;
  yield* ['kayak mieten', 'location de kayak', 'alquiler de kayak precio', 'каяк', 'ενοικίαση καγιάκ'];
  yield* ['how to get back into a kayak', 'why does my kayak turn', 'can you stand on a paddle board'];
  yield 'where can i hire a kayak for two people and a dog near the old harbour in wrenport at the weekend';
}

let texts: string[] | null = null;

/** Every text of the demo's trade, each once. */
export function demoTexts(): readonly string[] {
  texts ??= [...new Set([...oddments(), ...otherClothes(), ...usualTexts()])];
  return texts;
}

function figures(text: string): DemoKeyword {
  const { searches, cpc, competition } = figuresOf(text, LAST_MONTH);
  return { text, searches, cpc, competition };
}

/** The demo's keywords with their figures, most searched first. Deterministic. */
export function demoKeywords(): DemoKeyword[] {
  return demoTexts()
    .map(figures)
    .sort((a, b) => b.searches - a.searches || (a.text < b.text ? -1 : 1));
}

/** The demo plan's pool: the most searched part of it, and all that is odd in it. */
export const DEMO_SIZE = 6_000;

export function demoPool(): DemoKeyword[] {
  const odd = new Set([...oddments(), ...otherClothes()]);
  const list = demoKeywords();
  const rest = list.filter(({ text }) => !odd.has(text)).slice(0, DEMO_SIZE - odd.size);
  const kept = new Set(rest);
  return list.filter((keyword) => odd.has(keyword.text) || kept.has(keyword));
}

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
    const parts = [
      pick(openings),
      pick(traits),
      pick(goods),
      random() < 0.6 ? size : nothing,
      pick(wants),
      pick(places),
    ];
    const text = joined(...parts);
    if (seen.has(text) || text.length > 80 || text.split(' ').length > 10) continue;
    seen.add(text);
    list.push(quickFigures(text, parts));
  }
  return list;
}

/** Figures by the weights alone: a million of them are made for a benchmark. */
function quickFigures(text: string, parts: readonly Weighted[]): DemoKeyword {
  const share = parts.reduce((product, [, searches]) => product * searches, 1);
  const price = parts.reduce((product, [, , factor]) => product * factor, 1);
  const searches = Math.round(60_000 * share * (0.5 + noiseOf(text)));
  const cpc = Math.max(2, Math.round(62 * price * (0.8 + 0.4 * noiseOf(`${text}.`)))) * 10_000;
  return { text, searches, cpc: asMicros(cpc), competition: Math.round(99 * noiseOf(`${text} `)) };
}
