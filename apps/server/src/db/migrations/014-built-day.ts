/** The day, in its own time zone, for which a plan was built: offers end, and bids that start high come down. */
export const up = `
alter table plans add column built_day date;
`;
