/** The foundation: plans, their inputs, what is derived of them, changes and jobs. Tables are keyed by plan first. */
export const up = `
create table workspaces (
  id integer generated always as identity primary key,
  name text not null
);
create table actors (
  id integer generated always as identity primary key,
  workspace_id integer not null references workspaces,
  name text not null,
  preferences jsonb not null default '{}'
);
create table plans (
  id integer generated always as identity primary key,
  workspace_id integer not null references workspaces,
  created_by integer not null references actors,
  created_at timestamptz not null default now(),
  changed_at timestamptz not null default now(),
  revision integer not null default 0,
  built_revision integer not null default 0 check (built_revision <= revision),
  next_id integer not null default 1
);
create index plans_workspace on plans (workspace_id);

-- Inputs: what people decide. Every write is logged in changes.
create table briefs (
  plan_id integer not null references plans on delete cascade,
  id integer not null check (id = 1),
  workspace_id integer not null,
  name text not null check (name <> ''),
  currency text not null,
  language text not null,
  site text not null,
  archived boolean not null,
  primary key (plan_id, id)
);
create table layouts (
  plan_id integer not null references plans on delete cascade,
  id integer not null check (id = 1),
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
create table ad_patterns (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
create table sources (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  kind text not null check (kind in ('paste', 'file', 'hand')),
  name text not null,
  made_at timestamptz not null,
  actor_id integer not null references actors,
  lines integer not null,
  repeated integer not null,
  job_id uuid,
  primary key (plan_id, id)
);
create unique index sources_job on sources (job_id) where job_id is not null;
create table keywords (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  text text not null,
  norm text not null check (norm <> ''),
  asked integer not null check (asked between 0 and 15),
  marks smallint[] not null,
  cut boolean not null,
  searches integer check (searches >= 0),
  searches_about boolean not null,
  cpc bigint check (cpc >= 0),
  cpc_about boolean not null,
  figures_from integer,
  changed_revision integer not null,
  primary key (plan_id, id),
  unique (plan_id, norm)
);
create index keywords_changed on keywords (plan_id, changed_revision);
create table mentions (
  plan_id integer not null,
  source_id integer not null,
  keyword_id integer not null,
  workspace_id integer not null,
  line integer not null,
  asked integer not null,
  marks smallint[] not null,
  searches integer,
  searches_about boolean not null,
  cpc bigint,
  cpc_about boolean not null,
  extra jsonb,
  primary key (plan_id, keyword_id, source_id),
  foreign key (plan_id, source_id) references sources (plan_id, id),
  foreign key (plan_id, keyword_id) references keywords (plan_id, id)
);
create index mentions_source on mentions (plan_id, source_id);
create table line_problems (
  plan_id integer not null,
  id integer not null,
  workspace_id integer not null,
  source_id integer not null,
  line integer not null,
  raw text not null,
  code text not null,
  at integer not null,
  character text,
  kept boolean not null,
  primary key (plan_id, id),
  foreign key (plan_id, source_id) references sources (plan_id, id)
);
create index line_problems_source on line_problems (plan_id, source_id);
create table negatives (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  text text not null,
  norm text not null check (norm <> ''),
  match_type text not null check (match_type in ('broad', 'phrase', 'exact')),
  source_id integer,
  primary key (plan_id, id),
  unique (plan_id, norm, match_type)
);
create table holds (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  row_key text not null,
  field text not null,
  outlet text,
  value jsonb not null,
  rule_value jsonb,
  primary key (plan_id, id)
);
create unique index holds_place on holds (plan_id, row_key, field, coalesce(outlet, ''));

-- What happened.
create table changes (
  plan_id integer not null references plans on delete cascade,
  revision integer not null,
  workspace_id integer not null,
  actor_id integer not null references actors,
  at timestamptz not null default now(),
  label text not null,
  kind text not null check (kind in ('edit', 'undo', 'redo')),
  undoable boolean not null,
  undone boolean not null default false,
  diff bytea not null,
  primary key (plan_id, revision)
);
create table removed_keywords (
  plan_id integer not null references plans on delete cascade,
  revision integer not null,
  keyword_id integer not null,
  workspace_id integer not null
);
create index removed_keywords_revision on removed_keywords (plan_id, revision);

-- Derived: made by the rebuild alone, from the inputs; hash tells whether a row has changed.
create table ad_groups (
  plan_id integer not null,
  key text not null,
  workspace_id integer not null,
  position integer not null,
  keyword_id integer not null,
  keyword text not null,
  name text not null,
  searches integer,
  base bigint not null,
  base_from text not null,
  covered jsonb,
  hash bigint not null,
  primary key (plan_id, key)
);
create table keyword_rows (
  plan_id integer not null,
  key text not null,
  workspace_id integer not null,
  group_key text not null,
  position integer not null,
  text text not null,
  type smallint not null,
  marks smallint[] not null,
  base bigint not null,
  steps integer[] not null,
  held_bid bigint,
  hash bigint not null,
  primary key (plan_id, key)
);
create index keyword_rows_group on keyword_rows (plan_id, group_key);
create table outlet_groups (
  plan_id integer not null,
  key text not null,
  workspace_id integer not null,
  outlet text not null,
  position integer not null,
  campaign text not null,
  part integer not null,
  name text not null,
  bid bigint not null,
  hash bigint not null,
  primary key (plan_id, outlet, key)
);
create table ads (
  plan_id integer not null,
  key text not null,
  workspace_id integer not null,
  outlet text not null,
  group_key text not null,
  position integer not null,
  texts text[] not null,
  final_url text not null,
  misfit boolean not null,
  hash bigint not null,
  primary key (plan_id, outlet, key)
);
create index ads_misfit on ads (plan_id, outlet) where misfit;
create table findings (
  plan_id integer not null references plans on delete cascade,
  workspace_id integer not null,
  outlet text not null,
  n integer not null,
  severity text not null,
  body jsonb not null,
  primary key (plan_id, outlet, n)
);

-- Work that takes time, and the files it reads and makes.
create table jobs (
  id uuid primary key default gen_random_uuid(),
  workspace_id integer not null references workspaces,
  plan_id integer not null references plans on delete cascade,
  actor_id integer not null references actors,
  kind text not null,
  input jsonb not null,
  status text not null default 'queued' check (status in ('queued', 'running', 'done', 'failed', 'stopped')),
  phase text not null default '',
  done bigint not null default 0,
  total bigint not null default 0,
  result jsonb,
  failure jsonb,
  runs integer not null default 0,
  runner integer,
  worker text,
  created_at timestamptz not null default now(),
  ended_at timestamptz
);
create index jobs_open on jobs (plan_id) where status in ('queued', 'running');
create table uploads (
  id uuid primary key default gen_random_uuid(),
  workspace_id integer not null references workspaces,
  plan_id integer not null references plans on delete cascade,
  bytes bigint not null default 0,
  whole boolean not null default false,
  created_at timestamptz not null default now()
);
create table upload_parts (
  upload_id uuid not null references uploads on delete cascade,
  n integer not null,
  data bytea not null,
  primary key (upload_id, n)
);
create table sheet_sets (
  id uuid primary key,
  workspace_id integer not null references workspaces,
  plan_id integer not null references plans on delete cascade,
  actor_id integer not null references actors,
  outlet text not null,
  revision integer not null,
  created_at timestamptz not null default now()
);
create index sheet_sets_plan on sheet_sets (plan_id, created_at);
create table sheet_parts (
  set_id uuid not null references sheet_sets on delete cascade,
  file text not null,
  n integer not null,
  data bytea not null,
  primary key (set_id, file, n)
);

with made as (insert into workspaces (name) values ('Workspace') returning id)
insert into actors (workspace_id, name) select id, 'You' from made;
`;
