import { type ImportResult, readOptions } from '@sprig/contracts';
import { originOf } from '@sprig/core/figures';
import {
  BY_HAND,
  decoderOf,
  type Encoding,
  guessEncoding,
  type ListLayout,
  ListStream,
  type OpenQuestion,
  type ReadOptions,
  type SaidKeyword,
} from '@sprig/core/gather';
import { z } from 'zod';
import { select } from '../../db/connect.ts';
import { type Change, inPreparedChange, refreshQuietly, type Scratch } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { Prefetch } from '../../platform/prefetch.ts';
import { blockQuietly } from '../prune/index.ts';
import { FIGURES, fillFigures } from './fill-figures.ts';
import { Staging } from './staging.ts';
import { type Upload, uploadParts } from './uploads.ts';

const importInput = z.object({
  upload: z.uuid(),
  kind: z.enum(['paste', 'file', 'figures']),
  name: z.string(),
  options: readOptions,
  figuresOn: z.string().nullable().default(null),
});

/** Takes an uploaded list into the pool, all of it or nothing. Run again after a crash it does it once. */
export async function importJob(context: JobContext): Promise<ImportResult> {
  const { caller } = context;
  const input = importInput.parse(context.input);
  const before = await resultOf(caller, context.id);
  if (before) return before;
  await context.phase('reading');
  const upload = await uploadParts(caller, input.upload);
  const encoding = await encodingOf(upload);
  const { result } = await inPreparedChange(
    caller,
    async (scratch) => {
      const staging = await stage(scratch, decoded(upload, encoding), input.options, (done) =>
        context.progress('reading', done, 0),
      );
      await context.phase('taking in', staging.keywords);
      return staging;
    },
    (done: ImportResult) =>
      done.figures
        ? `Fill the figures of ${(done.figures.met + done.figures.alike).toLocaleString('en')} keywords`
        : `Take in ${done.added.toLocaleString('en')} keywords from ${input.name}`,
    (change, staging) => keep(change, staging, { ...input, job: context.id }),
  );
  return result;
}

export type From = {
  kind: 'paste' | 'file' | 'ideas' | 'figures';
  name: string;
  job: string | null;
  /** The day that its figures are of; null: that on which it came in. */
  figuresOn?: string | null;
};
type Tell = (done: number) => Promise<void>;
type Pieces = Iterable<string> | AsyncIterable<string>;

const PROBLEMS = {
  'empty-file': 'The file is empty. Choose one that has a keyword on each line.',
  'binary-file':
    'This is no text: it may be a picture or a program. Save the list as CSV or as plain text and try again.',
} as const;

type FoundEncoding = { encoding: Encoding; bomLength: number };

/** The encoding of an upload, by its first part and by whether all of it is sound UTF-8. */
async function encodingOf(upload: Upload): Promise<FoundEncoding> {
  for await (const first of upload.parts()) {
    const guess = guessEncoding(first, () => upload.isUtf8);
    if (guess.status === 'problem')
      throw new SprigFailure('invalid', PROBLEMS[guess.code], { at: guess.code });
    return guess;
  }
  throw new SprigFailure('invalid', PROBLEMS['empty-file'], { at: 'empty-file' });
}

/** The text of an upload, piece by piece, in whatever encoding it came. */
export async function decodedUpload(caller: PlanCaller, upload: string): Promise<AsyncGenerator<string>> {
  return (await textOfUpload(caller, upload))();
}

/** The same, to be read as often as needed: its encoding is told once. */
export async function textOfUpload(
  caller: PlanCaller,
  upload: string,
): Promise<() => AsyncGenerator<string>> {
  const whole = await uploadParts(caller, upload);
  const encoding = await encodingOf(whole);
  return () => decoded(whole, encoding);
}

async function* decoded(upload: Upload, { encoding, bomLength }: FoundEncoding): AsyncGenerator<string> {
  const decoder = decoderOf(encoding, (name) => new TextDecoder(name));
  let skip = bomLength;
  for await (const part of upload.parts()) {
    yield decoder.decode(part.subarray(skip), { stream: true });
    skip = 0;
  }
  yield decoder.decode();
}

/** Takes what a list says into the pool, within a change, as its text comes. */
export async function takeIn(
  change: Change,
  pieces: Pieces,
  options: ReadOptions,
  from: From,
): Promise<ImportResult> {
  return keep(change, await stage(change, pieces, options), from);
}

