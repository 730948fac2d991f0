/** Notes on keywords. */
export const up = `
create table keyword_notes (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  keyword_id integer not null,
  text text not null check (text <> ''),
  primary key (plan_id, id)
);
`;
