import { countAt, float64At, numberAt, uint32At } from '../access/index.ts';
/** How near estimates come on keywords that were kept aside. */
export type Quality = {
  /** Keywords that were kept aside in turn. */
  keywords: number;
  /** Half of them, and nine in ten, lie within so many times. */
  half: number;
  nine: number;
  /** Rank correlation (Spearman's), of estimated and told; null where all told ones are the same. */
  rank: number | null;
};

/** The value below which a share of sorted values lies, in proportion between two (type 7). 0 where there are none. */
export function quantile(sorted: ArrayLike<number>, share: number): number {
  if (sorted.length === 0) return 0;
  const place = (sorted.length - 1) * share;
  const low = Math.floor(place);
  const high = Math.min(sorted.length - 1, low + 1);
  const below = countAt(sorted, low);
  return below + (countAt(sorted, high) - below) * (place - low);
}

export const sorted = (values: Iterable<number>): Float64Array => Float64Array.from(values).sort();

/** `errors` are told less estimated, of logarithms. */
export function qualityOf(errors: readonly number[], estimated: readonly number[]): Quality {
  const sizes = sorted(errors.map(Math.abs));
  return {
    keywords: errors.length,
    half: Math.exp(quantile(sizes, 0.5)),
    nine: Math.exp(quantile(sizes, 0.9)),
    rank: rankCorrelation(
      estimated,
      errors.map((error, at) => error + numberAt(estimated, at)),
    ),
  };
}

/** Spearman's rank correlation, those alike sharing their mean rank. */
function rankCorrelation(a: readonly number[], b: readonly number[]): number | null {
  const [first, second] = [ranksOf(a), ranksOf(b)];
  const mean = (a.length - 1) / 2;
  let [both, one, other] = [0, 0, 0];
  for (let at = 0; at < a.length; at++) {
    const x = float64At(first, at) - mean;
    const y = float64At(second, at) - mean;
    both += x * y;
    one += x * x;
    other += y * y;
  }
  return one === 0 || other === 0 ? null : both / Math.sqrt(one * other);
}

function ranksOf(values: readonly number[]): Float64Array {
  const order = Uint32Array.from(values.keys()).sort((x, y) => numberAt(values, x) - numberAt(values, y));
  const ranks = new Float64Array(values.length);
  for (let from = 0; from < order.length; ) {
    let to = from + 1;
    while (to < order.length && values[uint32At(order, to)] === values[uint32At(order, from)]) to++;
    for (let at = from; at < to; at++) ranks[uint32At(order, at)] = (from + to - 1) / 2;
    from = to;
  }
  return ranks;
}
