import type { Permission, PlanRole, Role } from '@sprig/contracts';
import type { Sequelize, Transaction } from 'sequelize';
import { execute, select } from '../db/connect.ts';
import { SprigFailure } from '../platform/failure.ts';
import { keyOf, newToken } from './secrets.ts';

export type LinkKind = 'owner' | 'invitation' | 'reset';

/** What somebody is invited to. */
export type Invitation = {
  role: Role;
  permissions: Permission[];
  plans: { plan: number; role: PlanRole }[];
};

type NewLink = {
  kind: LinkKind;
  email?: string | null;
  person?: number | null;
  workspace?: number | null;
  madeBy?: number | null;
  body?: Invitation | Record<string, never>;
  hours: number;
};

/** Makes a link that works once, and answers its number and its token, which is kept nowhere. */
export async function makeLink(
  database: Sequelize,
  { kind, email = null, person = null, workspace = null, madeBy = null, body = {}, hours }: NewLink,
  transaction: Transaction | null = null,
): Promise<{ id: number; token: string }> {
  const token = newToken();
  const [row] = await select<{ id: number }>(
    database,
    `insert into links (key, kind, email, person_id, workspace_id, made_by, body, ends_at)
     values ($1, $2, $3, $4, $5, $6, $7, now() + $8 * interval '1 hour') returning id`,
    [keyOf(token), kind, email, person, workspace, madeBy, JSON.stringify(body), hours],
    { transaction },
  );
  return { id: row?.id ?? 0, token };
}

export type Link = {
  id: number;
  email: string | null;
  person: number | null;
  workspace: number | null;
  madeBy: number | null;
  body: Invitation;
};

const COLUMNS = 'id, email, person_id as person, workspace_id as workspace, made_by as "madeBy", body';
const IS_OPEN = 'used_at is null and ends_at > now()';

const gone = () =>
  new SprigFailure(
    'not-found',
    'This link works no more: it was used, taken back, or is too old. Ask for another one.',
  );

/** What a link is, as long as it works. */
export async function linkOf(
  database: Sequelize,
  token: string,
  kinds: readonly LinkKind[],
): Promise<Link & { kind: LinkKind }> {
  const [link] = await select<Link & { kind: LinkKind }>(
    database,
    `select ${COLUMNS}, kind from links where key = $1 and kind = any($2) and ${IS_OPEN}`,
    [keyOf(token), kinds],
  );
  if (!link) throw gone();
  return link;
}

/** Uses a link up; of two at once one is too late. */
export async function useLink(
  database: Sequelize,
  token: string,
  kind: LinkKind,
  transaction: Transaction,
): Promise<Link> {
  const [link] = await select<Link>(
    database,
    `update links set used_at = now() where key = $1 and kind = $2 and ${IS_OPEN} returning ${COLUMNS}`,
    [keyOf(token), kind],
    { transaction },
  );
  if (!link) throw gone();
  return link;
}

/** Links of these that were not used yet work no more. */
export async function endLinks(
  database: Sequelize,
  { kind, email, workspace }: { kind: LinkKind; email?: string; workspace?: number },
  transaction: Transaction | null = null,
): Promise<void> {
  await execute(
    database,
    `update links set ends_at = now() where kind = $1 and ${IS_OPEN}
       and ($2::text is null or email = $2) and ($3::int is null or workspace_id = $3)`,
    [kind, email ?? null, workspace ?? null],
    { transaction },
  );
}
