/** Of which campaign a row of sheets that wait is; those that wait already are told as of the whole account. */
export const up = `
alter table read_back_rows add column campaign text not null default '';
`;
