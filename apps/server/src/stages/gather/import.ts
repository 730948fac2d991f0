import { type ImportResult, readOptions } from '@sprig/contracts';
import {
  type Encoding,
  figuresOf,
  guessEncoding,
  type Merged,
  mergeIntoPool,
  type PoolKeyword,
  type Reading,
  type ReadKeyword,
  readList,
} from '@sprig/core/gather';
import { z } from 'zod';
import type { PlanCaller } from '../../caller.ts';
import { type Change, inChange } from '../../change/index.ts';
import { select } from '../../database/connect.ts';
import { SprigFailure } from '../../failure.ts';
import type { JobContext } from '../../jobs/context.ts';
import { refreshKeywords } from './sources.ts';
import { readUpload } from './uploads.ts';

const importInput = z.object({
  upload: z.uuid(),
  kind: z.enum(['paste', 'file']),
  name: z.string(),
  options: readOptions,
});

/** Takes an uploaded list into the pool, all of it or nothing. Run again after a crash it does it once. */
export async function importJob(context: JobContext): Promise<ImportResult> {
  const { caller } = context;
  const input = importInput.parse(context.input);
  const before = await resultOf(caller, context.id);
  if (before) return before;
  await context.phase('reading');
  const reading = readList(decode(await readUpload(caller, input.upload)), input.options);
  if (reading.counts.lines === 0)
    throw new SprigFailure('invalid', 'The list is empty: there is no line with a keyword in it.');
  await context.phase('taking in', 0, reading.keywords.length);
  const { result } = await inChange(
    caller,
    (done: ImportResult) => `Take in ${done.added.toLocaleString('en')} keywords from ${input.name}`,
    (change) =>
      takeIn(change, reading, { ...input, job: context.id }, (done) =>
        context.phase('taking in', done, reading.keywords.length),
      ),
  );
  return result;
}

type From = { kind: 'paste' | 'file'; name: string; job: string | null };
type Tell = (done: number) => Promise<void>;

const utf8 = new TextDecoder('utf-8', { fatal: true });

function isUtf8(bytes: Uint8Array): boolean {
  try {
    utf8.decode(bytes);
    return true;
  } catch {
    return false;
  }
}

const PROBLEMS = {
  'empty-file': 'The file is empty. Choose one that has a keyword on each line.',
  'binary-file':
    'This is no text: it may be a picture or a program. Save the list as CSV or as plain text and try again.',
} as const;

export function decode(bytes: Uint8Array): string {
  const guess = guessEncoding(bytes, isUtf8);
  if (guess.status === 'problem') throw new SprigFailure('invalid', PROBLEMS[guess.code], { at: guess.code });
  return new TextDecoder(guess.encoding satisfies Encoding).decode(bytes.subarray(guess.bomLength));
}

/** Takes what a list says into the pool, within a change. */
export async function takeIn(
  change: Change,
  reading: Reading,
  from: From,
  tell: Tell = async () => {},
): Promise<ImportResult> {
  const pool = await poolByNorm(change, reading.keywords);
  const source = change.takeIds(1);
  const merged = mergeIntoPool(reading.keywords, (norm) => pool.get(norm), source);
  await change.insert('sources', [
    {
      id: source,
      kind: from.kind,
      name: from.name,
      made_at: new Date().toISOString(),
      actor_id: change.caller.actor,
      lines: reading.counts.lines,
      repeated: reading.counts.repeated + reading.counts.askedAgain,
      job_id: from.job,
    },
  ]);
  const ids = await keepKeywords(change, merged, source);
  await tell(merged.added.length);
  await keepMentions(change, merged, ids, source);
  await refreshKeywords(change, await setByHand(change, merged));
  const negatives = await keepNegatives(change, reading, source);
  await keepProblems(change, reading, source);
  return {
    source,
    added: merged.added.length,
    alreadyThere: merged.met.length,
    negatives,
    problems: reading.problems.length,
  };
}

async function poolByNorm(
  change: Change,
  keywords: readonly ReadKeyword[],
): Promise<Map<string, PoolKeyword>> {
  const rows = await change.rows<PoolKeyword>(
    `select id, norm, asked, marks, searches, searches_about as "searchesAbout", cpc, cpc_about as "cpcAbout", figures_from as "from"
     from keywords where plan_id = $1 and norm = any($2::text[])`,
    [keywords.map(({ norm }) => norm)],
  );
  return new Map(rows.map((row) => [row.norm, row]));
}

const figureColumns = (figures: ReturnType<typeof figuresOf>) => ({
  searches: figures.searches,
  searches_about: figures.searchesAbout,
  cpc: figures.cpc,
  cpc_about: figures.cpcAbout,
});

