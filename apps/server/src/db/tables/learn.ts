import {
  bytes,
  documents,
  flag,
  given,
  int,
  json,
  moment,
  notInFile,
  optional,
  table,
  text,
  uuid,
} from './define.ts';

/** Reports that were taken in. Their rows are parts of the reading that `body` names; to take one out is to take it back. */
export const reportImports = table('report_imports', 'input', {
  key: ['id'],
  // Results are those of the plan that was shipped.
  isNotCopied: true,
  columns: {
    id: int,
    name: text,
    made_at: moment,
    actor_id: notInFile(int),
    outlet: optional(text),
    body: json,
  },
  refers: { actor_id: 'actors' },
});

/** Reports as they were read. What was taken in once is kept, so that it can come again. */
export const reportReadings = table('report_readings', 'record', {
  key: ['id'],
  columns: {
    id: uuid,
    made_at: given(moment),
    // Of an account and a grain: its places are told by their numbers.
    series: uuid,
    outlet: optional(text),
    taken: flag,
    body: json,
  },
});

export const reportParts = table('report_parts', 'record', {
  key: ['reading', 'n'],
  columns: {
    reading: uuid,
    n: int,
    data: bytes,
  },
});

export const reportPlaces = table('report_places', 'record', {
  key: ['series', 'n'],
  columns: {
    series: uuid,
    n: int,
    data: bytes,
  },
});

/** Looks at results that are kept by name. */
export const looks = documents('looks');

/** What was done about verdicts. Results are those of the plan that was shipped, and so is what was done about them. */
export const verdictActs = table('verdict_acts', 'input', {
  key: ['id'],
  isNotCopied: true,
  columns: { id: int, body: json },
});

/** Search terms that were judged; of the plan that was shipped, as results are. */
export const termJudgements = table('term_judgements', 'input', {
  key: ['id'],
  isNotCopied: true,
  columns: { id: int, body: json },
});

/** What was put off or done of what is worth doing; of the plan that was shipped, as results are. */
export const worthMarks = table('worth_marks', 'input', {
  key: ['id'],
  isNotCopied: true,
  columns: { id: int, body: json },
});

/** What was worth doing when the plan was looked through last. */
export const planWorth = table('plan_worth', 'record', {
  key: ['id'],
  columns: { id: int, stamp: text, body: json },
});
