import type * as api from '@sprig/contracts';
import { TOKEN_PREFIX, type TokenView } from '@sprig/contracts';
import type { Sequelize } from 'sequelize';
import type { z } from 'zod';
import { execute, select } from '../db/connect.ts';
import type { Sender } from '../platform/caller.ts';
import { notFound, SprigFailure } from '../platform/failure.ts';
import { log } from '../platform/log.ts';
import { inMembers, noteBy, type Owner } from './members.ts';
import { keyOf, newToken } from './secrets.ts';
import { tellOfActors } from './standing/index.ts';

/** When it was last used is noted no more often than this. */
const NOTE_MS = 60_000;

type Found = Omit<Sender, 'database'> & { id: number };

/** Knows programs by the tokens that they send. */
export class Tokens {
  private readonly noted = new Map<number, number>();

  constructor(private readonly database: Sequelize) {}

  /** Who asks by `Bearer sprig_…`. Fails where it is no token that works: a program is not to go on as nobody. */
  async callerOf(authorization: string): Promise<Omit<Sender, 'database'>> {
    const [, token] = new RegExp(`^Bearer (${TOKEN_PREFIX}[\\w-]{43})$`).exec(authorization) ?? [];
    const [found] = token
      ? await select<Found>(
          this.database,
          `select t.id, t.workspace_id as workspace, a.id as actor, a.role, a.permissions
           from tokens t join actors a on a.id = t.actor_id
           where t.key = $1 and t.ended_at is null and t.ends_at > now() and a.removed_at is null`,
          [keyOf(token)],
        )
      : [];
    if (!found)
      throw new SprigFailure(
        'signed-out',
        'This token does not work: it was ended, is too old, or is not whole.',
      );
    this.note(found.id);
    const { id: _, ...caller } = found;
    return caller;
  }

  private note(id: number): void {
    const now = Date.now();
    if (now - (this.noted.get(id) ?? 0) < NOTE_MS) return;
    this.noted.set(id, now);
    execute(this.database, 'update tokens set used_at = now() where id = $1', [id]).catch((error: unknown) =>
      log.warn({ error }, 'could not note that a token was used'),
    );
  }
}

type Row = Omit<TokenView, 'madeAt' | 'usedAt' | 'endsAt'> & { made: Date; used: Date | null; ends: Date };

/** The workspace's tokens that work, newest first. */
export async function listTokens({ database, workspace }: Sender): Promise<TokenView[]> {
  const rows = await select<Row>(
    database,
    `select t.id, a.name, coalesce(r.role, a.role) as role, a.permissions,
       case when t.plan_id is null then null else jsonb_build_object('id', t.plan_id, 'name', b.name) end as plan,
       m.name as from, t.made_at as made, t.used_at as used, t.ends_at as ends
     from tokens t join actors a on a.id = t.actor_id join actors m on m.id = t.made_by
     left join plan_roles r on r.plan_id = t.plan_id and r.actor_id = a.id left join briefs b on b.plan_id = t.plan_id
     where t.workspace_id = $1 and t.ended_at is null and t.ends_at > now() order by t.id desc`,
    [workspace],
  );
  return rows.map(({ made, used, ends, ...row }) => ({
    ...row,
    madeAt: made.toISOString(),
    usedAt: used?.toISOString() ?? null,
    endsAt: ends.toISOString(),
  }));
}

/**
 * Makes a token, and the actor that its program is in the history. One that is for a plan is a guest with a role there. It is
 * kept as a hash, and answered this once.
 */
export async function makeToken(
  owner: Owner,
  { name, role, permissions, plan, days }: z.output<typeof api.makeToken.body>,
): Promise<{ id: number; token: string }> {
  const { database, workspace } = owner;
  const token = `${TOKEN_PREFIX}${newToken()}`;
  const id = await inMembers(owner, async (transaction) => {
    if (plan !== null) {
      const found = await select(
        database,
        'select 1 from plans where id = $1 and workspace_id = $2',
        [plan, workspace],
        {
          transaction,
        },
      );
      if (found.length === 0) throw notFound('plan');
    }
    const [made] = await select<{ id: number; actor: number }>(
      database,
      `with a as (insert into actors (workspace_id, name, role, permissions) values ($1, $2, $3, $4) returning id)
       insert into tokens (workspace_id, actor_id, key, plan_id, made_by, ends_at)
       select $1, a.id, $5, $6, $7, now() + $8 * interval '1 day' from a returning id, actor_id as actor`,
      [workspace, name, plan === null ? role : 'guest', permissions, keyOf(token), plan, owner.actor, days],
      { transaction },
    );
    if (!made) throw new Error('A token was not made.');
    if (plan !== null)
      await execute(
        database,
        'insert into plan_roles (workspace_id, plan_id, actor_id, role) values ($1, $2, $3, $4)',
        [workspace, plan, made.actor, role],
        { transaction },
      );
    await noteBy(owner, 'token-made', `${name}, ${role}`, transaction);
    return made.id;
  });
  return { id, token };
}

export async function endToken(owner: Owner, id: number): Promise<void> {
  const { database, workspace } = owner;
  await inMembers(owner, async (transaction) => {
    const [gone] = await select<{ actor: number; name: string }>(
      database,
      `with t as (update tokens set ended_at = now() where id = $1 and workspace_id = $2 and ended_at is null returning actor_id)
       update actors a set removed_at = now() from t where a.id = t.actor_id returning a.id as actor, a.name`,
      [id, workspace],
      { transaction },
    );
    if (!gone) throw notFound('token');
    await tellOfActors(database, transaction, [gone.actor]);
    await noteBy(owner, 'token-ended', gone.name, transaction);
  });
}
