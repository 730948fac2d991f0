/** Ads of rivals that somebody noted beside an ad group, a theme or the plan. */
export const up = `
create table rival_notes (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  body jsonb not null,
  primary key (plan_id, id)
);
`;
