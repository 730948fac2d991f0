/** Every row that an outlet would get, as it was looked at last: packed, so many to a part, with how each stands. */
export const up = `
create table row_looks (
  plan_id integer not null references plans on delete cascade,
  outlet text not null,
  workspace_id integer not null,
  made_of bigint not null,
  body jsonb not null,
  primary key (plan_id, outlet)
);
create table row_look_parts (
  plan_id integer not null references plans on delete cascade,
  outlet text not null,
  kind text not null,
  n integer not null,
  workspace_id integer not null,
  data bytea not null,
  primary key (plan_id, outlet, kind, n)
);
`;
