import type { OutletCheck } from '@sprig/contracts';

/** Rows that an outlet would get of the whole plan. */
export const rowsIn = (check: OutletCheck | null): number =>
  Object.values(check?.rows ?? {}).reduce((sum, rows) => sum + rows, 0);

/** Rows in which the plan differs from what the outlet has. */
export const differing = (check: OutletCheck | null): number =>
  check ? check.difference.added + check.difference.changed + check.difference.removed : 0;
