import { type KeptLook, MOST_LOOKS, type ShownLook, shownLook } from '@sprig/contracts';
import { z } from 'zod';
import { find } from '../../db/rows.ts';
import { inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';

const lookBody = z.object({ name: z.string(), look: shownLook });

/** Kept looks by their names. One that a newer version kept, and that can't be read here, is left out. */
export async function listLooks(caller: PlanCaller): Promise<KeptLook[]> {
  const rows = await find(caller, 'looks', { columns: ['id', 'body'], order: ['id'] });
  return rows
    .flatMap(({ id, body }) => {
      const read = lookBody.safeParse(body);
      return read.success ? [{ id, ...read.data }] : [];
    })
    .sort((a, b) => a.name.localeCompare(b.name, 'en'));
}

const sameName = (a: string, b: string): boolean => a.trim().toLowerCase() === b.trim().toLowerCase();

export const keepLook = (caller: PlanCaller, name: string, look: ShownLook): Promise<{ revision: number }> =>
  inChange(caller, `Keep the look ${name.trim()}`, async (change) => {
    const all = await change.find('looks', { columns: ['id', 'body'], lock: true });
    const body = { name: name.trim(), look };
    const there = all.find((one) => sameName(String((one.body as { name?: unknown }).name ?? ''), name));
    if (there) {
      await change.update('looks', [there.id], { body });
      return;
    }
    if (all.length >= MOST_LOOKS)
      throw new SprigFailure('invalid', `Up to ${MOST_LOOKS} looks are kept. Take one away first.`, {
        at: 'name',
      });
    await change.insert('looks', [{ id: change.takeIds(1), body }]);
  });

export async function removeLook(caller: PlanCaller, id: number): Promise<{ revision: number }> {
  const [there] = await find(caller, 'looks', { columns: ['body'], where: { id } });
  if (!there) throw notFound('look');
  const { name } = there.body as { name?: string };
  return inChange(caller, `Take away the look ${name ?? ''}`, async (change) => {
    if ((await change.remove('looks', [{ id }])) === 0) throw notFound('look');
  });
}
