/** Rows of features that are there or not: those of a row from `starts[row]` to `starts[row + 1]`. */
export type Rows = { starts: Uint32Array; features: Uint32Array };

/** Penalties by the kind of a feature. */
export type Penalties = readonly number[];

/** What is learned from, whichever rows are chosen. */
export type RidgeData = { rows: Rows; kinds: Uint8Array; y: Float64Array; weights: Float64Array };

/**
 * Weighted ridge regression on features that are there or not, with a mean that is not penalised: the normal equations
 * solved by conjugate gradients with the diagonal as preconditioner. A step costs what the chosen rows hold; a new
 * `solve` begins where the last one ended. The same input gives the same output.
 */
export class Ridge {
  readonly beta: Float64Array;
  mean = 0;
  private readonly weightOf: Float64Array;
  private total = 0;

  constructor(
    private readonly data: RidgeData,
    /** The rows that are learned from. */
    private readonly chosen: Uint32Array,
  ) {
    const { rows, kinds, y, weights } = data;
    this.beta = new Float64Array(kinds.length);
    this.weightOf = new Float64Array(kinds.length);
    let sum = 0;
    for (const row of chosen) {
      const weight = weights[row] as number;
      this.total += weight;
      sum += weight * (y[row] as number);
      for (let at = rows.starts[row] as number; at < (rows.starts[row + 1] as number); at++) {
        const feature = rows.features[at] as number;
        this.weightOf[feature] = (this.weightOf[feature] as number) + weight;
      }
    }
    this.mean = this.total > 0 ? sum / this.total : 0;
  }

  /** Begins where others of the same features have come to: at their mean. */
  beginWith(others: readonly Ridge[]): void {
    if (others.length === 0) return;
    this.mean = others.reduce((sum, { mean }) => sum + mean, 0) / others.length;
    for (const { beta } of others)
      for (let at = 0; at < beta.length; at++)
        this.beta[at] = (this.beta[at] as number) + (beta[at] as number) / others.length;
  }

  /** At most so many steps, fewer where what is left is less than `tolerance` of what there was to explain. */
  solve(penalties: Penalties, steps: number, tolerance = 1e-4): void {
    const { kinds } = this.data;
    const count = this.beta.length;
    const penaltyOf = Float64Array.from(kinds, (kind) => penalties[kind] as number);
    const scale = new Float64Array(count + 1);
    for (let at = 0; at < count; at++)
      scale[at] = 1 / ((this.weightOf[at] as number) + (penaltyOf[at] as number));
    scale[count] = this.total > 0 ? 1 / this.total : 0;
    const left = this.gradient(penaltyOf);
    const direction = new Float64Array(count + 1);
    const image = new Float64Array(count + 1);
    let norm = 0;
    for (let at = 0; at <= count; at++) {
      direction[at] = (scale[at] as number) * (left[at] as number);
      norm += (direction[at] as number) * (left[at] as number);
    }
    const enough = tolerance * tolerance * this.spread();
    for (let step = 0; step < steps && norm > enough; step++) {
      this.times(direction, penaltyOf, image);
      let along = 0;
      for (let at = 0; at <= count; at++) along += (direction[at] as number) * (image[at] as number);
      if (along <= 0) return;
      const length = norm / along;
      for (let at = 0; at < count; at++) {
        this.beta[at] = (this.beta[at] as number) + length * (direction[at] as number);
        left[at] = (left[at] as number) - length * (image[at] as number);
      }
      this.mean += length * (direction[count] as number);
      left[count] = (left[count] as number) - length * (image[count] as number);
      let next = 0;
      for (let at = 0; at <= count; at++) next += (scale[at] as number) * (left[at] as number) ** 2;
      const turn = next / norm;
      norm = next;
      for (let at = 0; at <= count; at++)
        direction[at] = (scale[at] as number) * (left[at] as number) + turn * (direction[at] as number);
    }
  }

  /** Half the downward slope of the loss, the mean's last. */
  private gradient(penaltyOf: Float64Array): Float64Array {
    const { rows, weights } = this.data;
    const { starts, features } = rows;
    const count = this.beta.length;
    const slope = new Float64Array(count + 1);
    for (const row of this.chosen) {
      const error = (weights[row] as number) * this.errorOf(row);
      for (let at = starts[row] as number; at < (starts[row + 1] as number); at++) {
        const feature = features[at] as number;
        slope[feature] = (slope[feature] as number) + error;
      }
      slope[count] = (slope[count] as number) + error;
    }
    for (let at = 0; at < count; at++)
      slope[at] = (slope[at] as number) - (penaltyOf[at] as number) * (this.beta[at] as number);
    return slope;
  }

  private times(direction: Float64Array, penaltyOf: Float64Array, image: Float64Array): void {
    const { rows, weights } = this.data;
    const { starts, features } = rows;
    const { chosen } = this;
    const count = this.beta.length;
    for (let at = 0; at < count; at++) image[at] = (penaltyOf[at] as number) * (direction[at] as number);
    const mean = direction[count] as number;
    let all = 0;
    for (let n = 0; n < chosen.length; n++) {
      const row = chosen[n] as number;
      const from = starts[row] as number;
      const to = starts[row + 1] as number;
      let sum = mean;
      for (let at = from; at < to; at++) sum += direction[features[at] as number] as number;
      sum *= weights[row] as number;
      for (let at = from; at < to; at++) {
        const feature = features[at] as number;
        image[feature] = (image[feature] as number) + sum;
      }
      all += sum;
    }
    image[count] = all;
  }

  /** The weighted squares of what is told about its mean. */
  private spread(): number {
    const { y, weights } = this.data;
    let [sum, squares] = [0, 0];
    for (const row of this.chosen) {
      sum += (weights[row] as number) * (y[row] as number);
      squares += (weights[row] as number) * (y[row] as number) ** 2;
    }
    return this.total > 0 ? squares - (sum * sum) / this.total : 0;
  }

  /** What is told of the row, less what it has by the features. */
  errorOf(row: number): number {
    const { rows, y } = this.data;
    let sum = this.mean;
    const to = rows.starts[row + 1] as number;
    for (let at = rows.starts[row] as number; at < to; at++)
      sum += this.beta[rows.features[at] as number] as number;
    return (y[row] as number) - sum;
  }
}
