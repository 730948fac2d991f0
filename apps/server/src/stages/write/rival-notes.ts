import { MOST_RIVAL_NOTES, type RivalNote } from '@sprig/contracts';
import { ListedWords } from '@sprig/core/text';
import { find } from '../../db/rows.ts';
import { inChange } from '../../plan/change/index.ts';
import { planFacts } from '../../plan/plan-facts.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';

export async function listRivalNotes(caller: PlanCaller): Promise<RivalNote[]> {
  const rows = await find(caller, 'rival_notes', { columns: ['id', 'body'], order: ['id'] });
  return rows.map(({ id, body }) => ({ id, ...body }));
}

/** Keeps a rival's ad; with `ban` its name is put among those that are not to be used. */
export async function addRivalNote(
  caller: PlanCaller,
  { note, ban }: { note: Omit<RivalNote, 'id'>; ban: boolean },
): Promise<{ revision: number; id: number }> {
  const rival = note.rival.trim();
  const { revision, result } = await inChange(caller, `Note an ad of ${rival}`, async (change) => {
    const [there] = await change.rows<{ count: number }>(
      'select count(*)::int as count from rival_notes where plan_id = $1',
    );
    if ((there?.count ?? 0) >= MOST_RIVAL_NOTES)
      throw new SprigFailure('invalid', `A plan has up to ${MOST_RIVAL_NOTES} notes. Remove one first.`, {
        at: 'note',
      });
    const id = change.takeIds(1);
    await change.insert('rival_notes', [{ id, body: { ...note, rival, text: note.text.trim() } }]);
    if (ban) {
      const facts = await planFacts(caller, change.transaction);
      const isListed = new ListedWords(facts.rivals).in(rival) !== null;
      if (!isListed)
        await change.update('facts', [1], { body: { ...facts, rivals: [...facts.rivals, rival] } });
    }
    return id;
  });
  return { revision, id: result };
}

export const removeRivalNote = (caller: PlanCaller, id: number) =>
  inChange(caller, 'Remove the note of an ad', async (change) => {
    const rows = await change.find('rival_notes', { columns: ['id'], where: { id }, lock: true });
    if (rows.length === 0) throw notFound('note');
    await change.remove('rival_notes', [{ id }]);
  });
