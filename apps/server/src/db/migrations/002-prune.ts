/** Brief, Gather and Prune: the plan's facts, states of keywords, negatives with a level and a reason, shared lists. */
export const up = `
create table facts (
  plan_id integer not null references plans on delete cascade,
  id integer not null check (id = 1),
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
insert into facts (plan_id, id, workspace_id, body) select id, 1, workspace_id, '{}' from plans;

alter table keywords
  add column competition smallint check (competition between 0 and 100),
  add column folded_into integer,
  add column blocked_by integer,
  add column apart boolean not null default false;
create index keywords_folded on keywords (plan_id, folded_into) where folded_into is not null;
alter table mentions add column competition smallint;
alter table sources drop constraint sources_kind_check;
alter table sources add constraint sources_kind_check check (kind in ('paste', 'file', 'hand', 'ideas'));

-- What a source brought, set aside when the source goes, so that it can come back.
create table attic (
  plan_id integer not null references plans on delete cascade,
  source_id integer not null,
  workspace_id integer not null,
  kind text not null,
  body jsonb not null
);
create index attic_source on attic (plan_id, source_id);

alter table negatives
  add column level text not null default 'plan' check (level in ('plan', 'campaign')),
  add column reason text not null default 'hand' check (reason in ('hand', 'block'));
alter table negatives drop constraint negatives_plan_id_norm_match_type_key;
alter table negatives add constraint negatives_place unique (plan_id, level, norm, match_type);
create table word_verdicts (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  text text not null check (text <> ''),
  primary key (plan_id, id),
  unique (plan_id, text)
);

-- Shared lists belong to the workspace; plans attach them.
create sequence shared_ids;
create table shared_lists (
  workspace_id integer not null references workspaces,
  id integer not null,
  name text not null check (name <> ''),
  about text not null,
  primary key (workspace_id, id)
);
create unique index shared_lists_name on shared_lists (workspace_id, lower(name));
create table shared_negatives (
  workspace_id integer not null,
  id integer not null,
  list_id integer not null,
  text text not null,
  norm text not null check (norm <> ''),
  match_type text not null check (match_type in ('broad', 'phrase', 'exact')),
  primary key (workspace_id, id),
  unique (workspace_id, list_id, norm, match_type),
  foreign key (workspace_id, list_id) references shared_lists (workspace_id, id)
);
create table attached_lists (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  list_id integer not null,
  primary key (plan_id, id),
  unique (plan_id, list_id),
  foreign key (workspace_id, list_id) references shared_lists (workspace_id, id)
);

-- Texts are told apart and ordered by code point, never by a locale; it is also three times as fast.
alter table keywords alter column norm type text collate "C";
alter table negatives alter column norm type text collate "C";
alter table ad_groups alter column key type text collate "C";
alter table keyword_rows alter column key type text collate "C", alter column group_key type text collate "C";
alter table outlet_groups alter column key type text collate "C";
alter table ads alter column key type text collate "C", alter column group_key type text collate "C";

-- Every write of these locks its plan first, and a source goes with its mentions in one statement each: checking that
-- again row by row took a third of the time of an import. That a mention has its keyword is still checked.
alter table keywords drop constraint keywords_plan_id_fkey;
alter table mentions drop constraint mentions_plan_id_source_id_fkey;

-- Derived tables are brought up to date a range of positions at a time.
create index ad_groups_position on ad_groups (plan_id, position);
create index keyword_rows_position on keyword_rows (plan_id, position);
create index outlet_groups_position on outlet_groups (plan_id, outlet, position);
create index ads_position on ads (plan_id, outlet, position);
`;
