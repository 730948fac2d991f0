/** Mix: recipes, the combinations cut from them, and word lists that the workspace shares. */
export const up = `
create table recipes (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  position integer not null,
  -- The source that it is in the pool; null while it is not.
  source_id integer,
  body jsonb not null,
  primary key (plan_id, id)
);
create table recipe_cuts (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  recipe_id integer not null,
  norm text collate "C" not null check (norm <> ''),
  primary key (plan_id, id),
  unique (plan_id, recipe_id, norm)
);
create table word_lists (
  workspace_id integer not null references workspaces,
  id integer not null,
  name text not null check (name <> ''),
  text text not null,
  takes integer[] not null,
  primary key (workspace_id, id)
);
create unique index word_lists_name on word_lists (workspace_id, lower(name));

alter table sources drop constraint sources_kind_check;
alter table sources add constraint sources_kind_check check (kind in ('paste', 'file', 'hand', 'ideas', 'recipe'));
`;
