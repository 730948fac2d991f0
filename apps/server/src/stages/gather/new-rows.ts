const none = { searches: null, searches_about: false, cpc: null, cpc_about: false, competition: null };

/** A keyword that no source has said anything of yet. */
export const newKeyword = (id: number, text: string, norm: string) => ({
  id,
  text,
  norm,
  asked: 0,
  marks: [],
  cut: false,
  ...none,
  figures_from: null,
  hand: null,
  told_of: null,
  taken_cpc: null,
  made_searches: null,
  made_cpc: null,
  made_competition: null,
  folded_into: null,
  blocked_by: null,
  apart: false,
});

/** What a source says of a keyword before it says anything. */
export const handMention = (source: number, keyword: number) => ({
  source_id: source,
  keyword_id: keyword,
  line: 0,
  asked: 0,
  marks: [],
  ...none,
  extra: null,
  told_of: null,
});
