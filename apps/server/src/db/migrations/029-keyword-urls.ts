/**
 * Where keywords lead by themselves: by hand, and by the plan's rule. What cells the rows of a set stand for is kept with it:
 * a profile whose sheets told a final URL of ads alone tells it of keywords from now on.
 */
export const up = `
alter table keyword_rows add column held_url text, add column rule_url text;
alter table sheet_sets add column told jsonb;
`;
