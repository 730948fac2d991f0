import type { RefusedRow } from '@sprig/contracts';
import { matchTypes } from '@sprig/core/match';
import { decimalsOf } from '@sprig/core/money';
import type { Outlet } from '@sprig/core/outlets';
import {
  joinCells,
  type Known,
  keyOf,
  kindOfRow,
  packRow,
  type ReadRow,
  readSheet,
  type SheetProblem,
  splitCells,
  toldAd,
  toldValues,
} from '@sprig/core/sheets';
import { type AdField, isAdField } from '@sprig/core/write';
import type { Transaction } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import { currencyOf } from '../../plan/currency-of.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { notify } from '../../platform/jobs/notify.ts';
import { decodedUpload } from '../gather/index.ts';
import { reviewAds } from '../write/index.ts';
import { forgetKnown, knownBy, stateStore } from './known-set.ts';
import { readAtOnce } from './moment.ts';
import { PlanRows } from './plan-rows.ts';
import { assertLatest, filesOfSet, lastSet, type SetRow, setOf } from './receipts.ts';
import { placeOf } from './shipment.ts';

/** A row that the outlet refused: where it stands, which it is, and why. */
export type Refusal = { file: string; line: number; key: string; reason: string };
export type AnswerSummary = { taken: number; refused: number; strange: number };

/** A sheet longer than this is no answer that one reads. */
const MOST_ANSWER = 100_000_000;

/** Reads the answer sheet that an engine gave to a set, and keeps what it says. */
export async function readAnswer(caller: PlanCaller, set: string, upload: string, name: string) {
  const row = await setOf(caller, set);
  let text = '';
  for await (const part of await decodedUpload(caller, upload)) {
    text += part;
    if (text.length > MOST_ANSWER)
      throw new SprigFailure('too-large', 'An answer of up to 100 MB can be read. Split it.');
  }
  const decimals = decimalsOf(await currencyOf(caller, null));
  const read = readSheet(text, row.profile, decimals, name);
  const known = read.problems.find(
    ({ code }) => code === 'other-sheet' || code === 'no-heading' || code === 'column-missing',
  );
  if (known) throw new SprigFailure('invalid', answerWords(known, row.profile), { at: 'upload' });
  const refusals = read.rows.filter(({ refusal }) => refusal !== '').map((one) => refusalOf(name, one));
  const summary = await keepAnswer(caller, set, refusals);
  return { summary, problems: read.problems };
}

export const refusalOf = (file: string, { line, row, refusal }: ReadRow): Refusal => ({
  file,
  line,
  key: keyOf(row),
  reason: refusal,
});

function answerWords({ code, column }: SheetProblem, { name, answer }: Outlet): string {
  if (code === 'column-missing') return `The answer has no column “${column}”, by which its rows are told.`;
  if (code === 'no-heading') return 'The answer is empty.';
  return `This is no sheet of ${name}: its headings are others. The reasons are looked for under “${answer.refusal}”.`;
}

/**
 * Keeps which rows of a set were refused: the outlet has them as it had them before, so the next difference tells them
 * again. `also` is kept with it, or neither is.
 */
export async function keepAnswer(
  caller: PlanCaller,
  set: string,
  refusals: readonly Refusal[],
  also: (transaction: Transaction) => Promise<void> = async () => {},
): Promise<AnswerSummary> {
  const kept = await caller.database.transaction(async (transaction) => {
    // A look that is under way may keep what the outlet has: what it has is another from here on.
    await execute(caller.database, 'select 1 from sheet_sets where id = $1 for update', [set], {
      transaction,
    });
    const row = await setOf(caller, set, transaction);
    await assertLatest(caller, row, transaction);
    const values = toldValues(row.profile);
    const state = await knownBy(caller, row, values, transaction);
    const before = await knownBy(
      caller,
      await lastSet(caller, row.outlet, transaction, row.n),
      values,
      transaction,
    );
    const known = refusals.flatMap((one) => {
      const key = putBack(one.key, state, before);
      return key === null ? [] : [{ ...one, key }];
    });
    const all = filesOfSet(row).reduce(
      (sum, { kind, rows }) =>
        kind === 'combined' || row.profile.sheets.every((sheet) => sheet.kind !== 'combined')
          ? sum + rows
          : sum,
      0,
    );
    const summary = {
      taken: Math.max(0, all - known.length),
      refused: known.length,
      strange: refusals.length - known.length,
    };
    await writeState(caller, row, state, transaction);
    await execute(caller.database, 'delete from refused_rows where set_id = $1', [set], { transaction });
    await execute(
      caller.database,
      `insert into refused_rows (set_id, n, workspace_id, row_key, file, line, reason)
       select $1, r.n, $2, r.key, r.file, r.line, r.reason from jsonb_to_recordset($3::jsonb) as r(n int, key text, file text, line int, reason text)`,
      [set, caller.workspace, JSON.stringify(known.map((one, n) => ({ ...one, n })))],
      { transaction },
    );
    await execute(
      caller.database,
      'update sheet_sets set state = $2, answer = $3, told = $4, judged = judged + 1 where id = $1',
      [set, summary.refused === 0 ? 'accepted' : 'answered', JSON.stringify(summary), JSON.stringify(values)],
      { transaction },
    );
    await also(transaction);
    await notify(caller.database, transaction, { type: 'shipped', plan: caller.plan });
    return { row, summary, known };
  });
  await reviewRefusedAds(caller, kept.row, kept.known);
  return kept.summary;
}

