import type * as api from '@sprig/contracts';
import { INVITATION_DAYS, type InvitationView, type MemberView, type Role } from '@sprig/contracts';
import type { Sequelize, Transaction } from 'sequelize';
import type { z } from 'zod';
import { execute, select } from '../db/connect.ts';
import { locks } from '../db/locks.ts';
import type { PlanCaller, PlanSender, Sender } from '../platform/caller.ts';
import { changedMeanwhile, notFound, SprigFailure } from '../platform/failure.ts';
import { CHANNEL } from '../platform/jobs/notify.ts';
import { noteIn, planNamed } from './audit.ts';
import type { Asker, Doorway } from './doorway.ts';
import { endLinks, type Invitation, makeLink } from './links.ts';
import { type Here, tellOfActors } from './standing/index.ts';

/** Who changes what people may do, and from where. */
export type Owner = Sender & Asker;

const isOwner = ({ role }: Sender) => role === 'owner';

type MemberRow = Omit<MemberView, 'isYou' | 'lastSeenAt'> & { seen: Date | null };

/** All members, with what only owners see for them alone. */
export async function listPeople(caller: Sender) {
  const { database, workspace, actor } = caller;
  const rows = await select<MemberRow>(
    database,
    `select a.id as actor, a.name, p.email, a.role, a.permissions, p.totp_since is not null as "hasSecondFactor",
       (select max(s.seen_at) from sessions s where s.person_id = a.person_id) as seen
     from actors a left join people p on p.id = a.person_id
     where a.workspace_id = $1 and a.removed_at is null and a.person_id is not null order by lower(a.name), a.id`,
    [workspace],
  );
  const sees = isOwner(caller);
  const members = rows.map(({ seen, email, hasSecondFactor, ...row }) => ({
    ...row,
    email: sees || row.actor === actor ? email : null,
    hasSecondFactor: sees || row.actor === actor ? hasSecondFactor : null,
    lastSeenAt: sees ? (seen?.toISOString() ?? null) : null,
    isYou: row.actor === actor,
  }));
  const [own] = await select<{ name: string; asksAcceptance: boolean }>(
    database,
    'select name, asks_acceptance as "asksAcceptance" from workspaces where id = $1',
    [workspace],
  );
  const { name = '', asksAcceptance = false } = own ?? {};
  return { workspace: name, asksAcceptance, members, invitations: sees ? await invitationsOf(caller) : [] };
}

async function invitationsOf({ database, workspace }: Sender): Promise<InvitationView[]> {
  const rows = await select<{ id: number; email: string; body: Invitation; from: string; ends: Date }>(
    database,
    `select l.id, l.email, l.body, coalesce(a.name, '') as from, l.ends_at as ends
     from links l left join actors a on a.id = l.made_by
     where l.kind = 'invitation' and l.workspace_id = $1 and l.used_at is null and l.ends_at > now() order by l.id desc`,
    [workspace],
  );
  return rows.map(({ body: { role, permissions }, ends, ...row }) => ({
    ...row,
    role,
    permissions,
    endsAt: ends.toISOString(),
  }));
}

/** Notes in the audit trail what an owner did. */
export const noteBy = (
  { database, workspace, person, address }: Owner,
  kind: Parameters<typeof noteIn>[2]['kind'],
  about: string,
  transaction: Transaction,
) => noteIn(database, workspace, { kind, about, person, address }, transaction);

/** One change of who is a member at a time: of two owners who remove each other one stays. */
export async function inMembers<T>(owner: Owner, work: (transaction: Transaction) => Promise<T>): Promise<T> {
  const { database, workspace } = owner;
  return database.transaction(async (transaction) => {
    await execute(database, 'select pg_advisory_xact_lock($1, $2)', [locks.members, workspace], {
      transaction,
    });
    const [now] = await select<{ role: Role }>(
      database,
      'select role from actors where id = $1 and workspace_id = $2 and removed_at is null',
      [owner.actor, workspace],
      { transaction },
    );
    if (now?.role !== 'owner')
      throw new SprigFailure('forbidden', 'You own this workspace no more. Nothing was changed.');
    return work(transaction);
  });
}

export async function renameWorkspace(owner: Owner, name: string): Promise<void> {
  const { database, workspace } = owner;
  await inMembers(owner, async (transaction) => {
    await execute(database, 'update workspaces set name = $2 where id = $1', [workspace, name], {
      transaction,
    });
    await noteBy(owner, 'workspace-renamed', name, transaction);
  });
}

