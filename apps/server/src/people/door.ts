import { type Me, newPassword } from '@sprig/contracts';
import type { Request } from 'express';
import type { Sequelize, Transaction } from 'sequelize';
import { execute, select } from '../db/connect.ts';
import { locks } from '../db/locks.ts';
import { SprigFailure } from '../platform/failure.ts';
import { log } from '../platform/log.ts';
import { noteIn, noteOf } from './audit.ts';
import { addressOf, type Doorway, endSession, isFromHere, letIn, letWait, whoWaits } from './doorway.ts';
import { endLinks, linkOf, makeLink, useLink } from './links.ts';
import { assertHardToGuess, hashPassword, isPassword } from './passwords.ts';
import { recoveryKey, stepOfCode } from './second-factor.ts';
import { ofPerson } from './secrets.ts';
import { tellOfActors, tellOfPerson } from './standing/index.ts';

type Step = { next: 'in' | 'code' };

type Known = { id: number; email: string; name: string; password: string | null; hasFactor: boolean };

async function personBy(database: Sequelize, email: string): Promise<Known | null> {
  const [person] = await select<Known>(
    database,
    `select id, email, name, password, totp_since is not null as "hasFactor" from people where email = $1`,
    [email],
  );
  return person ?? null;
}

/** Whether nobody has an account yet, those of the demo apart. */
async function isFirst(database: Sequelize, transaction: Transaction | null = null): Promise<boolean> {
  const found = await select(database, 'select 1 from people where not is_demo limit 1', [], { transaction });
  return found.length === 0;
}

type DemoPerson = { id: number; name: string } & Pick<Me, 'role' | 'permissions'>;

/** Those who come in by one click, the owner first; null where that is not offered. */
async function demoPeople({ database, hasDemo }: Doorway, request: Request): Promise<DemoPerson[] | null> {
  if (!hasDemo || !isFromHere(request)) return null;
  return select<DemoPerson>(
    database,
    `select p.id, p.name, a.role, a.permissions from people p join actors a on a.person_id = p.id and a.removed_at is null
     where p.is_demo order by p.id`,
  );
}

function standsAt(request: Request): 'outside' | 'code' | 'in' | 'nowhere' {
  const { person, member } = request.session;
  if (person !== undefined) return member ? 'in' : 'nowhere';
  return whoWaits(request) === null ? 'outside' : 'code';
}

export async function doorOf(door: Doorway, request: Request) {
  return {
    stands: standsAt(request),
    isFirst: await isFirst(door.database),
    demo: await demoPeople(door, request),
    sendsMail: door.mailer.leaves,
  };
}

const WRONG = 'That is not the e-mail address and password of an account here.';

/** The first step in: by what one knows. What is answered, and how fast, does not tell whether an address is known. */
export async function signIn(
  { database, guesses }: Doorway,
  request: Request,
  { email, password }: { email: string; password: string },
): Promise<Step> {
  const address = addressOf(request);
  const wasRight = await guesses.count('password', email, address);
  const person = await personBy(database, email);
  if (!(await isPassword(person?.password ?? null, password)) || !person) {
    if (person) await noteOf(database, person.id, { kind: 'sign-in-failed', about: 'by password', address });
    else log.info({ address }, 'a sign-in failed for an address that is nobody’s');
    throw new SprigFailure('invalid', WRONG, { at: 'password' });
  }
  await wasRight();
  return enter({ database }, request, person);
}

/** Signs somebody in whose password was right, or asks for a second factor. */
async function enter(
  { database }: Pick<Doorway, 'database'>,
  request: Request,
  { id, hasFactor }: Pick<Known, 'id' | 'hasFactor'>,
  workspace: number | null = null,
): Promise<Step> {
  if (hasFactor) {
    await letWait(request, id);
    return { next: 'code' };
  }
  await letIn(request, id, workspace);
  await noteOf(database, id, { kind: 'signed-in', address: addressOf(request) });
  return { next: 'in' };
}

