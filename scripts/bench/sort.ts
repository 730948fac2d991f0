import { usualSortSettings } from '@sprig/contracts';
import { PoolWords, propose, readSentence, Signals, signalsFor, Units, usualSizes } from '@sprig/core/sort';
import { english } from '@sprig/core/text';
import type { DemoKeyword } from '@sprig/market';
import { type SortInput, Sorting } from '../../apps/web/src/pool/sorting.ts';
import { type Entry, median } from './measure.ts';
import { storeOf } from './prune.ts';
import type { Figure } from './server.ts';

const RUNS = 5;
const PLACES = ['wrenport', 'tallowby bay', 'marrowquay', 'pellanby', 'heronsea', 'ottermere weir'];

const wordsOf = (keywords: readonly DemoKeyword[]) =>
  new PoolWords(
    {
      length: keywords.length,
      isIn: () => true,
      normOf: (row) => (keywords[row] as DemoKeyword).text,
      searchesOf: (row) => (keywords[row] as DemoKeyword).searches,
    },
    english,
  );

/** One pass that splits every keyword and counts its words. */
function countWords(keywords: readonly DemoKeyword[]): Map<string, number> {
  const counts = new Map<string, number>();
  for (const { text } of keywords)
    for (const word of text.split(' ')) counts.set(word, (counts.get(word) ?? 0) + 1);
  return counts;
}

export async function sortEntries(keywords: readonly DemoKeyword[]): Promise<Entry[]> {
  const floor = 'split every keyword and count its words once';
  const floorMs = await median(RUNS, () => countWords(keywords));
  const index = await median(RUNS, () => wordsOf(keywords));
  const words = wordsOf(keywords);
  const rows = keywords.map((_, row) => row);
  const whole = await median(RUNS, () => {
    const units = new Units(words, new Signals(words, signalsFor(english, null, PLACES)));
    return propose(units, rows, usualSizes);
  });
  return [
    { name: 'index of the words of 100,000 keywords', ms: index, floor, floorMs },
    { name: 'whole plan of themes for 100,000 keywords', ms: whole, floor, floorMs, most: 12 },
  ];
}

const input = (themes: SortInput['themes'] = []): SortInput => ({
  language: 'en',
  functionWords: null,
  places: PLACES.map((place) => [place]),
  themes,
  placed: [],
  settings: usualSortSettings,
  seen: 0,
});

/** A sift typed letter by letter, suggestions, and placing by the whole plan, as the web worker does them. */
export async function sortFigures(keywords: readonly DemoKeyword[]): Promise<Figure[]> {
  const sorting = new Sorting(storeOf(keywords));
  sorting.place(input());
  const times: number[] = [];
  for (let run = 0; run < RUNS; run++)
    for (const typed of ['kayak', 'inflat*', 'sit on top', 'wrenport', 'paddle board'])
      for (let end = 1; end <= typed.length; end++) {
        const read = readSentence(`has ${typed.slice(0, end)} and has kayak / canoe / paddle but not hire`);
        if ('problems' in read) continue;
        const start = performance.now();
        sorting.sift(read.sift, { kind: 'all' }, typed.slice(0, end));
        times.push(performance.now() - start);
      }
  times.sort((a, b) => a - b);
  const at = (share: number) => `${(times[Math.floor((times.length - 1) * share)] as number).toFixed(1)} ms`;
  const start = performance.now();
  const made = sorting.suggestions({ kind: 'unplaced' }, null);
  const suggested = performance.now() - start;
  if (made.length === 0) throw new Error('nothing was suggested');
  const plan = sorting.wholePlan({ kind: 'unplaced' });
  const branches = plan?.branches.map((branch) => branch.at) ?? [];
  const themes = sorting.branchThemes({ kind: 'unplaced' }, branches).map(({ within, ...theme }, place) => ({
    ...theme,
    id: place + 1,
    parent: within === null ? null : within + 1,
  }));
  const placed = await median(RUNS, () => sorting.place(input(themes)));
  return [
    { name: 'a sift keystroke over 100,000 keywords, median', value: at(0.5), target: '16 ms' },
    { name: 'the same, 95th percentile', value: at(0.95), target: '50 ms' },
    {
      name: 'suggestions for 100,000 unplaced keywords, first asked for',
      value: `${(suggested / 1_000).toFixed(2)} s`,
      target: '1.5 s',
    },
    {
      name: `100,000 keywords placed anew by ${themes.length.toLocaleString('en')} themes, with all sums`,
      value: `${(placed / 1_000).toFixed(2)} s`,
      target: '–',
    },
  ];
}

/** The whole plan of a million keywords, in one thread, and the memory that it took. */
export function millionFigures(keywords: readonly DemoKeyword[]): Figure[] {
  const words = wordsOf(keywords);
  const start = performance.now();
  const units = new Units(words, new Signals(words, signalsFor(english, null, PLACES)));
  const { themes } = propose(
    units,
    keywords.map((_, row) => row),
    usualSizes,
  );
  const took = performance.now() - start;
  const largest = themes.reduce((most, { rows }) => Math.max(most, rows.length), 0);
  if (largest > usualSizes.target) throw new Error(`a group of ${largest}`);
  return [
    {
      name: `whole plan of 1,000,000 keywords: ${themes.length.toLocaleString('en')} themes, in one thread`,
      value: `${(took / 1_000).toFixed(1)} s`,
      target: '60 s',
    },
  ];
}
