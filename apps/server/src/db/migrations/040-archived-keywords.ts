/**
 * Keywords that a source took along, and what it had said of them, lie in tables like those that they came from: they go and come
 * back by the hundred thousand. What lay among the other archived rows moves there; those that recipes left stay.
 */
export const up = `
create table archived_keywords (source_id integer not null, like keywords including defaults);
create table archived_mentions (like mentions);
-- As with the keywords themselves: every write locks its plan first, and no plan is ever deleted.
alter table removed_keywords drop constraint removed_keywords_plan_id_fkey;
insert into archived_keywords select a.source_id, r.* from archived_rows a
  cross join lateral jsonb_populate_record(null::keywords, '{"apart": false}' || a.body
    || jsonb_build_object('plan_id', a.plan_id, 'workspace_id', a.workspace_id, 'changed_revision', 0)) r
  where a.kind = 'keywords';
alter table archived_keywords drop column changed_revision;
insert into archived_mentions select r.* from archived_rows a
  cross join lateral jsonb_populate_record(null::mentions,
    a.body || jsonb_build_object('plan_id', a.plan_id, 'workspace_id', a.workspace_id)) r
  where a.kind = 'mentions';
delete from archived_rows where kind in ('keywords', 'mentions');
alter table archived_keywords add primary key (plan_id, source_id, id);
alter table archived_mentions add primary key (plan_id, source_id, keyword_id);
`;
