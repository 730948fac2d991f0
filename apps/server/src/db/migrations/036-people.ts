/** Who comes in: people with accounts, their sessions, the links of mails, what guessing is held against, and the audit trail. */
export const up = `
create table people (
  id integer generated always as identity primary key,
  email text not null check (email = lower(email)),
  name text not null,
  -- By argon2id; nobody of the demo has one.
  password text,
  is_demo boolean not null default false,
  -- Of the second factor: enciphered, since when it counts, and the last step of time whose code was used.
  totp_secret bytea,
  totp_since timestamptz,
  totp_step bigint not null default 0,
  -- Hashes of recovery codes that were not used yet.
  recovery_codes text[] not null default '{}',
  made_at timestamptz not null default now()
);
create unique index people_email on people (email);

alter table actors
  add column person_id integer references people,
  add column role text not null default 'owner' check (role in ('owner', 'builder', 'writer', 'reader', 'guest')),
  add column permissions text[] not null default '{ship,approve}',
  add column joined_at timestamptz not null default now(),
  add column removed_at timestamptz;
alter table actors alter column role drop default, alter column permissions set default '{}';
create unique index actors_person on actors (workspace_id, person_id) where removed_at is null;
create index actors_of_person on actors (person_id);

-- Where somebody may do more or less at one plan than in the workspace.
create table plan_roles (
  workspace_id integer not null references workspaces,
  plan_id integer not null references plans on delete cascade,
  actor_id integer not null references actors,
  role text not null check (role in ('builder', 'writer', 'reader', 'none')),
  primary key (plan_id, actor_id)
);
create index plan_roles_actor on plan_roles (actor_id);

-- A session is told by the hash of what the browser keeps: whoever reads this table can't come in with it.
create table sessions (
  key text primary key,
  person_id integer references people on delete cascade,
  workspace_id integer references workspaces,
  body jsonb not null,
  agent text not null,
  address text not null,
  began_at timestamptz not null default now(),
  seen_at timestamptz not null default now(),
  ends_at timestamptz not null
);
create index sessions_person on sessions (person_id);
create index sessions_ends on sessions (ends_at);

-- Links that work once: told by a hash, as sessions are.
create table links (
  id integer generated always as identity primary key,
  key text not null unique,
  kind text not null check (kind in ('owner', 'invitation', 'reset')),
  email text,
  person_id integer references people on delete cascade,
  workspace_id integer references workspaces,
  made_by integer references actors,
  body jsonb not null default '{}',
  made_at timestamptz not null default now(),
  ends_at timestamptz not null,
  used_at timestamptz
);
create index links_workspace on links (workspace_id) where used_at is null;

-- By which programs ask, as an actor of their own.
create table tokens (
  id integer generated always as identity primary key,
  workspace_id integer not null references workspaces,
  actor_id integer not null references actors,
  key text not null unique,
  plan_id integer references plans on delete cascade,
  made_by integer not null references actors,
  made_at timestamptz not null default now(),
  used_at timestamptz,
  ends_at timestamptz not null,
  ended_at timestamptz
);
create index tokens_workspace on tokens (workspace_id);

create table mails (
  id integer generated always as identity primary key,
  recipient text not null,
  subject text not null,
  body text not null,
  sent_at timestamptz not null default now()
);

-- Of the package that counts attempts.
create table attempts (
  key text primary key,
  points integer not null default 0,
  expire bigint
);

create table audit_entries (
  id bigint generated always as identity primary key,
  workspace_id integer references workspaces,
  at timestamptz not null default now(),
  kind text not null,
  person_id integer,
  name text,
  about text not null,
  address text not null
);
create index audit_entries_workspace on audit_entries (workspace_id, id);
`;
