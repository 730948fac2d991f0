/** Ship: sheets that are read back, row by row, until they are taken in; and by which names groups were shipped. */
export const up = `
create table read_backs (
  id uuid primary key,
  plan_id integer not null references plans on delete cascade,
  workspace_id integer not null,
  created_at timestamptz not null default now(),
  -- The revision that was compared.
  revision integer not null,
  body jsonb not null,
  -- Once they are taken in: by which job, and what became of it.
  taken_by uuid,
  result jsonb
);
create index on read_backs (plan_id);
create table read_back_rows (
  read_back_id uuid not null references read_backs on delete cascade,
  n integer not null,
  kind text not null,
  change text not null,
  taken boolean not null,
  -- JSON, read again only where it is shown or taken in.
  body text not null,
  primary key (read_back_id, n)
);

create table shipped_names (
  plan_id integer not null references plans on delete cascade,
  outlet text not null,
  campaign text not null,
  name text not null,
  workspace_id integer not null,
  key text not null,
  primary key (plan_id, outlet, campaign, name)
);
`;
