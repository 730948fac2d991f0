/**
 * The database is not to remember which plans fill a table: of a plan that is newer than its last look it would believe
 * that it has nothing, and read all of it again for each row sought. Without that memory it takes any plan for a
 * two-hundredth of the table, and seeks by the index that names most.
 */
const TABLES = [
  'keywords',
  'mentions',
  'attic',
  'line_problems',
  'removed_keywords',
  'recipe_cuts',
  'holds',
  'ad_groups',
  'keyword_rows',
  'outlet_groups',
  'ads',
];

// Giving the column its own type once more drops what is remembered by now.
export const up = TABLES.map(
  (table) => `alter table ${table} alter column plan_id type integer, alter column plan_id set statistics 0;`,
).join('\n');
