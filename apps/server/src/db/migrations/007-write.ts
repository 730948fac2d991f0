/**
 * Write: several patterns in their order, plain ads and assembled ones, final URLs by a rule of the plan, assets, what
 * editors said of ads, and addresses as they were checked. Bodies of patterns are brought up to date where they are read.
 */
export const up = `
alter table ad_patterns add column position integer;
-- Patterns are numbered like all else now; the first one is 1.
update plans set next_id = greatest(next_id, 2);

create table address_rules (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
insert into address_rules (plan_id, id, workspace_id, body)
select plan_id, 1, workspace_id, jsonb_build_object(
  'base', case when url like '@site%' then '@site' else url end,
  'path', case when url like '@site%' then substr(url, 6) else '' end,
  'themes', '[]'::jsonb, 'parameters', '', 'mobile', '')
from (select plan_id, workspace_id, coalesce(body->>'finalUrl', '@site') as url from ad_patterns where id = 1) p;

create table assets (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  at text[] not null,
  body jsonb not null,
  primary key (plan_id, id)
);
create table ad_reviews (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  ad_key text collate "C" not null,
  state text not null check (state in ('review', 'limited', 'refused')),
  reason text not null,
  texts text[] not null,
  primary key (plan_id, id),
  unique (plan_id, ad_key)
);

drop table ads;
create table ads (
  plan_id integer not null,
  key text collate "C" not null,
  workspace_id integer not null,
  outlet text not null,
  group_key text collate "C" not null,
  position integer not null,
  pattern_id integer not null,
  form text not null,
  status text not null,
  labels text[] not null,
  texts text[] not null,
  notation jsonb,
  kept jsonb,
  final_url text not null,
  mobile_url text not null,
  misfit boolean not null,
  relevance integer not null,
  problems integer not null,
  hash bigint not null,
  primary key (plan_id, outlet, key)
);
create index ads_by_group on ads (plan_id, outlet, group_key);
alter table ads alter column plan_id set statistics 0;
alter table ad_groups add column takes_ads boolean not null default true;

-- What was asked of the world: no input of the plan, and nothing to undo.
create table address_checks (
  plan_id integer not null references plans on delete cascade,
  address text collate "C" not null,
  workspace_id integer not null,
  status integer,
  title text not null,
  leads_to text not null,
  problem text not null,
  checked_at timestamptz not null,
  primary key (plan_id, address)
);

update plans set built_revision = least(built_revision, greatest(0, revision - 1));
`;
