/** What was seen at a position: 1 is the top. */
export type CtrPoint = { position: number; impressions: number; clicks: number };

/** CTR by position: `top` at the first, times `fall` with each position below it. */
export type CtrCurve = { top: number; fall: number };

const ROUNDS = 30;
const CLOSE = 1e-9;

/**
 * The curve that clicks follow: Poisson regression of clicks, with impressions as exposure and a log link (ln CTR = a + b ·
 * (position − 1)), by Newton's method. null where it can't be told: fewer than three points with impressions, all at one
 * position, or no click. O(points).
 *
 * Source: P. McCullagh and J. A. Nelder, Generalized Linear Models, 2nd ed., 1989, section 6.2.
 */
export function ctrCurve(points: readonly CtrPoint[]): CtrCurve | null {
  const seen = points.filter(({ impressions }) => impressions > 0);
  const clicks = seen.reduce((sum, one) => sum + one.clicks, 0);
  const impressions = seen.reduce((sum, one) => sum + one.impressions, 0);
  const [first] = seen;
  if (seen.length < 3 || clicks <= 0 || seen.every(({ position }) => position === first?.position))
    return null;
  let a = Math.log(clicks / impressions);
  let b = 0;
  for (let round = 0; round < ROUNDS; round++) {
    let [ga, gb, haa, hab, hbb] = [0, 0, 0, 0, 0];
    for (const one of seen) {
      const x = one.position - 1;
      const expected = one.impressions * Math.exp(a + b * x);
      ga += one.clicks - expected;
      gb += (one.clicks - expected) * x;
      haa += expected;
      hab += expected * x;
      hbb += expected * x * x;
    }
    const det = haa * hbb - hab * hab;
    if (!(det > 0)) return null;
    const da = (hbb * ga - hab * gb) / det;
    const db = (haa * gb - hab * ga) / det;
    // A long step may overshoot: it is shortened.
    const shorter = Math.min(1, 2 / Math.max(Math.abs(da), Math.abs(db), 1e-12));
    a += da * shorter;
    b += db * shorter;
    if (Math.abs(da) + Math.abs(db) < CLOSE) break;
  }
  return Number.isFinite(a) && Number.isFinite(b) ? { top: Math.exp(a), fall: Math.exp(b) } : null;
}

export const ctrAt = ({ top, fall }: CtrCurve, position: number): number => top * fall ** (position - 1);
