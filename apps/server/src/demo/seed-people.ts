import type { Permission, Role } from '@sprig/contracts';
import type { Sequelize, Transaction } from 'sequelize';
import { execute, select } from '../db/connect.ts';
import type { Caller } from '../platform/caller.ts';

type DemoPerson = { name: string; email: string; role: Role; permissions: Permission[] };

/** The made-up people of the demo: one plans and ships, one writes, one decides. None has a password. */
const PEOPLE: readonly DemoPerson[] = [
  { name: 'Maren Oakhill', email: 'maren@saltmarshpaddle.example', role: 'owner', permissions: ['ship'] },
  { name: 'Tobin Wexfield', email: 'tobin@saltmarshpaddle.example', role: 'writer', permissions: [] },
  { name: 'Ada Thornwick', email: 'ada@saltmarshpaddle.example', role: 'reader', permissions: ['approve'] },
];

const WORKSPACE = 'Harbour Desk';

/**
 * Makes the people of the demo where nobody is there yet, in the workspace that is nobody's, and answers who plans; null: real
 * people are there, and the demo is left out.
 */
export async function seedDemoPeople(database: Sequelize): Promise<Omit<Caller, 'database'> | null> {
  return database.transaction(async (transaction) => {
    const [planner] = await select<{ workspace: number; actor: number }>(
      database,
      `select a.workspace_id as workspace, a.id as actor from actors a join people p on p.id = a.person_id
       where p.is_demo and a.removed_at is null order by p.id limit 1`,
      [],
      { transaction },
    );
    if (planner) return planner;
    const real = await select(database, 'select 1 from people limit 1', [], { transaction });
    if (real.length > 0) return null;
    return makePeople(database, transaction);
  });
}

async function makePeople(database: Sequelize, transaction: Transaction): Promise<Omit<Caller, 'database'>> {
  const [first] = await select<{ workspace: number; actor: number }>(
    database,
    'select workspace_id as workspace, id as actor from actors where person_id is null order by id limit 1',
    [],
    { transaction },
  );
  if (!first) throw new Error('There is no actor whom the demo could be of.');
  await execute(database, 'update workspaces set name = $2 where id = $1', [first.workspace, WORKSPACE], {
    transaction,
  });
  for (const [at, { name, email, role, permissions }] of PEOPLE.entries()) {
    const [person] = await select<{ id: number }>(
      database,
      'insert into people (email, name, is_demo) values ($1, $2, true) returning id',
      [email, name],
      { transaction },
    );
    // What was done before there were people is the planner's.
    await execute(
      database,
      at === 0
        ? 'update actors set person_id = $2, name = $3, role = $4, permissions = $5 where id = $6 and workspace_id = $1'
        : 'insert into actors (workspace_id, person_id, name, role, permissions) select $1, $2, $3, $4, $5 where $6::int is not null',
      [first.workspace, person?.id ?? 0, name, role, permissions, first.actor],
      { transaction },
    );
  }
  return first;
}
