import type { Readable } from 'node:stream';
import { MOST_UPLOAD_BYTES } from '@sprig/contracts';
import { execute, select } from '../../db/connect.ts';
import { patchRows, removeRows } from '../../db/rows.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { config } from '../../platform/config.ts';
import { notFound, SprigFailure } from '../../platform/failure.ts';
import { log } from '../../platform/log.ts';

const PART = 1_048_576;
const tooLarge = () =>
  new SprigFailure(
    'too-large',
    `A list may weigh ${MOST_UPLOAD_BYTES / 1_000_000} MB. Split the file and bring in the parts.`,
  );

/** Keeps a stream in parts, whatever its length up to the limit, in bounded memory. */
export async function keepUpload(
  caller: PlanCaller,
  stream: Readable,
  announced: number,
): Promise<{ upload: string; bytes: number }> {
  if (announced > MOST_UPLOAD_BYTES) throw tooLarge();
  const { database, workspace, plan } = caller;
  await execute(
    database,
    `delete from uploads where workspace_id = $1
       and (created_at < now() - interval '1 day' or not whole and created_at < now() - interval '1 hour')`,
    [workspace],
  );
  await assertRoom(caller, announced);
  const [row] = await select<{ id: string }>(
    database,
    'insert into uploads (workspace_id, plan_id) values ($1, $2) returning id',
    [workspace, plan],
  );
  const upload = row?.id ?? '';
  try {
    return { upload, bytes: await keepParts(caller, upload, stream) };
  } catch (error) {
    // What is broken off, or too large, is of no use to anybody.
    await removeRows(caller, 'uploads', { id: upload }).catch((why) =>
      log.warn({ error: why, upload }, 'could not remove a broken upload'),
    );
    throw error;
  }
}

/** Uploads of a workspace that are kept at once: they go after a day. */
const spaceMb = () => config().UPLOAD_SPACE_MB;

async function assertRoom({ database, workspace }: PlanCaller, announced: number): Promise<void> {
  const [kept] = await select<{ bytes: number }>(
    database,
    'select coalesce(sum(bytes), 0)::bigint as bytes from uploads where workspace_id = $1',
    [workspace],
  );
  if ((kept?.bytes ?? 0) + announced <= spaceMb() * 1_000_000) return;
  throw new SprigFailure(
    'too-large',
    `The lists and sheets of the last day take up all room that there is for them (${spaceMb().toLocaleString('en')} MB). Try again tomorrow, or start the server with a larger UPLOAD_SPACE_MB.`,
  );
}

async function keepParts(caller: PlanCaller, upload: string, stream: Readable): Promise<number> {
  let bytes = 0;
  let part = 0;
  let waiting: Buffer[] = [];
  let weight = 0;
  const utf8 = new Utf8Check();
  const flush = async () => {
    await execute(caller.database, 'insert into upload_parts (upload_id, n, data) values ($1, $2, $3)', [
      upload,
      part++,
      Buffer.concat(waiting),
    ]);
    waiting = [];
    weight = 0;
  };
  for await (const chunk of stream as AsyncIterable<Buffer>) {
    bytes += chunk.length;
    if (bytes > MOST_UPLOAD_BYTES) throw tooLarge();
    utf8.push(chunk);
    waiting.push(chunk);
    weight += chunk.length;
    if (weight >= PART) await flush();
  }
  await flush();
  await patchRows(caller, 'uploads', { id: upload }, { bytes, whole: true, utf8: utf8.isSound });
  return bytes;
}

/** Tells of bytes as they come whether they are sound UTF-8; a character that is cut off at the end is no flaw. */
class Utf8Check {
  isSound = true;
  private readonly decoder = new TextDecoder('utf-8', { fatal: true });

  push(bytes: Uint8Array): void {
    if (!this.isSound) return;
    try {
      this.decoder.decode(bytes, { stream: true });
    } catch {
      this.isSound = false;
    }
  }
}

export type Upload = { isUtf8: boolean; parts: () => AsyncGenerator<Uint8Array> };

/** An upload that came in whole, to be read part by part as often as needed. The next part is fetched meanwhile. */
export async function uploadParts(
  { database, workspace, plan }: PlanCaller,
  upload: string,
): Promise<Upload> {
  const [found] = await select<{ parts: number; utf8: boolean }>(
    database,
    `select count(*)::int as parts, bool_and(u.utf8) as utf8 from upload_parts p join uploads u on u.id = p.upload_id
     where u.id = $1 and u.workspace_id = $2 and u.plan_id = $3 and u.whole`,
    [upload, workspace, plan],
  );
  const count = found?.parts ?? 0;
  if (count === 0) throw notFound('upload any more: bring the list in again');
  const part = async (n: number) => {
    const sql = 'select data from upload_parts where upload_id = $1 and n = $2';
    const [row] = await select<{ data: Buffer }>(database, sql, [upload, n]);
    // It is gone with its upload, by the day that it is kept.
    if (!row) throw notFound('upload any more: bring the list in again');
    return row.data;
  };
  return {
    isUtf8: found?.utf8 === true,
    parts: async function* () {
      let next = part(0);
      for (let n = 0; n < count; n++) {
        const data = await next;
        if (n + 1 < count) {
          next = part(n + 1);
          // Whoever reads no further does not hear of it.
          next.catch(() => {});
        }
        yield data;
      }
    },
  };
}
