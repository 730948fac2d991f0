/** What was put off or done of what is worth doing, and what that was when a plan was looked through last. */
export const up = `
create table worth_marks (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
create table plan_worth (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  stamp text not null,
  body jsonb not null,
  primary key (plan_id, id)
);
`;
