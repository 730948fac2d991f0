/**
 * Build: layouts with themes, lanes and fences; what is set in place (negatives, named settings, copies); campaigns, and
 * ad groups that may hold many keywords.
 */
export const up = `
update layouts set body = (body - 'types') || jsonb_build_object(
  'campaignBy', 'one',
  'grouping', '{"kind": "themed", "searchesFrom": null, "first": null, "cpcFrom": null}'::jsonb,
  'branches', '[]'::jsonb,
  'unplaced', 'single',
  'themeName', '{"pattern": "@theme", "style": "as-is"}'::jsonb,
  'keywordsPerGroup', 20,
  'spread', 'together',
  'lanes', jsonb_build_array(jsonb_build_object('id', 1, 'name', 'All', 'types', body->'types', 'step', 10000,
    'takes', '{"searchesFrom": null, "sources": [], "stages": []}'::jsonb)),
  'marks', '{"which": "every", "words": []}'::jsonb,
  'fences', 'off',
  'ladder', (body->'ladder') || '{"baseBy": "estimate",
    "stages": {"early": 10000, "comparing": 10000, "ready": 10000, "none": 10000}}'::jsonb,
  'startHigh', '{"on": false, "narrow": 15000, "wide": 12000, "until": null}'::jsonb);

-- Negatives of one campaign or one ad group, by its key.
create table placed_negatives (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  place text collate "C" not null,
  text text not null,
  norm text collate "C" not null check (norm <> ''),
  match_type text not null check (match_type in ('broad', 'phrase', 'exact')),
  primary key (plan_id, id),
  unique (plan_id, place, norm, match_type)
);
-- Which campaigns a shared list is for; null: all of them.
alter table attached_lists add column campaigns text[];
create table setting_sets (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
create table copies (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  of text collate "C" not null,
  body jsonb not null,
  primary key (plan_id, id)
);

-- Derived rows are made anew by the next rebuild.
truncate ad_groups, keyword_rows, outlet_groups, ads;
update plans set built_revision = least(built_revision, greatest(0, revision - 1));

create table campaigns (
  plan_id integer not null,
  key text collate "C" not null,
  workspace_id integer not null,
  position integer not null,
  name text not null,
  daily_budget bigint not null,
  status text not null,
  labels text[] not null,
  settings_id integer,
  lane integer,
  place text,
  covered jsonb,
  hash bigint not null,
  primary key (plan_id, key)
);
alter table ad_groups
  add column campaign_key text collate "C" not null,
  add column kind text not null,
  add column theme_id integer not null,
  add column step integer not null,
  add column status text not null,
  add column labels text[] not null,
  add column keywords integer not null,
  add column rows integer not null,
  add column lane integer,
  add column place text,
  add column stage text,
  -- What stands between it and the outlet; null: nothing.
  add column findings jsonb,
  -- Of all that it is made of: a rebuild passes over groups that have not changed.
  add column made_of bigint not null;
create index ad_groups_campaign on ad_groups (plan_id, campaign_key);
drop index ad_groups_position;
alter table keyword_rows
  add column keyword_id integer not null,
  add column bid bigint not null,
  add column status text not null,
  add column labels text[] not null;
drop index keyword_rows_position;
drop index outlet_groups_position;
drop index ads_position;
alter table outlet_groups add column campaign_key text collate "C" not null;
create index ads_group on ads (plan_id, outlet, group_key);
create table fences (
  plan_id integer not null,
  key text collate "C" not null,
  workspace_id integer not null,
  texts text[] not null,
  -- 1: phrase, 0: exact; and the ad group whose keyword each keeps.
  phrases smallint[] not null,
  keepers text[] not null,
  hash bigint not null,
  primary key (plan_id, key)
);
-- What the last rebuild found out and did, once per plan.
create table build_states (
  plan_id integer primary key references plans on delete cascade,
  workspace_id integer not null,
  fenced_for bigint not null,
  fences jsonb,
  summary jsonb
);
alter table campaigns alter column plan_id set statistics 0;
alter table fences alter column plan_id set statistics 0;
alter table placed_negatives alter column plan_id set statistics 0;
alter table copies alter column plan_id set statistics 0;
`;