/** The second step: by what one has, or by a recovery code, which works once. */
export async function signInByCode(
  door: Doorway,
  request: Request,
  { code }: { code: string },
): Promise<Step> {
  const { database, guesses } = door;
  const person = whoWaits(request);
  if (person === null)
    throw new SprigFailure('signed-out', 'That took too long. Sign in with your password again.');
  const address = addressOf(request);
  const wasRight = await guesses.count('code', String(person), address);
  const how = await useCode(door, person, code);
  if (how === null) {
    await noteOf(database, person, { kind: 'sign-in-failed', about: 'by second factor', address });
    throw new SprigFailure('invalid', 'That code is not right, or was used already. Wait for the next one.', {
      at: 'code',
    });
  }
  await wasRight();
  if (how === 'recovery') await noteOf(database, person, { kind: 'recovery-code-used', address });
  return enter(door, request, { id: person, hasFactor: false });
}

/** Uses up a code of somebody's second factor; null: it is none of theirs. */
async function useCode(
  { database, cipher }: Pick<Doorway, 'database' | 'cipher'>,
  person: number,
  code: string,
): Promise<'code' | 'recovery' | null> {
  return database.transaction(async (transaction) => {
    const [kept] = await select<{ secret: Buffer; step: number; codes: string[] }>(
      database,
      `select totp_secret as secret, totp_step as step, recovery_codes as codes from people
       where id = $1 and totp_since is not null for update`,
      [person],
      { transaction },
    );
    if (!kept) return null;
    const step = stepOfCode(cipher.open(kept.secret, ofPerson(person)), code, kept.step, new Date());
    if (step !== null) {
      await execute(database, 'update people set totp_step = $2 where id = $1', [person, step], {
        transaction,
      });
      return 'code';
    }
    const key = recoveryKey(code);
    if (!kept.codes.includes(key)) return null;
    await execute(
      database,
      'update people set recovery_codes = array_remove(recovery_codes, $2) where id = $1',
      [person, key],
      { transaction },
    );
    return 'recovery';
  });
}

/** Comes in as somebody of the demo. */
export async function enterDemo(door: Doorway, request: Request, person: number): Promise<Step> {
  const people = await demoPeople(door, request);
  if (!people?.some(({ id }) => id === person))
    throw new SprigFailure(
      'forbidden',
      'Only people of the demo come in so, and only on the machine that runs it.',
    );
  return enter(door, request, { id: person, hasFactor: false });
}

export async function signOut({ database }: Doorway, request: Request): Promise<void> {
  const { person, member } = request.session;
  await endSession(request);
  if (person !== undefined)
    await noteOf(database, person, { kind: 'signed-out', address: addressOf(request) });
  if (member) await tellOfActors(database, null, [member.actor]);
}

/** Of the start command: by it the first visitor makes the owner. */
const OWNER_HOURS = 24 * 365;

/** A link by which the first visitor makes the owner, if nobody has an account yet. Those of earlier starts end. */
export async function ownerLink({
  database,
  publicUrl,
}: Pick<Doorway, 'database' | 'publicUrl'>): Promise<string | null> {
  if (!(await isFirst(database))) return null;
  await endLinks(database, { kind: 'owner' });
  const { token } = await makeLink(database, { kind: 'owner', hours: OWNER_HOURS });
  return `${publicUrl}/door/first#${token}`;
}

type FirstOwner = { token: string; name: string; email: string; password: string; workspace: string };

/** Makes the owner: of what is there already and is nobody's, or of a new workspace. */
export async function makeOwner(
  door: Doorway,
  request: Request,
  { token, name, email, password, workspace }: FirstOwner,
): Promise<Step> {
  const { database } = door;
  await linkOf(database, token, ['owner']);
  assertHardToGuess(password, [name, email]);
  const hash = await hashPassword(password);
  const person = await database.transaction(async (transaction) => {
    await execute(database, 'select pg_advisory_xact_lock($1, 0)', [locks.firstOwner], { transaction });
    await useLink(database, token, 'owner', transaction);
    if (!(await isFirst(database, transaction)))
      throw new SprigFailure(
        'blocked',
        'Somebody has made the owner already. Sign in, or ask them to invite you.',
      );
    const made = await makePerson(database, { email, name, password: hash }, transaction);
    const [nobodys] = await select<{ actor: number; workspace: number }>(
      database,
      `select a.id as actor, a.workspace_id as workspace from actors a where a.person_id is null and a.removed_at is null
         and not exists (select from tokens t where t.actor_id = a.id) order by a.id limit 1`,
      [],
      { transaction },
    );
    const place = nobodys ?? (await newWorkspace(database, name, transaction));
    await execute(
      database,
      `update actors set person_id = $2, name = $3, role = 'owner', permissions = '{ship,approve}' where id = $1`,
      [place.actor, made, name],
      { transaction },
    );
    await execute(database, 'update workspaces set name = $2 where id = $1', [place.workspace, workspace], {
      transaction,
    });
    await ownWhatIsNobodys(database, { person: made, name }, transaction);
    await noteIn(
      database,
      place.workspace,
      { kind: 'owner-made', person: made, about: email, address: addressOf(request) },
      transaction,
    );
    return made;
  });
  return enter(door, request, { id: person, hasFactor: false });
}

