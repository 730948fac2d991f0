/**
 * Figures by their origin: `searches`, `cpc` and `competition` of a keyword are what hand or lists told; what the
 * stand-in market made up, and estimates that were taken, stand beside and never in their place. Plans that asked the
 * stand-in market before go on with it.
 */
const ORDERED = `order by s.kind = 'hand' desc, m.source_id desc`;
const newest = (field: string, kinds: string) =>
  `(array_agg(m.${field} ${ORDERED}) filter (where m.${field} is not null and ${kinds}))[1]`;
const TOLD = `s.kind in ('hand', 'paste', 'file')`;
const MADE = `s.kind in ('ideas', 'recipe')`;
const HAND = `s.kind = 'hand'`;

export const up = `
alter table sources drop constraint sources_kind_check;
alter table sources add constraint sources_kind_check
  check (kind in ('paste', 'file', 'hand', 'ideas', 'recipe', 'figures', 'estimates'));
alter table sources add column figures_on text check (figures_on ~ '^\\d{4}-\\d\\d-\\d\\d$');
alter table mentions add column told_of text;
alter table keywords add column hand smallint, add column told_of text, add column taken_cpc bigint check (taken_cpc >= 0),
  add column made_searches integer check (made_searches >= 0), add column made_cpc bigint check (made_cpc >= 0),
  add column made_competition integer;

update facts f set body = body || '{"market": "stand-in"}'
  where exists (select from sources s where s.plan_id = f.plan_id and s.kind = 'ideas');

with said as (
  select m.plan_id, m.keyword_id as id, ${newest('searches', TOLD)} as searches, ${newest('searches_about', `m.searches is not null and ${TOLD}`)} as searches_about,
    ${newest('cpc', TOLD)} as cpc, ${newest('cpc_about', `m.cpc is not null and ${TOLD}`)} as cpc_about, ${newest('competition', TOLD)} as competition,
    (array_agg(m.source_id ${ORDERED}) filter (where coalesce(m.searches, m.cpc, m.competition) is not null and ${TOLD}))[1] as figures_from,
    ${newest('searches', MADE)} as made_searches, ${newest('cpc', MADE)} as made_cpc, ${newest('competition', MADE)} as made_competition,
    nullif(bool_or(${HAND} and m.searches is not null)::int + 2 * bool_or(${HAND} and m.cpc is not null)::int + 4 * bool_or(${HAND} and m.competition is not null)::int, 0) as hand
  from mentions m join sources s on s.plan_id = m.plan_id and s.id = m.source_id
  where exists (select from mentions o join sources t on t.plan_id = o.plan_id and t.id = o.source_id
    where o.plan_id = m.plan_id and o.keyword_id = m.keyword_id and t.kind in ('hand', 'ideas', 'recipe')
      and coalesce(o.searches, o.cpc, o.competition) is not null)
  group by m.plan_id, m.keyword_id)
update keywords k set searches = said.searches, searches_about = coalesce(said.searches_about, false), cpc = said.cpc,
  cpc_about = coalesce(said.cpc_about, false), competition = said.competition, figures_from = said.figures_from,
  made_searches = said.made_searches, made_cpc = said.made_cpc, made_competition = said.made_competition, hand = said.hand
from said where k.plan_id = said.plan_id and k.id = said.id;

-- Ideas that are not to come back.
create table dismissed_ideas (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  norm text not null check (norm <> ''),
  primary key (plan_id, id),
  unique (plan_id, norm)
);

-- What was learned of a plan's told figures, under a hash of them; derived.
create table estimate_models (
  plan_id integer primary key references plans on delete cascade,
  workspace_id integer not null,
  -- The newest change that was looked at, and what was told; each with the rules of reading.
  seen text not null,
  told text not null,
  body bytea not null
);
`;
