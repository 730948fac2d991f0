/** What the ads of an ad group were called when they were shipped; `ad` is empty where several were called so. */
export const up = `
create table shipped_ads (
  plan_id integer not null references plans on delete cascade,
  outlet text not null,
  group_key text not null,
  name text not null,
  workspace_id integer not null,
  ad text not null,
  primary key (plan_id, outlet, group_key, name)
);
`;
