import type { AuditEntry, AuditKind } from '@sprig/contracts';
import { AUDIT_PAGE } from '@sprig/contracts';
import type { Sequelize, Transaction } from 'sequelize';
import { execute, select } from '../db/connect.ts';
import type { Caller } from '../platform/caller.ts';

type Entry = {
  kind: AuditKind;
  /** What about, in words. */
  about?: string;
  person: number | null;
  /** Who it was, where they are no person: a token. */
  actor?: number;
  /** From where. */
  address: string;
};

/** Notes what happened in one workspace. */
export async function noteIn(
  database: Sequelize,
  workspace: number | null,
  { kind, about = '', person, actor, address }: Entry,
  transaction: Transaction | null = null,
): Promise<void> {
  await execute(
    database,
    `insert into audit_entries (workspace_id, kind, person_id, name, about, address)
     values ($1, $2, $3::int,
       coalesce((select name from people where id = $3::int), (select name from actors where id = $6::int)), $4, $5)`,
    [workspace, kind, person, about, address, actor ?? null],
    { transaction },
  );
}

/** Notes what happened to somebody, in every workspace that they are in: its owners see it. */
export async function noteOf(
  database: Sequelize,
  person: number,
  { kind, about = '', address }: Omit<Entry, 'person'>,
  transaction: Transaction | null = null,
): Promise<void> {
  await execute(
    database,
    `insert into audit_entries (workspace_id, kind, person_id, name, about, address)
     select a.workspace_id, $2, p.id, p.name, $3, $4 from people p join actors a on a.person_id = p.id and a.removed_at is null
     where p.id = $1`,
    [person, kind, about, address],
    { transaction },
  );
}

/** A plan's name, by which entries tell of it. */
export async function planNamed(
  database: Sequelize,
  plan: number,
  transaction: Transaction | null = null,
): Promise<string> {
  const [brief] = await select<{ name: string }>(
    database,
    'select name from briefs where plan_id = $1',
    [plan],
    { transaction },
  );
  return brief?.name ?? String(plan);
}

const COLUMNS = 'id, at, kind, name, about, address';

/** A page of the workspace's entries, newest first. */
export async function auditOf(
  { database, workspace }: Caller,
  { before, kind }: { before?: number | undefined; kind?: AuditKind | undefined },
): Promise<{ entries: AuditEntry[]; total: number }> {
  const which = 'workspace_id = $1 and ($2::text is null or kind = $2)';
  const [sum] = await select<{ total: number }>(
    database,
    `select count(*)::int as total from audit_entries where ${which}`,
    [workspace, kind ?? null],
  );
  const entries = await select<Omit<AuditEntry, 'at'> & { at: Date }>(
    database,
    `select ${COLUMNS} from audit_entries where ${which} and ($3::bigint is null or id < $3) order by id desc limit ${AUDIT_PAGE}`,
    [workspace, kind ?? null, before ?? null],
  );
  return { total: sum?.total ?? 0, entries: entries.map((one) => ({ ...one, at: one.at.toISOString() })) };
}

/** All of the workspace's entries, oldest first, some at a time. */
export async function* allAuditOf({ database, workspace }: Caller): AsyncGenerator<AuditEntry[]> {
  for (let after = 0; ; ) {
    const entries = await select<Omit<AuditEntry, 'at'> & { at: Date }>(
      database,
      `select ${COLUMNS} from audit_entries where workspace_id = $1 and id > $2 order by id limit 1000`,
      [workspace, after],
    );
    if (entries.length === 0) return;
    yield entries.map((one) => ({ ...one, at: one.at.toISOString() }));
    after = entries.at(-1)?.id ?? after;
  }
}
