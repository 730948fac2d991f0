/** Campaign settings that belong to the workspace. */
export const up = `
create table shared_settings (
  workspace_id integer not null references workspaces,
  id integer not null,
  body jsonb not null,
  primary key (workspace_id, id)
);
create unique index shared_settings_name on shared_settings (workspace_id, lower(body->>'name'));
`;
