import type { OutletCheck } from '@sprig/contracts';
import { kindsIn, type SheetProfile } from '@sprig/core/outlets';

/** Rows that an outlet would get of the whole plan. */
export const rowsIn = (check: OutletCheck | null): number =>
  Object.values(check?.rows ?? {}).reduce((sum, rows) => sum + rows, 0);

/** Rows in which the plan differs from what the outlet has. */
export const differing = (check: OutletCheck | null): number =>
  check ? check.difference.added + check.difference.changed + check.difference.removed : 0;

/** Rows by which these sheets would tell what differs. */
export const toldBy = (sheets: readonly Pick<SheetProfile, 'kind'>[], check: OutletCheck | null): number =>
  [...kindsIn(sheets)].reduce((sum, kind) => sum + (check?.difference.told[kind] ?? 0), 0);
