import type { Permission, Role } from '@sprig/contracts';
import { type SessionData, Store } from 'express-session';
import type { Sequelize } from 'sequelize';
import { execute, select } from '../db/connect.ts';
import { log } from '../platform/log.ts';
import { keyOf } from './secrets.ts';

/** Who somebody is in the workspace that they are at. */
export type Member = { workspace: number; actor: number; role: Role; permissions: Permission[] };

declare module 'express-session' {
  interface SessionData {
    /** Who is signed in. */
    person: number;
    /** The workspace that they are at, of those that they are in. */
    workspace: number;
    /** Whose password was right, where a second factor is asked for, and until when (milliseconds). */
    pending: { person: number; until: number };
    /** Who they are there: found anew with each request, never kept. */
    member: Member | null;
    /** Of the browser, for the list of sessions. */
    from: { agent: string; address: string };
  }
}

const HOUR_MS = 3_600_000;
/** A session ends when nothing was asked for so long, */
const IDLE_MS = 12 * HOUR_MS;
/** and at any rate so long after it began. */
export const LONGEST_MS = 14 * 24 * HOUR_MS;
/** When it was last seen is noted no more often than this. */
const NOTE_MS = 60_000;

type Told = (error?: unknown) => void;

/** Sessions in PostgreSQL, for express-session. All processes of a server share them. */
export class SessionStore extends Store {
  /** When each was last noted by this process. */
  private readonly noted = new Map<string, number>();

  constructor(private readonly database: Sequelize) {
    super();
  }

  override get(sid: string, tell: (error: unknown, session?: SessionData | null) => void): void {
    this.read(keyOf(sid)).then(
      (session) => tell(null, session),
      (error: unknown) => tell(error),
    );
  }

  private async read(key: string): Promise<SessionData | null> {
    const [row] = await select<{ body: SessionData; actor: number | null } & Member>(
      this.database,
      `select s.body, m.* from sessions s left join lateral
         (select a.id as actor, a.workspace_id as workspace, a.role, a.permissions from actors a
          where a.person_id = s.person_id and a.removed_at is null
          order by a.workspace_id is not distinct from s.workspace_id desc, a.id limit 1) m on true
       where s.key = $1 and s.ends_at > now() and s.seen_at > now() - $2 * interval '1 ms'`,
      [key, IDLE_MS],
    );
    if (!row) return null;
    const { body, actor, workspace, role, permissions } = row;
    return { ...body, member: actor === null ? null : { actor, workspace, role, permissions } };
  }

  override set(sid: string, { member: _, ...session }: SessionData, tell: Told = () => {}): void {
    const { agent = '', address = '' } = session.from ?? {};
    execute(
      this.database,
      `insert into sessions (key, person_id, workspace_id, body, agent, address, ends_at)
       values ($1, $2, $3, $4, $5, $6, now() + $7 * interval '1 ms')
       on conflict (key) do update set person_id = excluded.person_id, workspace_id = excluded.workspace_id,
         body = excluded.body, seen_at = now()`,
      [
        keyOf(sid),
        session.person ?? null,
        session.workspace ?? null,
        JSON.stringify(session),
        agent.slice(0, 300),
        address,
        LONGEST_MS,
      ],
    ).then(() => tell(), tell);
  }

  override destroy(sid: string, tell: Told = () => {}): void {
    const key = keyOf(sid);
    this.noted.delete(key);
    execute(this.database, 'delete from sessions where key = $1', [key]).then(() => tell(), tell);
  }

  /** Notes that a session was used, now and then. */
  override touch(sid: string, _session: SessionData, tell: () => void = () => {}): void {
    const key = keyOf(sid);
    const now = Date.now();
    if (now - (this.noted.get(key) ?? 0) < NOTE_MS) {
      tell();
      return;
    }
    this.noted.set(key, now);
    void execute(this.database, 'update sessions set seen_at = now() where key = $1', [key])
      .catch((error: unknown) => log.warn({ error }, 'could not note that a session was used'))
      .then(() => tell());
  }

  /** Takes away what has ended, here and in what this process noted. */
  async clearEnded(): Promise<void> {
    const now = Date.now();
    for (const [key, at] of this.noted) if (now - at > IDLE_MS) this.noted.delete(key);
    await execute(
      this.database,
      `delete from sessions where ends_at < now() or seen_at < now() - $1 * interval '1 ms'`,
      [IDLE_MS],
    );
  }
}
