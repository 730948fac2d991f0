/** Sort: themes, what is placed by hand, and how a plan sorts. */
export const up = `
create table themes (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  parent_id integer,
  position integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
-- A keyword that leaves the pool may come back with its number, so this does not go with it.
create table placed_by_hand (
  plan_id integer not null references plans on delete cascade,
  keyword_id integer not null,
  workspace_id integer not null,
  -- 0: in no theme, whatever the rules say; null: where the rules say.
  theme_id integer,
  stage text check (stage in ('early', 'comparing', 'ready')),
  primary key (plan_id, keyword_id),
  check (theme_id is not null or stage is not null)
);
create table sort_settings (
  plan_id integer not null references plans on delete cascade,
  id integer not null check (id = 1),
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
-- What each user has seen is no input of the plan.
create table sort_seen (
  plan_id integer not null references plans on delete cascade,
  actor_id integer not null references actors,
  workspace_id integer not null,
  keyword_id integer not null,
  primary key (plan_id, actor_id)
);
alter table themes alter column plan_id set statistics 0;
alter table placed_by_hand alter column plan_id set statistics 0;
`;
