/** All that a look through the plan found, to be opened from the first few. */
export const up = `
create table finding_lists (
  plan_id integer not null references plans on delete cascade,
  workspace_id integer not null,
  outlet text not null,
  rule text not null,
  field text not null,
  body jsonb not null,
  primary key (plan_id, outlet, rule, field)
);
`;
