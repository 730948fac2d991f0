/** Notes, what is given to whom, which ads were accepted, and links by which a client reads one plan. */
export const up = `
create table notes (
  id integer generated always as identity primary key,
  workspace_id integer not null references workspaces,
  plan_id integer not null references plans on delete cascade,
  about_kind text not null,
  about_key text not null,
  -- As it was called when the note was written.
  about_name text not null,
  text text not null,
  by_actor integer not null references actors,
  at timestamptz not null default now(),
  edited_at timestamptz,
  mentions integer[] not null default '{}',
  for_actor integer references actors,
  due date,
  done_at timestamptz,
  done_by integer references actors
);
create index notes_plan on notes (plan_id, id) where done_at is null;
create index notes_all on notes (plan_id, id);
create index notes_for on notes (for_actor) where done_at is null;

-- The ads of an ad group, as somebody handed them over or judged them: by a hash of what they said then.
create table hand_overs (
  workspace_id integer not null references workspaces,
  plan_id integer not null references plans on delete cascade,
  group_key text not null,
  state text not null check (state in ('handed', 'accepted', 'back')),
  stamp text not null,
  reason text not null default '',
  by_actor integer not null references actors,
  at timestamptz not null default now(),
  primary key (plan_id, group_key)
);

alter table workspaces add column asks_acceptance boolean not null default false;

-- Told by a hash, as other links are.
create table client_links (
  id integer generated always as identity primary key,
  workspace_id integer not null references workspaces,
  plan_id integer not null references plans on delete cascade,
  key text not null unique,
  name text not null,
  body jsonb not null,
  made_by integer not null references actors,
  made_at timestamptz not null default now(),
  ends_at timestamptz not null,
  ended_at timestamptz,
  read_at timestamptz,
  times_read integer not null default 0
);
create index client_links_plan on client_links (plan_id);
`;
