/** What was done about verdicts, so that they rest until their day. */
export const up = `
create table verdict_acts (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
`;
