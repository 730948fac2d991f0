import { fenceKinds } from '@sprig/core/build';
import { z } from 'zod';
import { count } from '../../common.ts';

/** How many keywords were tried as a search, and how many of them stay in their own ad group. */
export const auditFigures = z.object({ tried: count, kept: count });

export const fenceFigures = z.object({
  kind: z.enum(fenceKinds),
  exact: count,
  phrase: count,
  /** Not made, since their group may not hold more negatives. */
  left: count,
  groups: count,
  audit: auditFigures,
});
export type FenceFigures = z.infer<typeof fenceFigures>;

/** What the last rebuild that changed something did. */
export const buildSummary = z.object({
  newGroups: count,
  goneGroups: count,
  bids: count,
  held: count,
});
export type BuildSummary = z.infer<typeof buildSummary>;
