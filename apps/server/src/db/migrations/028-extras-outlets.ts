/** Extras may be for some outlets only; none: for all. */
export const up = `
alter table extras add column outlets text[];
`;