/** Says whether ads ship only once somebody has accepted them; every window of the workspace's plans is told. */
export async function askAcceptance(owner: Owner, asks: boolean): Promise<void> {
  const { database, workspace } = owner;
  await inMembers(owner, async (transaction) => {
    await execute(database, 'update workspaces set asks_acceptance = $2 where id = $1', [workspace, asks], {
      transaction,
    });
    await execute(
      database,
      `select pg_notify($1, json_build_object('type', 'work', 'plan', id)::text) from plans where workspace_id = $2`,
      [CHANNEL, workspace],
      { transaction },
    );
    await noteBy(owner, 'acceptance-asked', asks ? 'before ads ship' : 'no more', transaction);
  });
}

/** Invites somebody by a mail with a link; where no mail leaves the server, the link is answered. */
export async function invitePerson(
  { database, mailer, publicUrl }: Doorway,
  owner: Owner,
  { email, role, permissions, plans }: z.output<typeof api.invitePerson.body>,
): Promise<{ id: number; link: string | null }> {
  const { workspace } = owner;
  const { id, token, from, name } = await inMembers(owner, async (transaction) => {
    const there = await select(
      database,
      `select 1 from actors a join people p on p.id = a.person_id
       where a.workspace_id = $1 and a.removed_at is null and p.email = $2`,
      [workspace, email],
      { transaction },
    );
    if (there.length > 0)
      throw new SprigFailure('conflict', `${email} is in this workspace already.`, { at: 'email' });
    await assertPlans(database, workspace, plans, transaction);
    await endLinks(database, { kind: 'invitation', email, workspace }, transaction);
    const link = await makeLink(
      database,
      {
        kind: 'invitation',
        email,
        workspace,
        madeBy: owner.actor,
        body: { role, permissions, plans },
        hours: INVITATION_DAYS * 24,
      },
      transaction,
    );
    await noteBy(owner, 'invited', `${email}, ${role}`, transaction);
    const [words] = await select<{ from: string; name: string }>(
      database,
      'select a.name as from, w.name from actors a join workspaces w on w.id = a.workspace_id where a.id = $1',
      [owner.actor],
      { transaction },
    );
    return { ...link, from: words?.from ?? '', name: words?.name ?? '' };
  });
  const link = `${publicUrl}/door/invited#${token}`;
  try {
    await mailer.send({
      to: email,
      subject: `Green Sprig: ${from} invites you to ${name}`,
      text: `Hello,\n\n${from} invites you to the workspace ${name}. Within ${INVITATION_DAYS} days you can come in here:\n\n${link}\n\nIf you do not know what this is about, leave it.\n`,
    });
  } catch (error) {
    await endLinks(database, { kind: 'invitation', email, workspace });
    throw new SprigFailure(
      'unavailable',
      `The mail was not sent: ${error instanceof Error ? error.message : String(error)}. Nobody is invited; see SMTP_URL, and try again.`,
    );
  }
  return { id, link: mailer.leaves ? null : link };
}

async function assertPlans(
  database: Sequelize,
  workspace: number,
  plans: readonly { plan: number }[],
  transaction: Transaction,
): Promise<void> {
  const ids = [...new Set(plans.map(({ plan }) => plan))];
  const found = await select(
    database,
    'select id from plans where workspace_id = $1 and id = any($2::int[])',
    [workspace, ids],
    { transaction },
  );
  if (found.length < ids.length) throw notFound('plan');
}

export async function takeBackInvitation(owner: Owner, invitation: number): Promise<void> {
  const { database, workspace } = owner;
  await inMembers(owner, async (transaction) => {
    const [gone] = await select<{ email: string }>(
      database,
      `update links set ends_at = now() where id = $1 and kind = 'invitation' and workspace_id = $2
         and used_at is null and ends_at > now() returning email`,
      [invitation, workspace],
      { transaction },
    );
    if (!gone) throw notFound('invitation');
    await noteBy(owner, 'invitation-taken-back', gone.email, transaction);
  });
}

type Found = { role: Role; permissions: string[]; name: string };

