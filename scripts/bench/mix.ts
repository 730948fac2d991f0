import { usualAssumptions } from '@sprig/core/figures';
import { countMix, emptyRecipe, mix, type Recipe, resolveLists, WordsReader } from '@sprig/core/mix';
import { asMicros } from '@sprig/core/money';
import { english } from '@sprig/core/text';
import type { DemoKeyword } from '@sprig/market';
import { Mixing, type MixQuestion } from '../../apps/web/src/pool/mixing.ts';
import { VariantList } from '../../apps/web/src/stages/variants/variant-list.ts';
import { type Entry, median } from './measure.ts';
import { storeOf } from './prune.ts';
import type { Figure } from './server.ts';

const RUNS = 5;
const nothingElse = { shared: new Map(), places: [], brands: [], offers: [] };

/** `count` different entries of one, two and three words that share some of their words. */
const words = (name: string, count: number): string[] =>
  Array.from({ length: count }, (_, at) =>
    at % 3 === 0 ? `${name}${at}` : at % 3 === 1 ? `${name}${at} ${name}` : `big ${name}${at} ${name}s`,
  );

const recipeOf = (...sizes: number[]): Recipe => ({
  ...emptyRecipe('Bench'),
  lists: sizes.map((size, at) => ({
    id: at + 1,
    kind: 'own',
    name: `List ${at + 1}`,
    text: words(['trait', 'good', 'want', 'place'][at] ?? 'word', size).join('\n'),
    takes: [],
  })),
  repeats: true,
  patterns: [
    {
      id: 1,
      slots: sizes.map((_, at) => ({ kind: 'list', list: at + 1, optional: false })),
      flip: false,
    },
  ],
});

const inputOf = (recipe: Recipe) => ({
  recipe,
  lists: resolveLists(recipe.lists, nothingElse),
  pack: english,
  limits: { words: 12, length: 120 },
});

const questionOf = (recipe: Recipe): MixQuestion => ({
  recipe,
  source: null,
  shared: [],
  places: [],
  brands: [],
  offers: [],
  language: 'en',
  functionWords: null,
  cuts: [],
  limits: { words: 12, length: 120 },
  assumptions: usualAssumptions,
});

/** The least that making them costs: the same words copied one after another into one buffer, a byte at a time. */
function joinAll(lists: readonly string[][], buffer: Uint8Array): number {
  const encoder = new TextEncoder();
  const [traits = [], goods = [], wants = [], places = []] = lists.map((list) =>
    list.map((text) => encoder.encode(`${text} `)),
  );
  let end = 0;
  for (const trait of traits)
    for (const good of goods)
      for (const want of wants)
        for (const place of places) {
          for (let at = 0; at < trait.length; at++) buffer[end++] = trait[at] as number;
          for (let at = 0; at < good.length; at++) buffer[end++] = good[at] as number;
          for (let at = 0; at < want.length; at++) buffer[end++] = want[at] as number;
          for (let at = 0; at < place.length; at++) buffer[end++] = place[at] as number;
        }
  return end;
}

/** A million combinations made, each once, every check done, and looked up in a pool of 100,000. */
export async function mixEntries(keywords: readonly DemoKeyword[]): Promise<Entry[]> {
  const sizes = [25, 40, 20, 50];
  const recipe = { ...recipeOf(...sizes), repeats: false };
  recipe.never = [
    [
      { kind: 'word', text: 'trait3' },
      { kind: 'list', list: 4 },
    ],
  ];
  const mixing = new Mixing(storeOf(keywords));
  const question = questionOf(recipe);
  mixing.mix(question);
  const lists = recipe.lists.map((list) => (list.kind === 'own' ? list.text.split('\n') : []));
  const floor = 'copy the same words into one buffer by nested loops';
  const buffer = new Uint8Array(80_000_000).fill(1);
  const floorMs = await median(RUNS, () => joinAll(lists, buffer));
  const ms = await median(RUNS, () => mix(inputOf(recipe)));
  const compared = await median(RUNS, () => mixing.mix(question));
  return [
    { name: '1,000,000 combinations made, each once, and checked', ms, floor, floorMs },
    { name: 'the same, looked up in a pool of 100,000 and sampled', ms: compared, floor, floorMs },
  ];
}

/** What a keystroke costs in a list of 50,000 lines, and in a recipe of ordinary size. */
export async function mixFigures(keywords: readonly DemoKeyword[]): Promise<Figure[]> {
  const recipe = recipeOf(50_000, 40, 20, 50);
  const patterns = Array.from({ length: 6 }, (_, at) => ({
    id: at + 1,
    flip: at % 2 === 0,
    slots: recipe.lists
      .slice(0, 2 + (at % 3))
      .map(({ id }) => ({ kind: 'list' as const, list: id, optional: at > 2 })),
  }));
  const texts = recipe.lists.map((list) => (list.kind === 'own' ? list.text : ''));
  const readers = texts.map((text) => new WordsReader().take(text));
  const times: number[] = [];
  const middle = (texts[0] as string).indexOf('\n', 400_000);
  for (let typed = 0; typed < 60; typed++) {
    const text = `${(texts[0] as string).slice(0, middle)}\n${'new boat'.slice(0, typed % 9)}${(texts[0] as string).slice(middle)}`;
    const start = performance.now();
    (readers[0] as WordsReader).take(text);
    countMix(patterns, (list) => (readers[list - 1] as WordsReader).size(false));
    times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  const small = { ...recipeOf(20, 20, 50), repeats: false };
  const mixing = new Mixing(storeOf(keywords));
  const question = questionOf(small);
  for (let warm = 0; warm < 4; warm++) mixing.mix(question);
  const fresh = await median(RUNS, () => mixing.mix(question));
  const list = new VariantList();
  const pasted = keywords.map(({ text }) => text).join('\n');
  const read = await median(3, () => list.read(pasted));
  const written = await median(RUNS, () => {
    list.make({
      types: ['broad', 'modified', 'phrase', 'exact'],
      marks: 'content',
      chosen: [],
      order: 'keyword',
      bids: {
        base: asMicros(400_000),
        steps: { broad: 7_000, modified: 8_500, phrase: 10_000, exact: 12_500 },
        increment: asMicros(10_000),
      },
    });
    return list.text('columns');
  });
  const at = (share: number) => times[Math.floor((times.length - 1) * share)] as number;
  const shown = (ms: number) => `${ms.toFixed(1)} ms`;
  return [
    {
      name: 'count of six patterns after a keystroke in a list of 50,000 lines, median',
      value: shown(at(0.5)),
      target: '5 ms',
    },
    { name: 'the same, 95th percentile', value: shown(at(0.95)), target: '5 ms' },
    {
      name: '20,000 combinations made and looked up in a pool of 100,000, as one types',
      value: shown(fresh),
      target: '100 ms',
    },
    { name: '100,000 pasted keywords read for variants', value: shown(read), target: '–' },
    {
      name: '400,000 variants of them written with bids, ready to copy',
      value: shown(written),
      target: '0.8 s',
    },
  ];
}
