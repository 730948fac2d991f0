import { bareColumns } from '@sprig/contracts';
import { commonWords } from '@sprig/core/english';
import { lookAlikeClasses, lookAlikes, reviewWords } from '@sprig/core/prune';
import { english, normalise } from '@sprig/core/text';
import { type DemoKeyword, noiseOf } from '@sprig/market';
import { PoolStore, wholePool } from '../../apps/web/src/pool/pool-store.ts';
import { type Entry, median } from './measure.ts';
import type { Figure } from './server.ts';

const RUNS = 5;

/** One pass that splits every keyword and counts its words: the least that any of this would have to do. */
function countWords(norms: readonly string[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const norm of norms) for (const word of norm.split(' ')) counts.set(word, (counts.get(word) ?? 0) + 1);
  return counts;
}

/** Every tenth keyword in other clothes, so that there is something to find. */
function withVariants(keywords: readonly DemoKeyword[]): DemoKeyword[] {
  return keywords.map((keyword, at) => {
    const words = keyword.text.split(' ');
    if (at % 10 !== 0) return keyword;
    const turned =
      noiseOf(keyword.text) < 0.5
        ? [...words].reverse()
        : words.map((word) => word.replace('kayak', 'kayack'));
    return { ...keyword, text: turned.join(' ') };
  });
}

export async function pruneEntries(keywords: readonly DemoKeyword[]): Promise<Entry[]> {
  const list = withVariants(keywords);
  const norms = list.map(({ text }) => normalise(text) as string);
  const pool = {
    length: norms.length,
    normOf: (at: number) => norms[at] as string,
    searchesOf: (at: number) => (list[at] as DemoKeyword).searches,
  };
  const floorMs = await median(RUNS, () => countWords(norms));
  const alike = await median(RUNS, () =>
    lookAlikes({
      pool,
      classes: lookAlikeClasses,
      pack: english,
      isOrdinary: (word) => commonWords.has(word),
    }),
  );
  const review = await median(RUNS, () => reviewWords({ ...pool, isIn: () => true }));
  const floor = 'split every keyword and count its words once';
  return [
    { name: 'all look-alike classes of 100,000 keywords', ms: alike, floor, floorMs },
    { name: 'word review of 100,000 keywords', ms: review, floor, floorMs },
  ];
}

/** A pool of these keywords as the web worker holds it. */
export function storeOf(keywords: readonly DemoKeyword[]): PoolStore {
  const rows = keywords.length;
  const store = new PoolStore();
  const texts = keywords.map(({ text }) => text);
  store.take({
    ...bareColumns(texts),
    revision: 1,
    ids: Uint32Array.from({ length: rows }, (_, at) => at + 1),
    cpc: Float64Array.from(keywords, ({ cpc }) => cpc),
    searches: Int32Array.from(keywords, ({ searches }) => searches),
    competition: Int8Array.from(keywords, ({ competition }) => competition),
    texts,
    norms: texts,
    sources: texts.map(() => [1]),
  });
  return store;
}

/** A filter of twelve letters, typed one by one over 100,000 keywords, and what each keystroke took. */
export async function keystrokes(keywords: readonly DemoKeyword[]): Promise<Figure[]> {
  const store = storeOf(keywords);
  store.order(wholePool);
  const times: number[] = [];
  for (const typed of ['kayak wrenport', 'inflatable canoe', 'paddle -board', '200 cm fishing'])
    for (let run = 0; run < 5; run++)
      for (let end = 0; end <= typed.length; end++) {
        const start = performance.now();
        store.order({ ...wholePool, filter: typed.slice(0, end) });
        times.push(performance.now() - start);
      }
  times.sort((a, b) => a - b);
  const at = (share: number) => `${(times[Math.floor((times.length - 1) * share)] as number).toFixed(1)} ms`;
  return [
    { name: 'a filter keystroke over 100,000 keywords, median', value: at(0.5), target: '16 ms' },
    { name: 'the same, 95th percentile', value: at(0.95), target: '16 ms' },
  ];
}
