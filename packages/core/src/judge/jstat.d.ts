declare module 'jstat' {
  type Tail = { cdf: (x: number, ...of: number[]) => number };
  const jstat: {
    normal: Tail & { inv: (p: number, mean: number, deviation: number) => number };
    /** Regularised: how often `a` or more happen where `x` are expected. */
    lowRegGamma: (a: number, x: number) => number;
    beta: Tail & { inv: (p: number, alpha: number, beta: number) => number };
    gammaln: (x: number) => number;
  };
  export default jstat;
}
