/** Search terms that were judged: they do not come back. */
export const up = `
create table term_judgements (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
`;