/** Reads what a list says into tables of the transaction. */
async function stage(
  scratch: Scratch,
  pieces: Pieces,
  options: ReadOptions,
  tell: Tell = async () => {},
): Promise<Staging> {
  const staging = await Staging.open(scratch);
  const stream = new ListStream(options, staging);
  // The database keeps one piece while the next is read.
  const keeping = new Prefetch();
  for await (const piece of pieces) {
    stream.push(piece);
    await keeping.next(() => staging.flush());
    await tell(staging.keywords);
  }
  await keeping.ended;
  refuseOpen(stream.end());
  if (staging.counts.lines === 0)
    throw new SprigFailure('invalid', 'The list is empty: there is no line with a keyword in it.');
  await staging.finish();
  return staging;
}

const OPEN: Record<OpenQuestion, string> = {
  decimal:
    'Figures such as 1.300 can be read in two ways here. Say which mark stands before the decimals, then take the list in.',
  bullets:
    'Some lines begin with “- ”, which may be a bullet or a negative keyword. Say which, then take the list in.',
};

/** Nothing goes in while two readings of it stand. */
function refuseOpen({ open }: ListLayout) {
  const [question] = open;
  if (question) throw new SprigFailure('invalid', OPEN[question], { at: question });
}

const AT_ONCE = 2_000;

/** Takes in keywords that were not read from a list. */
export async function takeInKeywords(
  change: Change,
  keywords: Iterable<SaidKeyword>,
  from: From,
): Promise<ImportResult> {
  const staging = await Staging.open(change);
  // The database keeps some while the next are made.
  const keeping = new Prefetch();
  let waiting = 0;
  for (const keyword of keywords) {
    staging.noted(null);
    staging.keyword(keyword);
    if (++waiting < AT_ONCE) continue;
    waiting = 0;
    await keeping.next(() => staging.flush());
  }
  await keeping.ended;
  await staging.finish();
  return keep(change, staging, from);
}

async function keep(change: Change, staging: Staging, from: From): Promise<ImportResult> {
  const source = change.takeIds(1);
  const { lines, repeated, askedAgain } = staging.counts;
  await change.derive(
    `insert into sources (plan_id, workspace_id, id, kind, name, made_at, actor_id, lines, repeated, job_id, figures_on)
     select id, workspace_id, $2, $3, $4, now(), $5, $6, $7, $8::uuid, $9 from plans where id = $1`,
    [
      source,
      from.kind,
      from.name,
      change.caller.actor,
      lines,
      repeated + askedAgain,
      from.job,
      from.figuresOn ?? null,
    ],
  );
  change.came(source);
  if (from.kind === 'figures') {
    const filled = await fillFigures(change, source);
    return { ...filled, problems: await keepProblems(change, source) };
  }
  const { added, first } = await keepKeywords(change, source, from.kind);
  const alreadyThere = await keepMentions(change, source, first);
  const [held] = await change.rows<{ byHand: number }>(`select ${typesByHand('$1', '$2')} as "byHand"`, [
    source,
  ]);
  const negatives = await keepNegatives(change, source);
  const problems = await keepProblems(change, source);
  await blockQuietly(change, first);
  return { source, added, alreadyThere, negatives, problems, byHand: held?.byHand ?? 0, figures: null };
}

/** Counts, in SQL, the keywords that a source asks for in match types which they don't get, since theirs were set by hand. */
const typesByHand = (plan: string, source: string) =>
  `(select count(*) from mentions m join keywords k on k.plan_id = m.plan_id and k.id = m.keyword_id
     where m.plan_id = ${plan} and m.source_id = ${source} and k.hand & ${BY_HAND.asked} > 0
       and m.asked & ~k.asked > 0)::int`;

/** Of what comes in, what the pool has not. */
const FRESH =
  'from incoming i where not exists (select from keywords k where k.plan_id = $1 and k.norm = i.norm)';

