/**
 * A value set by hand, kept on top of the rule's. `rowKey` is a derived row's stable key; `outlet` is null for
 * all outlets.
 */
export type Hold = { rowKey: string; field: string; outlet: string | null; value: string | number };

/** The rule's values that holds cover, by field: what *let go* would give back. */
export type Covered = Record<string, string | number | null>;

/** Finds the hold on a field, if any. */
export type Holds = { get(rowKey: string, field: string): Hold | undefined; rows: ReadonlySet<string> };

/** Indexes the holds that speak for all outlets. */
export function indexHolds(holds: readonly Hold[]): Holds {
  const byPlace = new Map<string, Hold>();
  const rows = new Set<string>();
  for (const hold of holds) {
    if (hold.outlet !== null) continue;
    byPlace.set(`${hold.rowKey}\n${hold.field}`, hold);
    rows.add(hold.rowKey);
  }
  return { get: (rowKey, field) => byPlace.get(`${rowKey}\n${field}`), rows };
}
