/** Fences that were taken away for good, each with why. */
export const up = `
create table fences_out (
  plan_id integer not null references plans on delete cascade,
  id integer not null,
  workspace_id integer not null,
  place text not null,
  norm text not null,
  match_type text not null,
  reason text not null,
  primary key (plan_id, id)
);
create unique index on fences_out (plan_id, place, match_type, norm);
`;
