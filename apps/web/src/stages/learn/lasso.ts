export type Spot = readonly [x: number, y: number];

/** Whether a spot lies within a line that is closed from its end to its beginning (even–odd rule). O(corners). */
export function isWithin([x, y]: Spot, line: readonly Spot[]): boolean {
  let isIn = false;
  let [px, py] = line.at(-1) ?? [0, 0];
  for (const [qx, qy] of line) {
    if (qy > y !== py > y && x < ((px - qx) * (y - qy)) / (py - qy) + qx) isIn = !isIn;
    [px, py] = [qx, qy];
  }
  return isIn;
}

/** A line with corners no nearer to each other than this: a hand draws hundreds. */
export function thinned(line: readonly Spot[], least: number): Spot[] {
  const kept: Spot[] = [];
  for (const [x, y] of line) {
    const [lx, ly] = kept.at(-1) ?? [Number.POSITIVE_INFINITY, 0];
    if (Math.hypot(x - lx, y - ly) >= least) kept.push([x, y]);
  }
  return kept;
}
