/** Ship: how often something became of a set; and checks that were made row by row are made once for a statement. */
export const up = `
-- Counts up with each answer and each mark: what was worked out of a set before is of another one.
alter table sheet_sets add column judged integer not null default 0;

-- That a mention has its keyword is checked once for all rows of a statement: row by row it took half of the time in
-- which 300,000 of them are put in. Many rows are held against one reading of their plan, whatever the database knows of
-- the plan so far: looked for one by one they may each read all of a plan that is new to it.
create function are_many(rows bigint) returns boolean immutable language sql as 'select rows > 50';
alter table mentions drop constraint mentions_plan_id_keyword_id_fkey;
create function mentions_have_keywords() returns trigger language plpgsql as $$
declare
  span record;
  is_lost boolean := false;
begin
  if are_many((select count(*) from said)) then
    perform set_config('enable_nestloop', 'off', true);
    for span in select plan_id, min(keyword_id) as first, max(keyword_id) as last from said group by plan_id loop
      is_lost := is_lost or exists (
        select from said s where s.plan_id = span.plan_id and not exists (
          select from keywords k where k.plan_id = span.plan_id and k.id between span.first and span.last and k.id = s.keyword_id));
    end loop;
    perform set_config('enable_nestloop', 'on', true);
  else
    is_lost := exists (
      select from said s where not exists (select from keywords k where k.plan_id = s.plan_id and k.id = s.keyword_id));
  end if;
  if is_lost then
    raise foreign_key_violation using message = 'a mention without its keyword', table = 'mentions';
  end if;
  return null;
end $$;
create trigger mentions_have_keywords after insert on mentions referencing new table as said
  for each statement execute function mentions_have_keywords();
create trigger mentions_keep_keywords after update on mentions referencing new table as said
  for each statement execute function mentions_have_keywords();
create function keywords_are_not_mentioned() returns trigger language plpgsql as $$
declare
  span record;
  is_lost boolean := false;
begin
  if are_many((select count(*) from gone)) then
    perform set_config('enable_nestloop', 'off', true);
    for span in select plan_id, min(id) as first, max(id) as last from gone group by plan_id loop
      is_lost := is_lost or exists (
        select from gone g join mentions m on m.keyword_id = g.id
        where g.plan_id = span.plan_id and m.plan_id = span.plan_id and m.keyword_id between span.first and span.last);
    end loop;
    perform set_config('enable_nestloop', 'on', true);
  else
    is_lost := exists (select from gone g join mentions m on m.plan_id = g.plan_id and m.keyword_id = g.id);
  end if;
  if is_lost then
    raise foreign_key_violation using message = 'a keyword that is mentioned', table = 'keywords';
  end if;
  return null;
end $$;
create trigger keywords_are_not_mentioned after delete on keywords referencing old table as gone
  for each statement execute function keywords_are_not_mentioned();

-- Every write of these locks its plan first.
alter table placed_by_hand drop constraint placed_by_hand_plan_id_fkey;
alter table holds drop constraint holds_plan_id_fkey;

-- Rows that wait are only put in by the job that has just made what they are of, and go with it.
alter table read_back_rows drop constraint read_back_rows_read_back_id_fkey;
create function read_back_rows_go() returns trigger language plpgsql as $$
begin
  delete from read_back_rows r using gone g where r.read_back_id = g.id;
  return null;
end $$;
create trigger read_back_rows_go after delete on read_backs referencing old table as gone
  for each statement execute function read_back_rows_go();
`;
