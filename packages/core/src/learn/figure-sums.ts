import { eligibleOf, type ToldFigures } from './told-figures.ts';

/** What is added as it stands. */
export const countedFigures = ['impressions', 'clicks', 'cost', 'conversions', 'value'] as const;
export type CountedFigure = (typeof countedFigures)[number];

type Ratio = {
  /** Above and below the line, of one row; null where the row does not tell both. */
  of: (told: ToldFigures) => readonly [number, number] | null;
  times: number;
};

const both = (above: number | null, below: number | null) =>
  above === null || below === null ? null : ([above, below] as const);

/** One counted figure by another, times what makes the unit. */
export const plainRatios = {
  ctr: { above: 'clicks', below: 'impressions', times: 1 },
  cpc: { above: 'cost', below: 'clicks', times: 1 },
  cpm: { above: 'cost', below: 'impressions', times: 1_000 },
  rate: { above: 'conversions', below: 'clicks', times: 1 / 1_000_000 },
  costPerConversion: { above: 'cost', below: 'conversions', times: 1_000_000 },
  return: { above: 'value', below: 'cost', times: 1 },
} as const satisfies Record<string, { above: CountedFigure; below: CountedFigure; times: number }>;
export type PlainRatio = keyof typeof plainRatios;

const plain = (name: PlainRatio): Ratio => {
  const { above, below, times } = plainRatios[name];
  return { of: (told) => both(told[above], told[below]), times };
};

/** What is worked out: sums above and below the line, never means of means. */
const RATIOS = {
  ctr: plain('ctr'),
  cpc: plain('cpc'),
  cpm: plain('cpm'),
  rate: plain('rate'),
  costPerConversion: plain('costPerConversion'),
  return: plain('return'),
  position: {
    of: ({ position, impressions }) =>
      position === null ? null : both(weighed(position, impressions), impressions),
    times: 1 / 1_000,
  },
  share: { of: (told) => (told.share === null ? null : both(told.impressions, eligibleOf(told))), times: 1 },
  lostBudget: { of: (told) => lostOf(told.lostBudget, told), times: 1 },
  lostRank: { of: (told) => lostOf(told.lostRank, told), times: 1 },
} satisfies Record<string, Ratio>;

const weighed = (position: number, impressions: number | null) =>
  impressions === null ? null : position * impressions;

function lostOf(lost: number | null, told: ToldFigures): readonly [number, number] | null {
  const eligible = eligibleOf(told);
  return lost === null || eligible === null ? null : [(eligible * lost) / 10_000, eligible];
}

/** What makes the unit of a figure that is worked out. */
export const timesOf = (name: WorkedFigure): number => RATIOS[name].times;

export type WorkedFigure = keyof typeof RATIOS;
export type ResultFigure = CountedFigure | WorkedFigure;
const ratios = Object.keys(RATIOS) as WorkedFigure[];
export const resultFigures: readonly ResultFigure[] = [...countedFigures, ...ratios];

/** What is worked out of one row, in the units of `FigureSums.figure`; null where it does not tell both, or nothing is below. */
export function workedOut(name: WorkedFigure, told: ToldFigures): number | null {
  const { of, times }: Ratio = RATIOS[name];
  const found = of(told);
  return found && found[1] > 0 ? (found[0] / found[1]) * times : null;
}

/**
 * The figures of many rows of one grain. A ratio is worked out of those rows alone that tell what stands above its line and
 * below it, so that a report without conversions does not thin out the rate of another that has them.
 */
export class FigureSums {
  private readonly counted = new Float64Array(countedFigures.length);
  private readonly told = new Uint8Array(countedFigures.length);
  private readonly above = new Float64Array(ratios.length);
  private readonly below = new Float64Array(ratios.length);

  add(row: ToldFigures): this {
    for (const [at, name] of countedFigures.entries()) {
      const value = row[name];
      if (value === null) continue;
      this.counted[at] = (this.counted[at] ?? 0) + value;
      this.told[at] = 1;
    }
    for (const [at, name] of ratios.entries()) {
      const found = (RATIOS[name] as Ratio).of(row);
      if (!found) continue;
      this.above[at] = (this.above[at] ?? 0) + found[0];
      this.below[at] = (this.below[at] ?? 0) + found[1];
    }
    return this;
  }

  addAll(other: FigureSums): this {
    for (let at = 0; at < countedFigures.length; at++) {
      this.counted[at] = (this.counted[at] ?? 0) + (other.counted[at] ?? 0);
      this.told[at] = (this.told[at] ?? 0) | (other.told[at] ?? 0);
    }
    for (let at = 0; at < ratios.length; at++) {
      this.above[at] = (this.above[at] ?? 0) + (other.above[at] ?? 0);
      this.below[at] = (this.below[at] ?? 0) + (other.below[at] ?? 0);
    }
    return this;
  }

  /**
   * Counts as they are told; CTR, rate, return and shares as parts of one; CPC, CPM and cost per conversion in millionths;
   * the position as 1 for the top. null where no row tells it, or nothing stands below the line.
   */
  figure(name: ResultFigure): number | null {
    const counted = countedFigures.indexOf(name as CountedFigure);
    if (counted >= 0) return this.told[counted] ? (this.counted[counted] ?? 0) : null;
    const at = ratios.indexOf(name as WorkedFigure);
    const below = this.below[at] ?? 0;
    return below > 0 ? ((this.above[at] ?? 0) / below) * RATIOS[name as WorkedFigure].times : null;
  }
}