/** Workspaces in which there is nobody but people of the demo are the first owner's too: what was made there is not lost to them. */
async function ownWhatIsNobodys(
  database: Sequelize,
  { person, name }: { person: number; name: string },
  transaction: Transaction,
): Promise<void> {
  await execute(
    database,
    `insert into actors (workspace_id, person_id, name, role, permissions)
     select w.id, $1, $2, 'owner', '{ship,approve}' from workspaces w
     where not exists (select from actors a join people p on p.id = a.person_id where a.workspace_id = w.id and not p.is_demo)`,
    [person, name],
    { transaction },
  );
}

async function newWorkspace(
  database: Sequelize,
  name: string,
  transaction: Transaction,
): Promise<{ actor: number; workspace: number }> {
  const [made] = await select<{ actor: number; workspace: number }>(
    database,
    `with w as (insert into workspaces (name) values ($1) returning id)
     insert into actors (workspace_id, name, role) select id, $1, 'owner' from w
     returning id as actor, workspace_id as workspace`,
    [name],
    { transaction },
  );
  if (!made) throw new Error('A workspace was not made.');
  return made;
}

async function makePerson(
  database: Sequelize,
  { email, name, password }: { email: string; name: string; password: string },
  transaction: Transaction,
): Promise<number> {
  const [person] = await select<{ id: number }>(
    database,
    `insert into people (email, name, password) values ($1, $2, $3) on conflict (email) do nothing returning id`,
    [email, name, password],
    { transaction },
  );
  if (!person)
    throw new SprigFailure('conflict', 'This address has an account already. Sign in with it.', {
      at: 'email',
    });
  return person.id;
}

/** How long a link for a new password works. */
const RESET_HOURS = 1;

/** Sends a link for a new password to a known address; whoever asks hears and waits the same for an unknown one. */
export async function forgetPassword(door: Doorway, request: Request, email: string): Promise<void> {
  await door.guesses.count('reset', email, addressOf(request));
  const address = addressOf(request);
  setImmediate(() => {
    sendReset(door, email, address).catch((error: unknown) =>
      log.error({ error }, 'a mail for a new password was not sent'),
    );
  });
}

async function sendReset(
  { database, mailer, publicUrl }: Doorway,
  email: string,
  address: string,
): Promise<void> {
  const person = await personBy(database, email);
  if (!person || person.password === null) return;
  await endLinks(database, { kind: 'reset', email });
  const { token } = await makeLink(database, { kind: 'reset', email, person: person.id, hours: RESET_HOURS });
  await noteOf(database, person.id, { kind: 'password-reset-asked', address });
  await mailer.send({
    to: email,
    subject: 'Green Sprig: a new password',
    text: `Hello ${person.name},\n\nsomebody asked for a new password for this address. Within an hour you can set one here:\n\n${publicUrl}/door/reset#${token}\n\nIf it was not you, leave it: nothing is changed.\n`,
  });
}

/** What a link of a mail is for. */
export async function readLink({ database }: Doorway, token: string) {
  const link = await linkOf(database, token, ['invitation', 'reset']);
  const email = link.email ?? '';
  const [about] = await select<{ workspace: string; from: string | null; isKnown: boolean }>(
    database,
    `select (select name from workspaces where id = $1) as workspace, (select name from actors where id = $2) as from,
       exists (select from people where email = $3) as "isKnown"`,
    [link.workspace, link.madeBy, email],
  );
  return {
    kind: link.kind as 'invitation' | 'reset',
    email,
    workspace: about?.workspace ?? null,
    from: about?.from ?? null,
    role: link.kind === 'invitation' ? link.body.role : null,
    isKnown: about?.isKnown ?? false,
  };
}