async function keepKeywords(change: Change, { added, met }: Merged, source: number): Promise<number> {
  const first = change.takeIds(added.length);
  await change.insert(
    'keywords',
    added.map(({ text, norm, asked, marks, searches, cpc }, at) => {
      const figures = figuresOf(searches, cpc, source);
      return {
        id: first + at,
        text,
        norm,
        asked,
        marks,
        cut: false,
        ...figureColumns(figures),
        figures_from: figures.from,
      };
    }),
  );
  const changed = met.filter((one) => one.changed);
  await change.updateEach(
    'keywords',
    changed.map(({ pool }) => ({
      id: pool.id,
      asked: pool.asked,
      marks: pool.marks,
      ...figureColumns(pool),
      figures_from: pool.from,
    })),
    ['asked', 'marks', 'searches', 'searches_about', 'cpc', 'cpc_about', 'figures_from'],
  );
  return first;
}

async function keepMentions(change: Change, { added, met }: Merged, first: number, source: number) {
  const all = [
    ...added.map((keyword, at) => ({ keyword, id: first + at })),
    ...met.map(({ keyword, pool }) => ({ keyword, id: pool.id })),
  ];
  await change.insert(
    'mentions',
    all.map(({ keyword: { line, asked, marks, searches, cpc, extra }, id }) => ({
      source_id: source,
      keyword_id: id,
      line,
      asked,
      marks,
      ...figureColumns(figuresOf(searches, cpc, source)),
      extra,
    })),
  );
}

/** Keywords of the list that carry a figure given by hand: that stays on top. */
async function setByHand(change: Change, { met }: Merged): Promise<number[]> {
  const rows = await change.rows<{ id: number }>(
    `select m.keyword_id as id from mentions m join sources s on s.plan_id = m.plan_id and s.id = m.source_id
     where m.plan_id = $1 and s.kind = 'hand' and m.keyword_id = any($2::int[])`,
    [met.map(({ pool }) => pool.id)],
  );
  return rows.map(({ id }) => id);
}

/** Pasted negatives become the plan's; without a match type of their own they are broad, the widest. */
async function keepNegatives(change: Change, { negatives }: Reading, source: number): Promise<number> {
  if (negatives.length === 0) return 0;
  const there = await change.rows<{ place: string }>(
    `select match_type || ':' || norm as place from negatives where plan_id = $1`,
  );
  const known = new Set(there.map(({ place }) => place));
  const fresh: { text: string; norm: string; match_type: string; source_id: number }[] = [];
  for (const { text, norm, type } of negatives) {
    const match = type === null || type === 'modified' ? 'broad' : type;
    if (known.has(`${match}:${norm}`)) continue;
    known.add(`${match}:${norm}`);
    fresh.push({ text, norm, match_type: match, source_id: source });
  }
  const first = change.takeIds(fresh.length);
  await change.insert(
    'negatives',
    fresh.map((row, at) => ({ id: first + at, ...row })),
  );
  return fresh.length;
}

async function keepProblems(change: Change, { problems }: Reading, source: number) {
  const first = change.takeIds(problems.length);
  await change.insert(
    'line_problems',
    problems.map(({ line, raw, code, at, character, kept }, n) => ({
      id: first + n,
      source_id: source,
      line,
      raw,
      code,
      at,
      character: character ?? null,
      kept,
    })),
  );
}

/** What this job did before its process died, if it had got so far. */
async function resultOf(caller: PlanCaller, job: string): Promise<ImportResult | null> {
  const [done] = await select<ImportResult>(
    caller.database,
    `select s.id as source,
       (select count(*) from keywords k join mentions m on m.plan_id = k.plan_id and m.keyword_id = k.id
        where m.plan_id = s.plan_id and m.source_id = s.id and not exists (
          select from mentions o where o.plan_id = s.plan_id and o.keyword_id = k.id and o.source_id < s.id))::int as added,
       (select count(*) from mentions m where m.plan_id = s.plan_id and m.source_id = s.id and exists (
          select from mentions o where o.plan_id = s.plan_id and o.keyword_id = m.keyword_id and o.source_id < s.id))::int as "alreadyThere",
       (select count(*) from negatives n where n.plan_id = s.plan_id and n.source_id = s.id)::int as negatives,
       (select count(*) from line_problems l where l.plan_id = s.plan_id and l.source_id = s.id)::int as problems
     from sources s where s.plan_id = $1 and s.job_id = $2`,
    [caller.plan, job],
  );
  return done ?? null;
}
