export const columnRoles = [
  'keyword',
  'searches',
  'cpc',
  'competition',
  'match-type',
  'extra',
  'skip',
] as const;
/** What a column of a pasted sheet holds. `extra` columns are kept as they are, under their heading. */
export type ColumnRole = (typeof columnRoles)[number];
