import { itemAt, numberAt } from '../access/index.ts';
import { type FittedFields, type Kept, textOf } from './ad-pattern.ts';
import { type AdField, descriptions, type FormLimits, headlines } from './fields.ts';
import type { RelevanceReader } from './relevance.ts';

type Item = { field: AdField; text: string; kept: number };

const itemsOf = (names: readonly AdField[], fields: FittedFields, kept: Kept): Item[] =>
  names.flatMap((field) => {
    const fit = fields[field];
    return fit?.status === 'fits' ? [{ field, text: textOf(fit), kept: kept[field] ?? 0 }] : [];
  });

/**
 * In how many ways an assembled ad may be shown: worked out, not enumerated. In a place for which something is kept only
 * that stands; the other places are filled from the rest, in any order, none twice.
 */
export function ordersOf(fields: FittedFields, kept: Kept, form: FormLimits): number {
  return (
    ways(itemsOf(headlines, fields, kept), form.headlines.shown) *
    ways(itemsOf(descriptions, fields, kept), form.descriptions.shown)
  );
}

function ways(items: readonly Item[], shown: number): number {
  let free = items.filter(({ kept }) => kept === 0 || kept > shown).length;
  let count = items.length === 0 ? 0 : 1;
  for (let place = 1; place <= shown; place++) {
    const own = items.filter(({ kept }) => kept === place).length;
    if (own > 0) count *= own;
    else if (free > 0) count *= free--;
  }
  return count;
}

export type Combination = { headlines: string[]; descriptions: string[] };

/** The n-th likely way in which an assembled ad is shown: the first is in the order written, then each item has its turn. */
export function combinationOf(fields: FittedFields, kept: Kept, form: FormLimits, n: number): Combination {
  return {
    headlines: pick(itemsOf(headlines, fields, kept), form.headlines.shown, n),
    descriptions: pick(itemsOf(descriptions, fields, kept), form.descriptions.shown, n),
  };
}

function pick(items: readonly Item[], shown: number, n: number): string[] {
  const free = items.filter(({ kept }) => kept === 0 || kept > shown);
  let turn = free.length === 0 ? 0 : n % free.length;
  const taken = new Set<Item>();
  const texts: string[] = [];
  for (let place = 1; place <= shown; place++) {
    const own = items.filter(({ kept }) => kept === place);
    let item = own.length > 0 ? own[n % own.length] : undefined;
    for (let tries = 0; !item && tries < free.length; tries++) {
      const next = itemAt(free, turn++ % free.length);
      if (!taken.has(next)) item = next;
    }
    if (!item) continue;
    taken.add(item);
    texts.push(item.text);
  }
  return texts;
}

/** Pairs of headlines that say the same: the same content words, whatever their form and order. */
export function alikeHeadlines(fields: FittedFields, reader: RelevanceReader): [AdField, AdField][] {
  const seen = new Map<string, AdField>();
  const pairs: [AdField, AdField][] = [];
  for (const { field, text } of itemsOf(headlines, fields, {})) {
    const stems = [...new Set(reader.contentStems(text))].sort().join(' ');
    const key = stems === '' ? text.toLowerCase() : stems;
    const first = seen.get(key);
    if (first) pairs.push([first, field]);
    else seen.set(key, field);
  }
  return pairs;
}

/** Content words that one may read three times at once in some way of showing the ad. */
export function thriceRead(
  fields: FittedFields,
  kept: Kept,
  form: FormLimits,
  reader: RelevanceReader,
): string[] {
  const most = new Map<string, number>();
  for (const [names, shown] of [
    [headlines, form.headlines.shown],
    [descriptions, form.descriptions.shown],
  ] as const) {
    const items = itemsOf(names, fields, kept).map((item) => ({
      ...item,
      stems: reader.contentStems(item.text),
    }));
    for (const stem of new Set(items.flatMap(({ stems }) => stems))) {
      const times = (list: typeof items) =>
        list.map(({ stems }) => stems.filter((one) => one === stem).length).sort((a, b) => b - a);
      const free = times(items.filter(({ kept: place }) => place === 0 || place > shown));
      let count = 0;
      for (let place = 1; place <= shown; place++) {
        const own = times(items.filter((item) => item.kept === place));
        count += own.length > 0 ? numberAt(own, 0) : (free.shift() ?? 0);
      }
      most.set(stem, (most.get(stem) ?? 0) + count);
    }
  }
  return [...most].flatMap(([stem, count]) => (count >= 3 ? [stem] : []));
}