async function memberOf(owner: Owner, actor: number, transaction: Transaction): Promise<Found> {
  const [found] = await select<Found>(
    owner.database,
    `select role, permissions, name from actors
     where id = $1 and workspace_id = $2 and removed_at is null and person_id is not null`,
    [actor, owner.workspace],
    { transaction },
  );
  if (!found) throw notFound('member');
  return found;
}

/** Fails where nobody else owns the workspace. */
async function assertOtherOwner(
  owner: Owner,
  actor: number,
  name: string,
  transaction: Transaction,
): Promise<void> {
  const others = await select(
    owner.database,
    `select 1 from actors where workspace_id = $1 and role = 'owner' and id <> $2 and removed_at is null and person_id is not null`,
    [owner.workspace, actor],
    { transaction },
  );
  if (others.length === 0)
    throw new SprigFailure(
      'blocked',
      `Nobody but ${name} owns this workspace. Make somebody else an owner first.`,
    );
}

/** Gives a member another role or other permissions. */
export async function changeMember(
  owner: Owner,
  actor: number,
  { before, after }: z.output<typeof api.changeMember.body>,
): Promise<void> {
  const { database } = owner;
  await inMembers(owner, async (transaction) => {
    const now = await memberOf(owner, actor, transaction);
    const same =
      now.role === before.role &&
      [...now.permissions].sort().join() === [...before.permissions].sort().join();
    if (!same) throw changedMeanwhile('role', { role: now.role, permissions: now.permissions });
    if (after.role !== 'owner') await assertOtherOwner(owner, actor, now.name, transaction);
    await execute(
      database,
      'update actors set role = $2, permissions = $3 where id = $1',
      [actor, after.role, after.permissions],
      { transaction },
    );
    await tellOfActors(database, transaction, [actor]);
    await noteBy(
      owner,
      'role-changed',
      `${now.name}: ${[after.role, ...after.permissions].join(', ')}`,
      transaction,
    );
  });
}

/** Takes somebody out of the workspace. What they did stays theirs in the history. */
export async function removeMember(owner: Owner, actor: number): Promise<void> {
  const { database } = owner;
  await inMembers(owner, async (transaction) => {
    const { name } = await memberOf(owner, actor, transaction);
    await assertOtherOwner(owner, actor, name, transaction);
    await execute(database, 'update actors set removed_at = now() where id = $1', [actor], { transaction });
    await execute(database, 'delete from plan_roles where actor_id = $1', [actor], { transaction });
    await tellOfActors(database, transaction, [actor]);
    await noteBy(owner, 'removed', name, transaction);
  });
}

/**
 * All members with their role at a plan where it differs. Only owners, who say who sees it, learn of those who do not: a client
 * is not told of another client's guests.
 */
export const planPeople = ({ database, workspace, plan, role }: PlanSender) =>
  select<{ actor: number; name: string; role: Role; here: Here }>(
    database,
    `select a.id as actor, a.name, a.role, r.role as here from actors a
     left join plan_roles r on r.plan_id = $2 and r.actor_id = a.id
     where a.workspace_id = $1 and a.removed_at is null and a.person_id is not null
       and ($3 or a.role = 'owner' or r.role <> 'none' or (r.role is null and a.role <> 'guest'))
     order by lower(a.name), a.id`,
    [workspace, plan, role === 'owner'],
  );

/** Gives a member a role of their own at a plan; null: as in the workspace. */
export async function setPlanRole(owner: Owner & PlanCaller, actor: number, here: Here): Promise<void> {
  const { database, plan, workspace } = owner;
  await inMembers(owner, async (transaction) => {
    const { role, name } = await memberOf(owner, actor, transaction);
    if (role === 'owner')
      throw new SprigFailure('blocked', `${name} owns the workspace, and all of its plans with it.`);
    await execute(database, 'delete from plan_roles where plan_id = $1 and actor_id = $2', [plan, actor], {
      transaction,
    });
    if (here !== null)
      await execute(
        database,
        'insert into plan_roles (workspace_id, plan_id, actor_id, role) values ($1, $2, $3, $4)',
        [workspace, plan, actor, here],
        { transaction },
      );
    await tellOfActors(database, transaction, [actor]);
    await noteBy(
      owner,
      'plan-role-changed',
      `${name} at ${await planNamed(database, plan, transaction)}: ${here ?? 'as in the workspace'}`,
      transaction,
    );
  });
}
