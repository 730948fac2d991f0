/** Where keywords lead by themselves: by hand, and by the plan's rule. */
export const up = `
alter table keyword_rows add column held_url text, add column rule_url text;
`;
