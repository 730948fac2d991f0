import { problemWords } from '@sprig/contracts';
import { bitOf, readNotation } from '@sprig/core/match';
import { normalise } from '@sprig/core/text';
import { type Change, inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { changedMeanwhile, notFound, SprigFailure } from '../../platform/failure.ts';
import { noteMadeAs } from '../mix/index.ts';
import { refreshBlocks } from '../prune/index.ts';
import { giveFigures } from './given-figures.ts';
import { giveTypes } from './given-types.ts';

export function setCut(
  caller: PlanCaller,
  ids: readonly number[],
  cut: boolean,
): Promise<{ revision: number }> {
  const label = (changed: number) =>
    cut ? `Cut ${counted(changed, 'keyword')}` : `Put back ${counted(changed, 'keyword')}`;
  return inChange(caller, label, (change) => change.update('keywords', ids, { cut }));
}

export type KeywordEdit =
  | { field: 'text'; before: string; after: string }
  | { field: 'searches'; before: number | null; after: number | null }
  | { field: 'cpc'; before: number | null; after: number | null };

/** Changes a keyword by hand. A figure given by hand stands on top of every source's. */
export function editKeyword(
  caller: PlanCaller,
  id: number,
  edit: KeywordEdit,
): Promise<{ revision: number }> {
  const words = { text: 'Change a keyword', searches: 'Set monthly searches', cpc: 'Set a CPC estimate' };
  return inChange(caller, words[edit.field], async (change) => {
    const [stored] = await change.find('keywords', {
      columns: ['text', 'norm', 'searches', 'cpc'],
      where: { id },
      lock: true,
    });
    if (!stored) throw notFound('keyword');
    if (stored[edit.field] !== edit.before) throw changedMeanwhile(edit.field, stored[edit.field]);
    if (edit.field === 'text') await rename(change, id, edit.after);
    else await giveFigures(change, 'hand', [{ id, [edit.field]: edit.after }]);
  });
}

async function rename(change: Change, id: number, typed: string) {
  const read = readNotation(typed);
  if (read.status === 'problem') throw new SprigFailure('invalid', problemWords(read), { at: 'text' });
  if (read.negative)
    throw new SprigFailure('invalid', 'A negative is no keyword: it is blocked in Prune, or in Build.', {
      at: 'text',
    });
  const norm = normalise(read.text);
  const [other] = await change.find('keywords', { columns: ['id'], where: { norm } });
  if (other && other.id !== id)
    throw new SprigFailure('invalid', `“${norm}” is in the pool already.`, { at: 'text' });
  if (read.type !== null)
    await giveTypes(change, [{ ids: [id], types: bitOf(read.type), marks: read.marks }]);
  await noteMadeAs(change, [id]);
  await change.update('keywords', [id], { text: read.text, norm });
  await refreshBlocks(change, id, id);
}

/** Keeps estimated CPCs as a source of their own, which can be removed like any. */
export function takeEstimatedCpcs(
  caller: PlanCaller,
  taken: readonly { id: number; cpc: number | null }[],
): Promise<{ revision: number }> {
  return inChange(caller, `Take ${counted(taken.length, 'estimated CPC')}`, (change) =>
    giveFigures(change, 'estimates', taken),
  );
}
