import { rowKinds } from '@sprig/core/outlets';
import { z } from 'zod';
import { count, nothing, text } from '../../common.ts';
import { endpoint } from '../../endpoint.ts';
import { outletParams } from '../outlets.ts';

/** How a row of a plan stands to what an outlet has. */
export const rowChanges = ['added', 'changed', 'removed', 'same'] as const;
export type RowChange = (typeof rowChanges)[number];

const byChange = z.object({ added: count, changed: count, removed: count, same: count });

/** Every row that an outlet would get, as it was looked at last; null where that is of an older plan, or was not done yet. */
export const viewRows = endpoint({
  method: 'GET',
  path: '/api/plans/:plan/outlets/:outlet/rows',
  access: 'read',
  reads: ['plan', 'built', 'receipts', 'jobs'],
  params: outletParams,
  query: nothing,
  body: nothing,
  answer: z.object({
    look: z
      .object({
        stamp: z.number(),
        /** By kind of row: how many there are, and what their cells are, in their order. */
        kinds: z.record(z.enum(rowKinds), z.object({ counts: byChange, values: z.array(z.string()) })),
      })
      .nullable(),
  }),
});
export type RowsLook = NonNullable<z.infer<typeof viewRows.answer>['look']>;

/** Looks at every row. */
export const startRows = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/outlets/:outlet/rows',
  access: 'read',
  changes: ['jobs'],
  params: outletParams,
  query: nothing,
  body: nothing,
  answer: z.object({ job: z.uuid() }),
});

const outletRow = z.object({
  /** Its place among those that are asked for. */
  at: count,
  change: z.enum(rowChanges),
  cells: z.array(z.string()),
  /** What cells said before, by their place, where that was kept: of the first changed rows. */
  before: z.record(z.string(), z.string()),
});
export type OutletRow = z.infer<typeof outletRow>;

export const MOST_ROWS = 500;
/** Rows of a kind from a place on: all, or those that stand so, whose cells have all of the words. */
export const pageOutletRows = endpoint({
  method: 'POST',
  path: '/api/plans/:plan/outlets/:outlet/rows/page',
  access: 'read',
  reads: ['plan', 'built', 'receipts'],
  changes: [],
  params: outletParams,
  query: nothing,
  body: z.object({
    stamp: z.number(),
    kind: z.enum(rowKinds),
    change: z.enum(['all', ...rowChanges]).default('all'),
    words: text(200).default(''),
    from: count.default(0),
    count: z.number().int().min(0).max(MOST_ROWS),
  }),
  answer: z.object({ total: count, rows: z.array(outletRow) }),
});
