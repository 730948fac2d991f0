/**
 * A value set by hand, kept on top of the rule's. `rowKey` is a derived row's stable key; `outlet` is null for
 * all outlets.
 */
export type Hold = { rowKey: string; field: string; outlet: string | null; value: string | number };

/** The rule's values that holds cover, by field: what *let go* would give back. */
export type Covered = Record<string, string | number | null>;

/** Finds the hold on a field, if any. */
export type Holds = {
  get(rowKey: string, field: string): Hold | undefined;
  /** All that is held of a row, by field. */
  of(rowKey: string): ReadonlyMap<string, Hold> | undefined;
  size: number;
};

/** Indexes the holds that speak for all outlets. */
export function indexHolds(holds: readonly Hold[]): Holds {
  const rows = new Map<string, Map<string, Hold>>();
  for (const hold of holds) {
    if (hold.outlet !== null) continue;
    const fields = rows.get(hold.rowKey);
    if (fields) fields.set(hold.field, hold);
    else rows.set(hold.rowKey, new Map([[hold.field, hold]]));
  }
  return {
    get: (rowKey, field) => rows.get(rowKey)?.get(field),
    of: (rowKey) => rows.get(rowKey),
    size: rows.size,
  };
}

export const statuses = ['enabled', 'paused'] as const;
export type Status = (typeof statuses)[number];

/** Labels as they are held: one text, a comma between two. */
export const labelsOf = (held: string): string[] => [
  ...new Set(
    held
      .split(',')
      .map((label) => label.trim())
      .filter((label) => label !== ''),
  ),
];

/** What is held of a field, as text. */
export const heldText = (holds: Holds, key: string, field: string): string | undefined => {
  const hold = holds.get(key, field);
  return hold === undefined ? undefined : String(hold.value);
};

/** The status that is held of a row, else the rule's. */
export function statusOf(held: ReadonlyMap<string, Hold> | undefined, rule: Status = 'enabled'): Status {
  const value = held?.get('status')?.value;
  return value === undefined ? rule : value === 'paused' ? 'paused' : 'enabled';
}
