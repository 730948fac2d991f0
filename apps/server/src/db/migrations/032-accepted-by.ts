/** Who accepted a finding, and when; nothing: from before it was kept. By which outlet an ad was refused; nothing: by any. */
export const up = `
alter table accepted_findings add column by text, add column at text;
alter table ad_reviews add column outlet text;
`;
