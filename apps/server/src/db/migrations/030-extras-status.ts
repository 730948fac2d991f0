/** An extra may be paused wherever it is shown; nothing: it runs. */
export const up = `
alter table extras add column status text check (status in ('enabled', 'paused'));
`;
