import {
  amount,
  aside,
  bytes,
  flag,
  given,
  int,
  json,
  laterInFile,
  moment,
  notCopied,
  notInFile,
  optional,
  places,
  small,
  table,
  text,
  uuid,
} from './define.ts';

export const sources = table('sources', 'input', {
  key: ['id'],
  columns: {
    id: int,
    kind: text,
    name: text,
    made_at: moment,
    actor_id: notInFile(int),
    lines: int,
    repeated: int,
    job_id: notInFile(notCopied(optional(uuid))),
    figures_on: laterInFile(optional(text)),
  },
  refers: { actor_id: 'actors' },
});

export const keywords = table('keywords', 'input', {
  key: ['id'],
  columns: {
    id: int,
    text: text,
    norm: text,
    asked: int,
    marks: places,
    cut: flag,
    searches: optional(int),
    searches_about: flag,
    cpc: optional(amount),
    cpc_about: flag,
    competition: optional(small),
    figures_from: optional(int),
    hand: laterInFile(optional(small)),
    told_of: laterInFile(optional(text)),
    taken_cpc: laterInFile(optional(amount)),
    made_searches: laterInFile(optional(int)),
    made_cpc: laterInFile(optional(amount)),
    made_competition: laterInFile(optional(int)),
    folded_into: optional(int),
    blocked_by: notInFile(optional(int)),
    apart: given(flag),
    changed_revision: aside(int),
  },
});

export const mentions = table('mentions', 'input', {
  key: ['source_id', 'keyword_id'],
  columns: {
    source_id: int,
    keyword_id: int,
    line: int,
    asked: int,
    marks: places,
    searches: optional(int),
    searches_about: flag,
    cpc: optional(amount),
    cpc_about: flag,
    competition: optional(small),
    extra: optional(json),
    told_of: laterInFile(optional(text)),
  },
  refers: { source_id: 'sources', keyword_id: 'keywords' },
});

const { changed_revision: _aside, ...keywordColumns } = keywords.columns;

/** The keywords that a source took along as it went, and what it had said of each, until it comes back. */
export const archivedKeywords = table('archived_keywords', 'record', {
  key: ['source_id', 'id'],
  columns: { source_id: int, ...keywordColumns },
});
export const archivedMentions = table('archived_mentions', 'record', {
  key: ['source_id', 'keyword_id'],
  columns: mentions.columns,
});

export const dismissedIdeas = table('dismissed_ideas', 'input', {
  key: ['id'],
  columns: {
    id: int,
    norm: text,
  },
});

export const lineProblems = table('line_problems', 'input', {
  key: ['id'],
  columns: {
    id: int,
    source_id: int,
    line: int,
    raw: text,
    code: text,
    at: int,
    character: optional(text),
    kept: flag,
  },
  refers: { source_id: 'sources' },
});

export const uploads = table('uploads', 'record', {
  identity: 'own',
  key: ['id'],
  columns: {
    id: given(uuid),
    bytes: given(amount),
    whole: given(flag),
    utf8: given(flag),
    created_at: given(moment),
  },
});

export const uploadParts = table('upload_parts', 'record', {
  scope: 'none',
  key: ['upload_id', 'n'],
  columns: {
    upload_id: uuid,
    n: int,
    data: bytes,
  },
  refers: { upload_id: 'uploads' },
});

export const estimateModels = table('estimate_models', 'derived', {
  key: [],
  columns: {
    seen: text,
    told: text,
    body: bytes,
  },
});
