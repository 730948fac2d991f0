/** Rows of features that are there or not: those of a row from `starts[row]` to `starts[row + 1]`. */
export type Rows = { starts: Uint32Array; features: Uint32Array };

/** Penalties by the kind of a feature. */
export type Penalties = readonly number[];

const ABSENT = -1;

/**
 * Rows that are learned from, with the features that any of them has, numbered as they are met: the effect of all others
 * is none. Made once for all that is learned of them. O(what the rows hold).
 */
export class ChosenRows {
  /** By feature its number here; `ABSENT` for those that no row has. */
  readonly numberOf: Int32Array;
  readonly count: number;
  readonly own: Rows;
  /** Of each feature that is here. */
  readonly kinds: Uint8Array;

  constructor(
    readonly all: Rows,
    kinds: Uint8Array,
    readonly rows: Uint32Array,
  ) {
    this.numberOf = new Int32Array(kinds.length).fill(ABSENT);
    const { starts: from, features: of } = all;
    const starts = new Uint32Array(rows.length + 1);
    let end = 0;
    for (let at = 0; at < rows.length; at++) {
      const row = rows[at] as number;
      end += (from[row + 1] as number) - (from[row] as number);
      starts[at + 1] = end;
    }
    const features = new Uint32Array(end);
    const met = new Uint32Array(Math.min(end, kinds.length));
    let count = 0;
    end = 0;
    for (let at = 0; at < rows.length; at++) {
      const row = rows[at] as number;
      const to = from[row + 1] as number;
      for (let place = from[row] as number; place < to; place++) {
        const feature = of[place] as number;
        let number = this.numberOf[feature] as number;
        if (number === ABSENT) {
          number = count++;
          this.numberOf[feature] = number;
          met[number] = feature;
        }
        features[end++] = number;
      }
    }
    this.own = { starts, features };
    this.count = count;
    this.kinds = Uint8Array.from(met.subarray(0, count), (feature) => kinds[feature] as number);
  }
}

/** What is told of each row, and how much it weighs. */
export type Told = { y: Float64Array; weights: Float64Array };

/**
 * Weighted ridge regression on features that are there or not, with a mean that is not penalised: the normal equations
 * solved by conjugate gradients with the diagonal as preconditioner. A step costs what the chosen rows hold; a new
 * `solve` begins where the last one ended. The same input gives the same output.
 */
export class Ridge {
  mean = 0;
  private readonly y: Float64Array;
  private readonly weights: Float64Array;
  private readonly beta: Float64Array;
  private readonly weightOf: Float64Array;
  private readonly total: number;

  constructor(
    private readonly chosen: ChosenRows,
    private readonly told: Told,
  ) {
    const { starts, features } = chosen.own;
    this.y = Float64Array.from(chosen.rows, (row) => told.y[row] as number);
    this.weights = Float64Array.from(chosen.rows, (row) => told.weights[row] as number);
    this.beta = new Float64Array(chosen.count);
    this.weightOf = new Float64Array(chosen.count);
    let [sum, total] = [0, 0];
    for (let at = 0; at < this.y.length; at++) {
      const weight = this.weights[at] as number;
      total += weight;
      sum += weight * (this.y[at] as number);
      const to = starts[at + 1] as number;
      for (let place = starts[at] as number; place < to; place++) {
        const feature = features[place] as number;
        this.weightOf[feature] = (this.weightOf[feature] as number) + weight;
      }
    }
    this.total = total;
    this.mean = total > 0 ? sum / total : 0;
  }

  /** The effect of a feature; none of one that no chosen row has. */
  effectOf(feature: number): number {
    const number = this.chosen.numberOf[feature] as number;
    return number === ABSENT ? 0 : (this.beta[number] as number);
  }

  /** Begins where others of the same features have come to: at their mean. */
  beginWith(others: readonly Ridge[]): void {
    if (others.length === 0) return;
    this.mean = others.reduce((sum, { mean }) => sum + mean, 0) / others.length;
    this.chosen.numberOf.forEach((number, feature) => {
      if (number === ABSENT) return;
      let sum = 0;
      for (const other of others) sum += other.effectOf(feature);
      this.beta[number] = sum / others.length;
    });
  }

  /** At most so many steps, fewer where what is left is less than `tolerance` of what there was to explain. */
  solve(penalties: Penalties, steps: number, tolerance = 1e-4): void {
    const { count, kinds } = this.chosen;
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
    const { weights, y, beta } = this;
    const { count, own } = this.chosen;
    const { starts, features } = own;
    const slope = new Float64Array(count + 1);
    for (let row = 0; row < y.length; row++) {
      const from = starts[row] as number;
      const to = starts[row + 1] as number;
      let sum = this.mean;
      for (let at = from; at < to; at++) sum += beta[features[at] as number] as number;
      const error = (weights[row] as number) * ((y[row] as number) - sum);
      for (let at = from; at < to; at++) {
        const feature = features[at] as number;
        slope[feature] = (slope[feature] as number) + error;
      }
      slope[count] = (slope[count] as number) + error;
    }
    for (let at = 0; at < count; at++)
      slope[at] = (slope[at] as number) - (penaltyOf[at] as number) * (beta[at] as number);
    return slope;
  }

  private times(direction: Float64Array, penaltyOf: Float64Array, image: Float64Array): void {
    const { weights } = this;
    const { count, own } = this.chosen;
    const { starts, features } = own;
    for (let at = 0; at < count; at++) image[at] = (penaltyOf[at] as number) * (direction[at] as number);
    const mean = direction[count] as number;
    let all = 0;
    for (let row = 0; row < weights.length; row++) {
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
    const { y, weights } = this;
    let [sum, squares] = [0, 0];
    for (let row = 0; row < y.length; row++) {
      sum += (weights[row] as number) * (y[row] as number);
      squares += (weights[row] as number) * (y[row] as number) ** 2;
    }
    return this.total > 0 ? squares - (sum * sum) / this.total : 0;
  }

  /** What is told of any row, chosen or not, less what it has by the features. */
  errorOf(row: number): number {
    const { starts, features } = this.chosen.all;
    let sum = this.mean;
    const to = starts[row + 1] as number;
    for (let at = starts[row] as number; at < to; at++) sum += this.effectOf(features[at] as number);
    return (this.told.y[row] as number) - sum;
  }
}
