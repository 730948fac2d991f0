import { float64At, int32At, numberAt, uint8At, uint32At } from '../access/index.ts';
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
      const row = uint32At(rows, at);
      end += uint32At(from, row + 1) - uint32At(from, row);
      starts[at + 1] = end;
    }
    const features = new Uint32Array(end);
    const met = new Uint32Array(Math.min(end, kinds.length));
    let count = 0;
    end = 0;
    for (let at = 0; at < rows.length; at++) {
      const row = uint32At(rows, at);
      const to = uint32At(from, row + 1);
      for (let place = uint32At(from, row); place < to; place++) {
        const feature = uint32At(of, place);
        let number = int32At(this.numberOf, feature);
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
    this.kinds = Uint8Array.from(met.subarray(0, count), (feature) => uint8At(kinds, feature));
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
    this.y = Float64Array.from(chosen.rows, (row) => float64At(told.y, row));
    this.weights = Float64Array.from(chosen.rows, (row) => float64At(told.weights, row));
    this.beta = new Float64Array(chosen.count);
    this.weightOf = new Float64Array(chosen.count);
    let [sum, total] = [0, 0];
    for (let at = 0; at < this.y.length; at++) {
      const weight = float64At(this.weights, at);
      total += weight;
      sum += weight * float64At(this.y, at);
      const to = uint32At(starts, at + 1);
      for (let place = uint32At(starts, at); place < to; place++) {
        const feature = uint32At(features, place);
        this.weightOf[feature] = float64At(this.weightOf, feature) + weight;
      }
    }
    this.total = total;
    this.mean = total > 0 ? sum / total : 0;
  }

  /** The effect of a feature; none of one that no chosen row has. */
  effectOf(feature: number): number {
    const number = int32At(this.chosen.numberOf, feature);
    return number === ABSENT ? 0 : float64At(this.beta, number);
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
    const penaltyOf = Float64Array.from(kinds, (kind) => numberAt(penalties, kind));
    const scale = new Float64Array(count + 1);
    for (let at = 0; at < count; at++)
      scale[at] = 1 / (float64At(this.weightOf, at) + float64At(penaltyOf, at));
    scale[count] = this.total > 0 ? 1 / this.total : 0;
    const left = this.gradient(penaltyOf);
    const direction = new Float64Array(count + 1);
    const image = new Float64Array(count + 1);
    let norm = 0;
    for (let at = 0; at <= count; at++) {
      direction[at] = float64At(scale, at) * float64At(left, at);
      norm += float64At(direction, at) * float64At(left, at);
    }
    const enough = tolerance * tolerance * this.spread();
    for (let step = 0; step < steps && norm > enough; step++) {
      this.times(direction, penaltyOf, image);
      let along = 0;
      for (let at = 0; at <= count; at++) along += float64At(direction, at) * float64At(image, at);
      if (along <= 0) return;
      const length = norm / along;
      for (let at = 0; at < count; at++) {
        this.beta[at] = float64At(this.beta, at) + length * float64At(direction, at);
        left[at] = float64At(left, at) - length * float64At(image, at);
      }
      this.mean += length * float64At(direction, count);
      left[count] = float64At(left, count) - length * float64At(image, count);
      let next = 0;
      for (let at = 0; at <= count; at++) next += float64At(scale, at) * float64At(left, at) ** 2;
      const turn = next / norm;
      norm = next;
      for (let at = 0; at <= count; at++)
        direction[at] = float64At(scale, at) * float64At(left, at) + turn * float64At(direction, at);
    }
  }

  /** Half the downward slope of the loss, the mean's last. */
  private gradient(penaltyOf: Float64Array): Float64Array {
    const { weights, y, beta } = this;
    const { count, own } = this.chosen;
    const { starts, features } = own;
    const slope = new Float64Array(count + 1);
    for (let row = 0; row < y.length; row++) {
      const from = uint32At(starts, row);
      const to = uint32At(starts, row + 1);
      let sum = this.mean;
      for (let at = from; at < to; at++) sum += float64At(beta, uint32At(features, at));
      const error = float64At(weights, row) * (float64At(y, row) - sum);
      for (let at = from; at < to; at++) {
        const feature = uint32At(features, at);
        slope[feature] = float64At(slope, feature) + error;
      }
      slope[count] = float64At(slope, count) + error;
    }
    for (let at = 0; at < count; at++)
      slope[at] = float64At(slope, at) - float64At(penaltyOf, at) * float64At(beta, at);
    return slope;
  }

  private times(direction: Float64Array, penaltyOf: Float64Array, image: Float64Array): void {
    const { weights } = this;
    const { count, own } = this.chosen;
    const { starts, features } = own;
    for (let at = 0; at < count; at++) image[at] = float64At(penaltyOf, at) * float64At(direction, at);
    const mean = float64At(direction, count);
    let all = 0;
    for (let row = 0; row < weights.length; row++) {
      const from = uint32At(starts, row);
      const to = uint32At(starts, row + 1);
      let sum = mean;
      for (let at = from; at < to; at++) sum += float64At(direction, uint32At(features, at));
      sum *= float64At(weights, row);
      for (let at = from; at < to; at++) {
        const feature = uint32At(features, at);
        image[feature] = float64At(image, feature) + sum;
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
      sum += float64At(weights, row) * float64At(y, row);
      squares += float64At(weights, row) * float64At(y, row) ** 2;
    }
    return this.total > 0 ? squares - (sum * sum) / this.total : 0;
  }

  /** What is told of any row, chosen or not, less what it has by the features. */
  errorOf(row: number): number {
    const { starts, features } = this.chosen.all;
    let sum = this.mean;
    const to = uint32At(starts, row + 1);
    for (let at = uint32At(starts, row); at < to; at++) sum += this.effectOf(uint32At(features, at));
    return float64At(this.told.y, row) - sum;
  }
}
