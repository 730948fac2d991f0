/** Sheets may be of a part of the plan. */
export const up = `
alter table sheet_sets add column part jsonb;
`;
