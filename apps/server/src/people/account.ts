import type { SessionView } from '@sprig/contracts';
import type { Request } from 'express';
import { execute, select } from '../db/connect.ts';
import { SprigFailure } from '../platform/failure.ts';
import { noteOf } from './audit.ts';
import { addressOf, type Doorway, letIn } from './doorway.ts';
import { assertHardToGuess, hashPassword, isPassword } from './passwords.ts';
import { newRecoveryCodes, newSecret, recoveryKey, stepOfCode, uriOf } from './second-factor.ts';
import { keyOf, ofPerson } from './secrets.ts';
import { tellOfPerson } from './standing/index.ts';

/** Who is signed in, by their own account. Fails for those of the demo, whose account is not theirs alone. */
function personOf({ session }: Request): number {
  if (session.person === undefined) throw new SprigFailure('signed-out', 'Sign in first.');
  return session.person;
}

type Account = { email: string; name: string; password: string | null };

async function accountOf({ database }: Doorway, person: number): Promise<Account> {
  const [account] = await select<Account>(
    database,
    'select email, name, password from people where id = $1',
    [person],
  );
  if (!account) throw new SprigFailure('signed-out', 'Sign in first.');
  return account;
}

/** Fails unless the password is told again: what follows is not for whoever finds an open window. */
async function assertPassword(door: Doorway, request: Request, password: string): Promise<Account> {
  const account = await accountOf(door, personOf(request));
  if (account.password === null)
    throw new SprigFailure('blocked', 'People of the demo have no password, and no second factor.');
  const wasRight = await door.guesses.count('own password', account.email, addressOf(request));
  if (!(await isPassword(account.password, password)))
    throw new SprigFailure('invalid', 'That is not your password.', { at: 'now' });
  await wasRight();
  return account;
}

export async function changeMyName({ database }: Doorway, request: Request, name: string): Promise<void> {
  const person = personOf(request);
  await database.transaction(async (transaction) => {
    await execute(database, 'update people set name = $2 where id = $1', [person, name], { transaction });
    await execute(database, 'update actors set name = $2 where person_id = $1', [person, name], {
      transaction,
    });
  });
}

/** Sets another password; all other sessions end, and this one goes on under another cookie. */
export async function changePassword(
  door: Doorway,
  request: Request,
  { now, next }: { now: string; next: string },
): Promise<void> {
  const { database } = door;
  const person = personOf(request);
  const { email, name } = await assertPassword(door, request, now);
  if (now === next)
    throw new SprigFailure('invalid', 'That is the password you have. Take another one.', { at: 'next' });
  assertHardToGuess(next, [name, email]);
  await execute(database, 'update people set password = $2 where id = $1', [
    person,
    await hashPassword(next),
  ]);
  await endAll(door, person, null);
  await letIn(request, person, request.session.member?.workspace ?? null);
  await noteOf(database, person, { kind: 'password-changed', address: addressOf(request) });
}

/** Goes on in another workspace that one is in. */
export async function chooseWorkspace(
  { database }: Doorway,
  request: Request,
  workspace: number,
): Promise<void> {
  const found = await select(
    database,
    'select 1 from actors where person_id = $1 and workspace_id = $2 and removed_at is null',
    [personOf(request), workspace],
  );
  if (found.length === 0) throw new SprigFailure('not-found', 'You are in no such workspace.');
  request.session.workspace = workspace;
}

/** Begins to set up a second factor: it counts once a code of it was told. */
export async function beginSecondFactor(door: Doorway, request: Request, password: string) {
  const { database, cipher } = door;
  const person = personOf(request);
  const { email } = await assertPassword(door, request, password);
  const secret = newSecret();
  const [begun] = await select<{ id: number }>(
    database,
    'update people set totp_secret = $2, totp_step = 0 where id = $1 and totp_since is null returning id',
    [person, cipher.seal(secret, ofPerson(person))],
  );
  if (!begun) throw new SprigFailure('conflict', 'A second factor is on already. Turn it off first.');
  return { secret, uri: uriOf(secret, email) };
}

/** Turns the second factor on by its first code, and answers recovery codes, which are shown this once. */
export async function confirmSecondFactor(
  { database, cipher, guesses }: Doorway,
  request: Request,
  code: string,
): Promise<{ recoveryCodes: string[] }> {
  const person = personOf(request);
  const wasRight = await guesses.count('code', String(person), addressOf(request));
  const recoveryCodes = newRecoveryCodes();
  await database.transaction(async (transaction) => {
    const [kept] = await select<{ secret: Buffer | null }>(
      database,
      'select totp_secret as secret from people where id = $1 and totp_since is null for update',
      [person],
      { transaction },
    );
    if (!kept?.secret) throw new SprigFailure('blocked', 'Begin with the second factor anew.');
    const step = stepOfCode(cipher.open(kept.secret, ofPerson(person)), code, 0, new Date());
    if (step === null)
      throw new SprigFailure('invalid', 'That code is not right. Is the clock of the device right?', {
        at: 'code',
      });
    await execute(
      database,
      'update people set totp_since = now(), totp_step = $2, recovery_codes = $3 where id = $1',
      [person, step, recoveryCodes.map(recoveryKey)],
      { transaction },
    );
  });
  await wasRight();
  await noteOf(database, person, { kind: 'second-factor-on', address: addressOf(request) });
  return { recoveryCodes };
}

export async function endSecondFactor(door: Doorway, request: Request, password: string): Promise<void> {
  const person = personOf(request);
  await assertPassword(door, request, password);
  await execute(
    door.database,
    `update people set totp_secret = null, totp_since = null, totp_step = 0, recovery_codes = '{}' where id = $1`,
    [person],
  );
  await noteOf(door.database, person, { kind: 'second-factor-off', address: addressOf(request) });
}

/** One's own sessions, the one last seen first. */
export async function sessionsOf({ database }: Doorway, request: Request): Promise<SessionView[]> {
  const rows = await select<
    { key: string; agent: string; address: string } & Record<'began' | 'seen' | 'ends', Date>
  >(
    database,
    `select key, agent, address, began_at as began, seen_at as seen, ends_at as ends from sessions
     where person_id = $1 and ends_at > now() order by seen_at desc limit 100`,
    [personOf(request)],
  );
  const own = keyOf(request.sessionID);
  return rows.map(({ key, agent, address, began, seen, ends }) => ({
    id: key,
    isThis: key === own,
    agent,
    address,
    beganAt: began.toISOString(),
    seenAt: seen.toISOString(),
    endsAt: ends.toISOString(),
  }));
}

/** Ends one of one's sessions; null: all but this one. */
export async function endSessions(door: Doorway, request: Request, session: string | null): Promise<number> {
  const person = personOf(request);
  const ended =
    session === null
      ? await endAll(door, person, keyOf(request.sessionID))
      : await endOne(door, person, session);
  if (ended > 0)
    await noteOf(door.database, person, {
      kind: 'sessions-ended',
      about: String(ended),
      address: addressOf(request),
    });
  return ended;
}

async function endOne({ database }: Doorway, person: number, key: string): Promise<number> {
  const gone = await select(
    database,
    'delete from sessions where person_id = $1 and key = $2 returning key',
    [person, key],
  );
  await tellOfPerson(database, null, person);
  return gone.length;
}

async function endAll({ database }: Doorway, person: number, but: string | null): Promise<number> {
  const gone = await select(
    database,
    'delete from sessions where person_id = $1 and key is distinct from $2 returning key',
    [person, but],
  );
  await tellOfPerson(database, null, person);
  return gone.length;
}
