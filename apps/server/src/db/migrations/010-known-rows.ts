/** Ship: what an outlet has, as numbers to compare with, kept from one look through the plan to the next. */
export const up = `
create table known_sets (
  set_id uuid primary key references sheet_sets on delete cascade,
  -- The order of the cells that the numbers were made of.
  told text not null,
  campaigns jsonb not null,
  -- The number of the first row in each part of outlet_states.
  starts integer[] not null
);
create table known_rows (
  set_id uuid not null references known_sets on delete cascade,
  n integer not null,
  data bytea not null,
  primary key (set_id, n)
);
alter table known_rows alter column data set storage external;
`;