/** Makes what is refused stand as it stood before; null where the outlet never heard of it. */
function putBack(key: string, state: Known, before: Known): string | null {
  for (const one of sameRows(key)) {
    const old = before.get(one);
    if (!state.has(one) && old === undefined) continue;
    if (old !== undefined) state.set(one, old);
    else state.delete(one);
    return one;
  }
  return null;
}

/** Where an outlet does not tell match types its answer can not either: any of them is meant. */
function sameRows(key: string): string[] {
  const kind = kindOfRow(key);
  if (kind !== 'keyword' && kind !== 'negative') return [key];
  const parts = splitCells(key);
  return [key, ...matchTypes.map((type) => joinCells([...parts.slice(0, 3), type, ...parts.slice(4)]))];
}

async function writeState(caller: PlanCaller, { id }: SetRow, state: Known, transaction: Transaction) {
  await execute(caller.database, 'delete from outlet_states where set_id = $1', [id], { transaction });
  await forgetKnown(caller, id, transaction);
  const store = stateStore(id, (sql, bind) => execute(caller.database, sql, bind, { transaction }));
  for (const [key, known] of state) {
    store.add(packRow(key, known));
    await store.settle();
  }
  await store.done();
}

/** Ads that were refused are marked so in Write, with the reason. */
async function reviewRefusedAds(
  caller: PlanCaller,
  { profile }: SetRow,
  refusals: readonly Refusal[],
): Promise<void> {
  const reasons = new Map(
    refusals.filter(({ key }) => kindOfRow(key) === 'ad').map(({ key, reason }) => [key, reason]),
  );
  if (reasons.size === 0) return;
  const byReason = new Map<string, string[]>();
  const told = new Set<string>(toldValues(profile).ad);
  await readAtOnce(caller, async (reading) => {
    const plan = new PlanRows(caller, reading, profile);
    await plan.open();
    for await (const { groups } of plan.parts())
      for (const { ads, written } of groups)
        ads.forEach((ad, at) => {
          const reason = reasons.get(keyOf(toldAd(ad, told)));
          const key = written[at]?.key;
          if (reason !== undefined && key !== undefined)
            byReason.set(reason, [...(byReason.get(reason) ?? []), key]);
        });
  });
  for (const [reason, keys] of byReason)
    await reviewAds(caller, keys, 'refused', `${profile.name}: ${reason}`, fieldIn(reason), profile.key);
}

/** The field that a reason speaks of: only its text is remembered as refused. */
function fieldIn(reason: string): AdField[] | null {
  const word = /^[a-z]+\d+/.exec(reason)?.[0] ?? '';
  return isAdField(word) ? [word] : null;
}

/** Rows of a set that were refused, the first few hundred. */
export async function listRefusals(
  caller: PlanCaller,
  set: string,
): Promise<{ total: number; rows: RefusedRow[] }> {
  await setOf(caller, set);
  const rows = await select<{ row_key: string; file: string; line: number; reason: string; total: number }>(
    caller.database,
    `select row_key, file, line, reason, (count(*) over ())::int as total from refused_rows
     where set_id = $1 and workspace_id = $2 order by n limit 500`,
    [set, caller.workspace],
  );
  return {
    total: rows[0]?.total ?? 0,
    rows: rows.map(({ row_key, file, line, reason }) => ({ file, line, ...placeOf(row_key), reason })),
  };
}
