import { type PlanOutletBody, planOutletBody } from '@sprig/contracts';
import { type Outlet, plainOutlet } from '@sprig/core/outlets';
import type { Transaction } from 'sequelize';
import { type Change, inChange } from '../../plan/change/index.ts';
import {
  allOutlets,
  type ChosenOutlet,
  chosenOutlets,
  isShipped,
  outletOf,
  tellShippers,
} from '../../plan/outlets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';

const MOST_OUTLETS = 100;

/** An outlet as the plan has chosen it, or as it would. */
export async function usualChoice(
  caller: PlanCaller,
  outlet: Outlet,
  transaction: Transaction | null,
): Promise<ChosenOutlet> {
  const chosen = await chosenOutlets(caller, transaction);
  return (
    chosen.find((one) => one.outlet.key === outlet.key) ?? { id: 0, outlet, body: planOutletBody.parse({}) }
  );
}

export async function listOutlets(caller: PlanCaller) {
  const chosen = new Set((await chosenOutlets(caller)).map(({ outlet }) => outlet.key));
  return (await allOutlets(caller)).map((outlet) => ({
    outlet,
    own: !isShipped(outlet.key),
    chosen: chosen.has(outlet.key),
  }));
}

/** Keeps an outlet of the workspace. Those that come with the product stay as they are: a copy has a key of its own. */
export async function keepOutlet(caller: PlanCaller, key: string, outlet: Outlet, isNew: boolean) {
  const { revision } = await inChange(
    caller,
    `${isNew ? 'Make' : 'Change'} the outlet ${outlet.name}`,
    async (change) => {
      if (outlet.key !== key)
        throw new SprigFailure('invalid', 'The key is another than the address says.', { at: 'key' });
      if (isShipped(key))
        throw new SprigFailure(
          'invalid',
          'This key is of an outlet that comes with Green Sprig. Choose another one.',
          {
            at: 'key',
          },
        );
      await change.lockShared();
      const rows = await change.rows<{ id: number; key: string }>(
        'select o.id, o.key from outlets o join plans p on p.workspace_id = o.workspace_id where p.id = $1 for update of o',
      );
      const there = rows.find((row) => row.key === key);
      if (there && isNew)
        throw new SprigFailure('invalid', 'There is an outlet with this key. Choose another one.', {
          at: 'key',
        });
      if (!there && !isNew) throw notFound('outlet');
      if (there) {
        await change.update('outlets', [there.id], { body: outlet });
        await tellShippers(change, there.id);
        return there.id;
      }
      if (rows.length >= MOST_OUTLETS)
        throw new SprigFailure('invalid', `A workspace has up to ${MOST_OUTLETS} outlets. Remove one first.`);
      const [id = 0] = await change.takeSharedIds(1);
      await change.insert('outlets', [{ id, key, body: outlet }]);
      return id;
    },
  );
  return { revision };
}

export const removeOutlet = (caller: PlanCaller, key: string) =>
  inChange(caller, `Remove the outlet ${key}`, async (change) => {
    const used = await change.rows<{ plans: number }>(
      `select count(*)::int as plans from plan_outlets o join plans p on p.workspace_id = o.workspace_id
       where p.id = $1 and o.outlet = $2`,
      [key],
    );
    const plans = used[0]?.plans ?? 0;
    if (plans > 0)
      throw new SprigFailure(
        'invalid',
        `${plans === 1 ? 'A plan ships' : `${plans} plans ship`} to it. Take it out there first.`,
      );
    const [row] = await change.rows<{ id: number }>(
      'select o.id from outlets o join plans p on p.workspace_id = o.workspace_id where p.id = $1 and o.key = $2',
      [key],
    );
    if (!row) throw notFound('outlet of yours');
    await change.remove('outlets', [{ id: row.id }]);
  });

type Kept = { id: number; outlet: string; position: number };

/** Ships the plan to an outlet or no more, or keeps what is said of it there. */
export async function chooseOutlet(
  caller: PlanCaller,
  key: string,
  isChosen: boolean,
  body?: PlanOutletBody,
) {
  const outlet = await outletOf(caller, key);
  const label = body
    ? `Set up ${outlet.name}`
    : isChosen
      ? `Ship to ${outlet.name}`
      : `Ship to ${outlet.name} no more`;
  return inChange(caller, label, async (change) => {
    const rows = await writePlainDown(change);
    const there = rows.find((row) => row.outlet === key);
    if (there && !isChosen) {
      if (rows.length === 1)
        throw new SprigFailure('invalid', 'A plan ships to one outlet at least. Choose another one first.');
      await change.remove('plan_outlets', [{ id: there.id }]);
    } else if (there && body) await change.update('plan_outlets', [there.id], { body });
    else if (!there && isChosen)
      await change.insert('plan_outlets', [
        {
          id: change.takeIds(1),
          position: Math.max(-1, ...rows.map(({ position }) => position)) + 1,
          outlet: key,
          body: body ?? planOutletBody.parse({}),
        },
      ]);
  });
}

/** Where nobody has chosen yet plain sheets stand for the choice: they are written down before it is changed. */
export async function writePlainDown(change: Change): Promise<Kept[]> {
  const rows = await change.find('plan_outlets', { columns: ['id', 'outlet', 'position'], lock: true });
  if (rows.length > 0) return rows;
  const usual = { id: change.takeIds(1), outlet: plainOutlet.key, position: 0 };
  await change.insert('plan_outlets', [{ ...usual, body: planOutletBody.parse({}) }]);
  return [usual];
}
