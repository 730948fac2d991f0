/**
 * Sitelinks, callouts and phone numbers are called extras: the table, the codes that outlets are kept by, and rules of
 * findings. Sources that were set aside are kept in archived rows. What is only remembered to be quick is looked up anew.
 */
const RENAMED: readonly [from: string, to: string][] = [
  ['"assets":', '"extras":'],
  ['"assetKinds":', '"extraKinds":'],
  ['"asset":', '"extra":'],
  ['"kind": "assets"', '"kind": "extras"'],
  ['"asset-(kind|text|line1|line2|number)"', '"extra-\\1"'],
];
const renamed = (column: string) =>
  RENAMED.reduce((sql, [from, to]) => `regexp_replace(${sql}, '${from}', '${to}', 'g')`, `${column}::text`);

/** Rows of sheets that wait to be taken in: their kinds, their keys, and what they are told to be. */
const waiting = (column: string) =>
  [['"kind":"asset"', '"kind":"extra"'], ['"asset\\u001f', '"extra\\u001f'], ...RENAMED.slice(2)].reduce(
    (sql, [from = '', to = '']) =>
      from.includes('(')
        ? `regexp_replace(${sql}, '${from}', '${to}', 'g')`
        : `replace(${sql}, '${from}', '${to}')`,
    column,
  );

export const up = `
alter table assets rename to extras;
alter index assets_pkey rename to extras_pkey;
alter table extras rename constraint assets_plan_id_fkey to extras_plan_id_fkey;
alter table attic rename to archived_rows;
alter index attic_source rename to archived_rows_source;
alter table archived_rows rename constraint attic_plan_id_fkey to archived_rows_plan_id_fkey;
update outlets set body = (${renamed('body')})::jsonb;
update sheet_sets set profile = (${renamed('profile')})::jsonb;
update accepted_findings set rule = replace(rule, 'asset', 'extra') where rule in ('no-assets', 'marker-in-asset');
update findings set body = jsonb_set(body, '{rule}', to_jsonb(replace(body->>'rule', 'asset', 'extra')))
  where body->>'rule' in ('no-assets', 'marker-in-asset');
delete from ship_checks;
delete from known_sets;
update read_back_rows set kind = 'extra', body = ${waiting('body')} where kind = 'asset';
update read_backs set body = (${waiting('body::text')})::jsonb;
`;