/** Sets a new password by a link. Whoever is signed in is signed out: it may be the one because of whom it is set. */
export async function resetPassword(
  { database }: Doorway,
  request: Request,
  { token, password }: { token: string; password: string },
): Promise<void> {
  const { email } = await linkOf(database, token, ['reset']);
  assertHardToGuess(password, [email ?? '']);
  const hash = await hashPassword(password);
  await database.transaction(async (transaction) => {
    const { person } = await useLink(database, token, 'reset', transaction);
    if (person === null) throw new Error('A link for a new password is nobody’s.');
    await execute(database, 'update people set password = $2 where id = $1', [person, hash], { transaction });
    await execute(database, 'delete from sessions where person_id = $1', [person], { transaction });
    await tellOfPerson(database, transaction, person);
    await noteOf(database, person, { kind: 'password-reset', address: addressOf(request) }, transaction);
  });
}

/** Accepts an invitation: by making an account, or with the one that the address has, by its password. */
export async function acceptInvitation(
  door: Doorway,
  request: Request,
  { token, name, password }: { token: string; name: string | null; password: string },
): Promise<Step> {
  const { database, guesses } = door;
  const { email } = await linkOf(database, token, ['invitation']);
  if (email === null) throw new Error('An invitation has no address.');
  const address = addressOf(request);
  const known = await personBy(database, email);
  let hash: string | null = null;
  if (known) {
    const wasRight = await guesses.count('password', email, address);
    if (!(await isPassword(known.password, password)))
      throw new SprigFailure('invalid', 'That is not the password of this account.', { at: 'password' });
    await wasRight();
  } else {
    const read = newPassword.safeParse(password);
    if (!read.success)
      throw new SprigFailure('invalid', read.error.issues[0]?.message ?? '', { at: 'password' });
    if (name === null)
      throw new SprigFailure('invalid', 'Say a name by which others know you.', { at: 'name' });
    assertHardToGuess(password, [name, email]);
    hash = await hashPassword(password);
  }
  const { person, workspace } = await database.transaction(async (transaction) => {
    const link = await useLink(database, token, 'invitation', transaction);
    if (link.workspace === null) throw new Error('An invitation leads to no workspace.');
    const id =
      known?.id ??
      (await makePerson(database, { email, name: name ?? '', password: hash ?? '' }, transaction));
    const actor = await join(
      database,
      { person: id, name: known?.name ?? name ?? '', workspace: link.workspace, ...link.body },
      transaction,
    );
    for (const { plan, role } of link.body.plans)
      await execute(
        database,
        `insert into plan_roles (workspace_id, plan_id, actor_id, role) select workspace_id, id, $2, $3 from plans
         where id = $1 and workspace_id = $4 on conflict (plan_id, actor_id) do update set role = excluded.role`,
        [plan, actor, role, link.workspace],
        { transaction },
      );
    await noteIn(
      database,
      link.workspace,
      { kind: 'joined', person: id, about: `${email}, ${link.body.role}`, address },
      transaction,
    );
    return { person: id, workspace: link.workspace };
  });
  return enter(door, request, { id: person, hasFactor: known?.hasFactor ?? false }, workspace);
}

type Joining = {
  person: number;
  name: string;
  workspace: number;
  role: string;
  permissions: readonly string[];
};

/** Makes somebody a member; who was one before is the same again, with what they had done. */
async function join(
  database: Sequelize,
  { person, name, workspace, role, permissions }: Joining,
  transaction: Transaction,
): Promise<number> {
  const [again] = await select<{ id: number }>(
    database,
    `update actors set removed_at = null, joined_at = now(), role = $3, permissions = $4 where id =
       (select id from actors where workspace_id = $1 and person_id = $2 order by removed_at is null desc, id limit 1) returning id`,
    [workspace, person, role, permissions],
    { transaction },
  );
  if (again) return again.id;
  const [made] = await select<{ id: number }>(
    database,
    'insert into actors (workspace_id, person_id, name, role, permissions) values ($1, $2, $3, $4, $5) returning id',
    [workspace, person, name, role, permissions],
    { transaction },
  );
  return made?.id ?? 0;
}
