import type { Negative } from '@sprig/contracts';
import type { NegativeType } from '@sprig/core/match';
import { firstNotAllowed, normalise, tidy } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { refreshBlocks } from './blocks.ts';
import { addToShared, tellOthers } from './shared-lists.ts';

export const listNegatives = ({ database, workspace, plan }: PlanCaller): Promise<Negative[]> =>
  select<Negative>(
    database,
    `select id, text, norm, match_type as type, reason, source_id as source
     from negatives where plan_id = $1 and workspace_id = $2 order by id`,
    [plan, workspace],
  );

export type NewNegative = { text: string; type: NegativeType };
type Where = { reason: 'hand' | 'block'; list?: number };
export type Added = { added: number; blocked: number };

/** Adds negatives to the plan or to a shared list that it then attaches; those that are there already are left. */
export async function addNegatives(
  caller: PlanCaller,
  negatives: readonly NewNegative[],
  where: Where,
): Promise<{ revision: number } & Added> {
  const label = ({ added }: Added) =>
    where.reason === 'block'
      ? `Block ${counted(added, 'word')}`
      : `Add ${counted(added, 'negative keyword')}`;
  const { revision, result } = await inChange(caller, label, async (change) => {
    const rows = soundNegatives(negatives);
    const added =
      where.list === undefined
        ? await addToPlan(change, rows, where)
        : await addToShared(change, where.list, rows);
    if (where.list !== undefined) await tellOthers(change, where.list);
    return { added, blocked: await refreshBlocks(change) };
  });
  return { revision, ...result };
}

type SoundNegative = { text: string; norm: string; match_type: NegativeType };

/** What was typed, each once; one that can't be read names itself. */
export function soundNegatives(negatives: readonly NewNegative[]): SoundNegative[] {
  const rows = new Map<string, SoundNegative>();
  for (const { text, type } of negatives) {
    const bad = firstNotAllowed(tidy(text));
    if (bad)
      throw new SprigFailure(
        'invalid',
        `“${tidy(text)}” holds ${bad.character} (column ${bad.at + 1}), which a keyword may not. Take it out.`,
        { at: 'text' },
      );
    const norm = normalise(text);
    rows.set(`${type}:${norm}`, { text: tidy(text), norm, match_type: type });
  }
  return [...rows.values()];
}

export async function addToPlan(
  change: Change,
  rows: readonly SoundNegative[],
  { reason }: Where,
): Promise<number> {
  const there = await change.rows<{ id: number; place: string; reason: string }>(
    `select id, match_type || ':' || norm as place, reason from negatives where plan_id = $1`,
  );
  const known = new Map(there.map((row) => [row.place, row]));
  const fresh = rows.filter(({ match_type, norm }) => !known.has(`${match_type}:${norm}`));
  const turned = rows.flatMap(({ match_type, norm }) => {
    const row = known.get(`${match_type}:${norm}`);
    return row && row.reason !== reason && reason === 'block' ? [row.id] : [];
  });
  const first = change.takeIds(fresh.length);
  await change.insert(
    'negatives',
    fresh.map((row, at) => ({ id: first + at, ...row, source_id: null, level: 'plan', reason })),
  );
  // One that blocks is the plan's own, whatever source had brought it.
  await change.update('negatives', turned, { reason, source_id: null });
  return fresh.length + turned.length;
}

export function setReason(
  caller: PlanCaller,
  ids: readonly number[],
  reason: 'hand' | 'block',
): Promise<{ revision: number }> {
  const label = (changed: number) =>
    reason === 'block'
      ? `Let ${counted(changed, 'negative keyword')} block the pool`
      : `Let ${counted(changed, 'negative keyword')} leave the pool alone`;
  return inChange(caller, label, async (change) => {
    const changed = await change.update(
      'negatives',
      ids,
      reason === 'block' ? { reason, source_id: null } : { reason },
    );
    await refreshBlocks(change);
    return changed;
  });
}

export const removeNegatives = (caller: PlanCaller, ids: readonly number[]): Promise<{ revision: number }> =>
  inChange(
    caller,
    (removed: number) => `Remove ${counted(removed, 'negative keyword')}`,
    async (change) => {
      const removed = await change.remove(
        'negatives',
        ids.map((id) => ({ id })),
      );
      await refreshBlocks(change);
      return removed;
    },
  );

export async function keptWords({ database, workspace, plan }: PlanCaller): Promise<string[]> {
  const rows = await select<{ text: string }>(
    database,
    'select text from word_verdicts where plan_id = $1 and workspace_id = $2 order by id',
    [plan, workspace],
  );
  return rows.map(({ text }) => text);
}

/** Judges words to be kept, or takes that back. */
export function keepWords(
  caller: PlanCaller,
  words: readonly string[],
  keep: boolean,
): Promise<{ revision: number }> {
  const norms = [...new Set(words.map(normalise))].filter((norm) => norm !== '');
  const label = (changed: number) =>
    keep ? `Keep ${counted(changed, 'word')}` : `Ask about ${counted(changed, 'word')} again`;
  return inChange(caller, label, async (change) => {
    const there = await change.find('word_verdicts', { columns: ['id', 'text'], where: { text: norms } });
    if (!keep) {
      if (there.length === 0) throw notFound('kept word');
      return change.remove(
        'word_verdicts',
        there.map(({ id }) => ({ id })),
      );
    }
    const known = new Set(there.map(({ text }) => text));
    const fresh = norms.filter((norm) => !known.has(norm));
    const first = change.takeIds(fresh.length);
    await change.insert(
      'word_verdicts',
      fresh.map((text, at) => ({ id: first + at, text })),
    );
    return fresh.length;
  });
}
