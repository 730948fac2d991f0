import type { Response } from 'express';
import { Zip, ZipDeflate } from 'fflate';
import { select } from '../../db/connect.ts';
import { ResponseStream } from '../../http/backpressure.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { notFound } from '../../platform/failure.ts';
import { unpack } from '../../platform/packing.ts';
import { fileSafe, ZIP_TIME } from '../../platform/zip-files.ts';
import { setOf } from './receipts.ts';

const TYPES: Record<string, string> = {
  csv: 'text/csv',
  tsv: 'text/tab-separated-values',
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
};

/** A set's files in the order in which they were written, with how many parts of each are kept. */
async function filesOf(caller: PlanCaller, set: string): Promise<{ file: string; parts: number }[]> {
  await setOf(caller, set);
  const files = await select<{ file: string; parts: number }>(
    caller.database,
    'select file, count(*)::int as parts from sheet_parts where set_id = $1 group by file order by file',
    [set],
  );
  if (files.length === 0)
    throw notFound('sheet of this set any more: only its receipt is kept. Write the sheets again');
  return files;
}

async function* partsOf(
  { database }: PlanCaller,
  set: string,
  file: string,
  parts: number,
): AsyncGenerator<Buffer> {
  for (let n = 0; n < parts; n++) {
    const [part] = await select<{ data: Buffer }>(
      database,
      'select data from sheet_parts where set_id = $1 and file = $2 and n = $3',
      [set, file, n],
    );
    if (part) yield await unpack(part.data);
  }
}

function asAttachment(response: Response, name: string, type: string) {
  response.attachment(name).type(type).set('cache-control', 'no-store');
}

/** Streams one sheet, byte by byte as the outlet wants it. */
export async function sendFile(
  caller: PlanCaller,
  set: string,
  file: string,
  response: Response,
): Promise<void> {
  const { profile, format } = await setOf(caller, set);
  const found = (await filesOf(caller, set)).find((one) => one.file === file);
  if (!found) throw notFound('sheet in this set');
  const charset = format === 'xlsx' ? '' : `; charset=${profile.file.encoding}`;
  asAttachment(response, file, `${TYPES[format] ?? 'text/plain'}${charset}`);
  const out = new ResponseStream(response);
  for await (const part of partsOf(caller, set, file, found.parts)) await out.write(part);
  out.end();
}

/** Streams all sheets of a set as a zip. */
export async function sendZip(caller: PlanCaller, set: string, response: Response): Promise<void> {
  const { outlet, n } = await setOf(caller, set);
  const files = await filesOf(caller, set);
  const [plan] = await select<{ name: string }>(
    caller.database,
    'select name from briefs where plan_id = $1',
    [caller.plan],
  );
  asAttachment(response, `${fileSafe(plan?.name ?? '')}-${outlet}-${n}.zip`, 'application/zip');
  const out = new ResponseStream(response);
  const ready: Uint8Array[] = [];
  const zip = new Zip((error, chunk) => {
    if (error) throw error;
    ready.push(chunk);
  });
  for (const { file, parts } of files) {
    const entry = new ZipDeflate(file, { level: 4 });
    entry.mtime = ZIP_TIME;
    zip.add(entry);
    for await (const part of partsOf(caller, set, file, parts)) {
      entry.push(part, false);
      for (const chunk of ready.splice(0)) await out.write(chunk);
    }
    entry.push(new Uint8Array(), true);
  }
  zip.end();
  for (const chunk of ready) await out.write(chunk);
  out.end();
}
