/** Learn: reports of results, row by row in packed parts, what their rows are of, looks, and days of simulated accounts. */
export const up = `
create table report_imports (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  name text not null,
  made_at timestamptz not null,
  actor_id integer not null references actors,
  outlet text,
  body jsonb not null,
  primary key (plan_id, id)
);
create table report_readings (
  plan_id integer not null references plans on delete cascade,
  id uuid not null,
  workspace_id integer not null,
  made_at timestamptz not null default now(),
  series uuid not null,
  outlet text,
  taken boolean not null,
  body jsonb not null,
  primary key (plan_id, id)
);
create table report_parts (
  plan_id integer not null references plans on delete cascade,
  reading uuid not null,
  n integer not null,
  workspace_id integer not null,
  data bytea not null,
  primary key (plan_id, reading, n)
);
create table report_places (
  plan_id integer not null references plans on delete cascade,
  series uuid not null,
  n integer not null,
  workspace_id integer not null,
  data bytea not null,
  primary key (plan_id, series, n)
);
create table looks (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
create table stand_in_days (
  plan_id integer not null references plans on delete cascade,
  outlet text not null,
  day date not null,
  workspace_id integer not null,
  run date not null,
  data bytea not null,
  primary key (plan_id, outlet, day)
);
-- Packed already.
alter table report_parts alter column data set storage external;
alter table stand_in_days alter column data set storage external;
alter table report_places alter column data set storage external;
`;
