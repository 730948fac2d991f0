/** Rules of plans that a workspace keeps, for new plans to begin with. */
export const up = `
create table outsets (
  id integer generated always as identity primary key,
  workspace_id integer not null references workspaces,
  name text not null,
  made_of text not null,
  parts text[] not null,
  body jsonb not null,
  is_default boolean not null default false,
  kept_at timestamptz not null default now(),
  removed_at timestamptz
);
create unique index on outsets (workspace_id, lower(name)) where removed_at is null;
create unique index on outsets (workspace_id) where is_default and removed_at is null;
`;
