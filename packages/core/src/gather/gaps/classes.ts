import { float64At, int32At, uint32At } from '../../access/index.ts';
import type { ContextIndex } from './contexts.ts';

/** Contexts of a filler that its class is found from, evenly from all, and classes looked at in one. */
const MOST_CONTEXTS = 48;
const MOST_LABELS = 48;
const ROUNDS = 8;
/** Before a class is as full as this, a larger one that is filled alike goes before. */
const SLACK = 0.5;

export const NO_CLASS = -1;

/**
 * Classes of fillers: those that stand in the same contexts. Each filler begins with the largest context that it is in,
 * and goes, round after round, to the class that fills its contexts best, so that traits come together, and goods, and
 * wants. A filler is in no class unless it shares two contexts of three members with others. O(rounds × members).
 */
export function fillerClasses(index: ContextIndex): { classOf: Int32Array; sizes: Uint32Array } {
  const { members, starts, fillers } = index;
  const contexts = starts.length - 1;
  const labelOf = new Int32Array(fillers).fill(NO_CLASS);
  const largest = new Uint32Array(fillers);
  const inContexts = new Uint32Array(fillers + 1);
  for (let context = 0; context < contexts; context++) {
    const size = uint32At(starts, context + 1) - uint32At(starts, context);
    for (let at = uint32At(starts, context); at < uint32At(starts, context + 1); at++) {
      const filler = uint32At(members, at);
      inContexts[filler] = uint32At(inContexts, filler) + 1;
      if (size <= uint32At(largest, filler)) continue;
      largest[filler] = size;
      labelOf[filler] = context;
    }
  }
  for (let filler = 0; filler < fillers; filler++)
    if (uint32At(inContexts, filler) < 2) labelOf[filler] = NO_CLASS;
  const byFiller = contextsOfFillers(index, inContexts);
  for (let round = 0; round < ROUNDS; round++) if (!settle(index, byFiller, labelOf)) break;
  return numbered(labelOf);
}

type ByFiller = { starts: Uint32Array; contexts: Uint32Array };

function contextsOfFillers({ members, starts, fillers }: ContextIndex, counts: Uint32Array): ByFiller {
  const ends = new Uint32Array(fillers + 1);
  for (let filler = 0; filler < fillers; filler++)
    ends[filler + 1] = uint32At(ends, filler) + uint32At(counts, filler);
  const next = ends.slice(0, fillers);
  const contexts = new Uint32Array(members.length);
  for (let context = 0; context < starts.length - 1; context++)
    for (let at = uint32At(starts, context); at < uint32At(starts, context + 1); at++) {
      const filler = uint32At(members, at);
      contexts[uint32At(next, filler)] = context;
      next[filler] = uint32At(next, filler) + 1;
    }
  return { starts: ends, contexts };
}

/** How many of each class stand in each context, the first classes that are met there. */
function labelCounts({ members, starts }: ContextIndex, labelOf: Int32Array) {
  const contexts = starts.length - 1;
  const begins = new Uint32Array(contexts + 1);
  const labels = new Int32Array(members.length);
  const counts = new Uint32Array(members.length);
  const seenIn = new Int32Array(contexts).fill(-1);
  const placeOf = new Uint32Array(contexts);
  let end = 0;
  for (let context = 0; context < contexts; context++) {
    const from = end;
    for (let at = uint32At(starts, context); at < uint32At(starts, context + 1); at++) {
      const label = int32At(labelOf, uint32At(members, at));
      if (label === NO_CLASS) continue;
      if (seenIn[label] !== context) {
        if (end - from >= MOST_LABELS) continue;
        seenIn[label] = context;
        placeOf[label] = end;
        labels[end] = label;
        counts[end++] = 0;
      }
      const place = uint32At(placeOf, label);
      counts[place] = uint32At(counts, place) + 1;
    }
    begins[context + 1] = end;
  }
  return { begins, labels, counts };
}

/** One round; answers whether any filler has gone elsewhere. Labels are numbers of contexts. */
function settle(index: ContextIndex, byFiller: ByFiller, labelOf: Int32Array): boolean {
  const { begins, labels, counts } = labelCounts(index, labelOf);
  const sizes = new Uint32Array(index.starts.length);
  for (const label of labelOf) if (label !== NO_CLASS) sizes[label] = uint32At(sizes, label) + 1;
  const scores = new Float64Array(index.starts.length);
  const touched: number[] = [];
  const before = labelOf.slice();
  let moved = false;
  for (let filler = 0; filler < before.length; filler++) {
    const own = int32At(before, filler);
    if (own === NO_CLASS) continue;
    const from = uint32At(byFiller.starts, filler);
    const to = uint32At(byFiller.starts, filler + 1);
    const pace = Math.max(1, Math.ceil((to - from) / MOST_CONTEXTS));
    for (let at = from; at < to; at += pace) {
      const context = uint32At(byFiller.contexts, at);
      for (let place = uint32At(begins, context); place < uint32At(begins, context + 1); place++) {
        const label = int32At(labels, place);
        const isOwn = label === own ? 1 : 0;
        const others = uint32At(counts, place) - isOwn;
        if (others <= 0) continue;
        if (scores[label] === 0) touched.push(label);
        scores[label] = float64At(scores, label) + others / (uint32At(sizes, label) - isOwn + SLACK);
      }
    }
    let best = own;
    let most = float64At(scores, own);
    for (const label of touched) {
      const value = float64At(scores, label);
      if (value > most * 1.000_001 || (value >= most && label < best)) {
        best = label;
        most = value;
      }
      scores[label] = 0;
    }
    touched.length = 0;
    scores[own] = 0;
    if (best === own) continue;
    labelOf[filler] = best;
    moved = true;
  }
  return moved;
}

function numbered(labelOf: Int32Array): { classOf: Int32Array; sizes: Uint32Array } {
  const numbers = new Map<number, number>();
  const sizes: number[] = [];
  const classOf = labelOf.map((label) => {
    if (label === NO_CLASS) return NO_CLASS;
    const known = numbers.get(label) ?? numbers.size;
    numbers.set(label, known);
    sizes[known] = (sizes[known] ?? 0) + 1;
    return known;
  });
  return { classOf, sizes: Uint32Array.from(sizes) };
}
