/**
 * Whether an upload is sound UTF-8 is told as it comes in. Those that came before don't say: they live a day at most, and
 * whoever still wants one is asked to bring it in again.
 */
export const up = `
delete from uploads;
alter table uploads add column utf8 boolean not null default false;
`;