/** Puts in what the pool has not; the first of the new ids. */
async function keepKeywords(
  change: Change,
  source: number,
  kind: From['kind'],
): Promise<{ added: number; first: number }> {
  const [fresh] = await change.rows<{ added: number }>(
    `select count(*)::int as added from incoming i
     where not exists (select from keywords k where k.plan_id = $1 and k.norm = i.norm)`,
  );
  const added = fresh?.added ?? 0;
  const first = change.takeIds(added);
  if (added > 0)
    await change.derive(
      originOf(kind) === 'made-up'
        ? `insert into keywords (plan_id, workspace_id, id, text, norm, asked, marks, cut, searches_about, cpc_about,
             made_searches, made_cpc, made_competition, changed_revision)
           select $1, $4, $2 - 1 + row_number() over (order by i.n), i.text, i.norm, i.asked, i.marks, false, false, false,
             i.searches, i.cpc, i.competition, $5 + 0 * $3
           ${FRESH}`
        : `insert into keywords (plan_id, workspace_id, id, text, norm, asked, marks, cut, ${FIGURES}, figures_from, changed_revision)
           select $1, $4, $2 - 1 + row_number() over (order by i.n), i.text, i.norm, i.asked, i.marks, false, ${FIGURES},
             case when coalesce(i.searches, i.cpc, i.competition) is not null then $3::int end, $5
           ${FRESH}`,

      [first, source, change.caller.workspace, change.revision],
    );
  return { added, first };
}

/** Says of every keyword what this source says of it; those that were there already are summed up anew. */
async function keepMentions(change: Change, source: number, first: number): Promise<number> {
  await change.derive(
    `insert into mentions (plan_id, workspace_id, source_id, keyword_id, line, asked, marks, ${FIGURES}, extra)
     select $1, $3, $2, k.id, i.line, i.asked, i.marks, ${FIGURES.split(', ')
       .map((field) => `i.${field}`)
       .join(', ')}, i.extra
     from incoming i join keywords k on k.plan_id = $1 and k.norm = i.norm order by k.id`,
    [source, change.caller.workspace],
  );
  const met = `select keyword_id as id from mentions where plan_id = $1 and source_id = $2 and keyword_id < $3`;
  await refreshQuietly(change, met, [source, first]);
  const [found] = await change.rows<{ count: number }>(`select count(*)::int as count from (${met}) m`, [
    source,
    first,
  ]);
  return found?.count ?? 0;
}

/** Pasted negatives become the plan's. */
async function keepNegatives(change: Change, source: number): Promise<number> {
  const fresh = `from (select distinct on (norm, match_type) * from incoming_negatives order by norm, match_type, n) i
    where not exists (select from negatives t where t.plan_id = $1 and t.level = 'plan' and t.norm = i.norm and t.match_type = i.match_type)`;
  const [found] = await change.rows<{ count: number }>(`select count(*)::int as count ${fresh}`);
  const count = found?.count ?? 0;
  if (count > 0)
    await change.derive(
      `insert into negatives (plan_id, workspace_id, id, text, norm, match_type, source_id, level, reason)
       select $1, $4, $2 - 1 + row_number() over (order by i.n), text, norm, match_type, $3, 'plan', 'hand' ${fresh}`,
      [change.takeIds(count), source, change.caller.workspace],
    );
  return count;
}

async function keepProblems(change: Change, source: number): Promise<number> {
  const [found] = await change.rows<{ count: number }>(
    'select count(*)::int as count from incoming_problems where $1 > 0',
  );
  const count = found?.count ?? 0;
  if (count > 0)
    await change.derive(
      `insert into line_problems (plan_id, workspace_id, id, source_id, line, raw, code, at, character, kept)
       select $1, $4, $2 - 1 + row_number() over (order by line, n), $3, line, raw, code, at, character, kept from incoming_problems`,
      [change.takeIds(count), source, change.caller.workspace],
    );
  return count;
}

/** What this job did before its process died, if it had got so far. */
async function resultOf(caller: PlanCaller, job: string): Promise<ImportResult | null> {
  const [done] = await select<ImportResult>(
    caller.database,
    `select s.id as source,
       (select count(*) from mentions m where m.plan_id = s.plan_id and m.source_id = s.id and m.keyword_id > s.id)::int as added,
       (select count(*) from mentions m where m.plan_id = s.plan_id and m.source_id = s.id and m.keyword_id < s.id)::int as "alreadyThere",
       (select count(*) from negatives n where n.plan_id = s.plan_id and n.source_id = s.id)::int as negatives,
       (select count(*) from line_problems l where l.plan_id = s.plan_id and l.source_id = s.id)::int as problems,
       ${typesByHand('s.plan_id', 's.id')} as "byHand",
       null as figures
     from sources s where s.plan_id = $1 and s.job_id = $2`,
    [caller.plan, job],
  );
  return done ?? null;
}
