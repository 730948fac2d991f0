/**
 * Ship: outlets of the workspace, which of them a plan ships to, warnings accepted with a reason, and receipts that know
 * what the outlet has by them, row by row.
 */
export const up = `
create table outlets (
  workspace_id integer not null references workspaces on delete cascade,
  id integer not null,
  key text not null,
  body jsonb not null,
  primary key (workspace_id, id),
  unique (workspace_id, key)
);
create table plan_outlets (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  position integer not null,
  outlet text not null,
  body jsonb not null,
  primary key (plan_id, id),
  unique (plan_id, outlet)
);
create table accepted_findings (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  rule text not null,
  field text,
  outlet text,
  facts bigint not null,
  reason text not null,
  primary key (plan_id, id)
);

-- Derived: what a look through the plan for an outlet has found.
create table ship_checks (
  -- Looked up when all is done: a plan is not locked while it is looked through, nor while its sheets are written.
  plan_id integer not null references plans on delete cascade deferrable initially deferred,
  outlet text not null,
  workspace_id integer not null,
  -- The revision that was looked through, and a hash of what else it hangs on.
  revision integer not null,
  made_of bigint not null,
  body jsonb not null,
  primary key (plan_id, outlet)
);

-- Sheets are packed before they are kept: nothing is gained by packing them again.
alter table sheet_parts alter column data set storage external,
  drop constraint sheet_parts_set_id_fkey,
  add constraint sheet_parts_set_id_fkey foreign key (set_id) references sheet_sets on delete cascade deferrable initially deferred;
delete from sheet_sets;
alter table sheet_sets
  add column n integer not null,
  add column what text not null check (what in ('all', 'difference')),
  add column format text not null,
  add column note text not null default '',
  add column state text not null default 'written' check (state in ('written', 'accepted', 'answered', 'withdrawn')),
  add column hash text not null default '',
  -- The outlet as it was then, so that its answer is read as its sheets were written.
  add column profile jsonb not null,
  add column counts jsonb not null default '{}',
  add column files jsonb not null default '[]',
  add column budget_changes integer not null default 0,
  add column answer jsonb,
  add constraint sheet_sets_n unique (plan_id, outlet, n);
-- What the outlet has once a set is taken: rows packed one after another, in parts.
create table outlet_states (
  set_id uuid not null references sheet_sets on delete cascade deferrable initially deferred,
  n integer not null,
  data bytea not null,
  primary key (set_id, n)
);
alter table outlet_states alter column data set storage external;
create table refused_rows (
  set_id uuid not null references sheet_sets on delete cascade,
  n integer not null,
  workspace_id integer not null,
  row_key text not null,
  file text not null,
  line integer not null,
  reason text not null,
  primary key (set_id, n)
);

-- The simulated engines' own: what each holds for a plan.
create table stand_in_accounts (
  plan_id integer not null references plans on delete cascade,
  outlet text not null,
  workspace_id integer not null,
  data bytea not null,
  primary key (plan_id, outlet)
);
`;
