import { isDeepStrictEqual } from 'node:util';
import { select } from '../../db/connect.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { collectionsIn, type Diff, unfolded, unpackDiff } from './diff.ts';

/** As many of the newest changes are looked through, as long as each is no larger. */
const MOST_CHANGES = 40;
const MOST_BYTES = 200_000;

type Logged = { actor: number; name: string; diff: Buffer };

/**
 * A conflict with the name of whoever has put there what stands there now, where the newest changes tell it; any other failure as
 * it is.
 */
export async function withName(caller: PlanCaller, failure: unknown): Promise<unknown> {
  if (!(failure instanceof SprigFailure) || failure.code !== 'conflict') return failure;
  const { at, current } = failure.details;
  if (at === undefined || !('current' in failure.details)) return failure;
  const changes = await select<Logged>(
    caller.database,
    `select c.actor_id as actor, a.name, c.diff from changes c join actors a on a.id = c.actor_id
     where c.plan_id = $1 and octet_length(c.diff) < ${MOST_BYTES} order by c.revision desc limit ${MOST_CHANGES}`,
    [caller.plan],
  );
  const found = changes.find(({ diff }) => hasPut(unpackDiff(diff), at, current));
  if (!found) return failure;
  const words =
    found.actor === caller.actor
      ? 'You have changed this meanwhile, in another window.'
      : `${found.name} has changed this meanwhile.`;
  return new SprigFailure('conflict', words, failure.details);
}

/** Whether a change has put a value where an edit goes: a field of a row, a place in its document, or a value that is held. */
function hasPut(diff: Diff, at: string, value: unknown): boolean {
  return collectionsIn(diff).some(([, part]) => {
    // Of rows that are alike one tells what is put there.
    const { inserted, changed } = unfolded(part, 1);
    return (
      changed.some(({ before, after }) => puts(after, at, value) && !puts(before, at, value)) ||
      inserted.some((row) => row.field === at && isDeepStrictEqual(row.value, value))
    );
  });
}

const puts = (row: object, at: string, value: unknown): boolean =>
  [row, (row as { body?: unknown }).body].some((holder) => {
    const found = reached(holder, at);
    return found !== undefined && isDeepStrictEqual(found, value);
  });

const reached = (holder: unknown, at: string): unknown =>
  at
    .split('.')
    .reduce<unknown>(
      (inner, step) =>
        typeof inner === 'object' && inner !== null ? (inner as Record<string, unknown>)[step] : undefined,
      holder,
    );
