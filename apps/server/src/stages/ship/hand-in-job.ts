import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { createGunzip, createGzip } from 'node:zlib';
import { decoderOf } from '@sprig/core/gather';
import { decimalsOf } from '@sprig/core/money';
import { readCells, readSheet, SHEET_PART } from '@sprig/core/sheets';
import {
  type Account,
  type AccountRow,
  Engine,
  emptyAccount,
  type HandedIn,
  packAccount,
  rowsOfPacked,
  SheetCells,
  unpackAccount,
} from '@sprig/market';
import { Unzip, UnzipInflate } from 'fflate';
import type { Transaction } from 'sequelize';
import { z } from 'zod';
import { select } from '../../db/connect.ts';
import { findOne, keepRow } from '../../db/rows.ts';
import { currencyOf } from '../../plan/currency-of.ts';
import { chosenOutlets } from '../../plan/outlets.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { LEVEL, unpack } from '../../platform/packing.ts';
import { type AnswerSummary, keepAnswer, type Refusal, refusalOf } from './answers.ts';
import { filesOfSet, type SetRow, setOf } from './receipts.ts';
import { hasStandIn } from './stand-in.ts';

const handInInput = z.object({ set: z.uuid() });

/** Hands a set's sheets to the simulated engine of its outlet, and reads its answer as one would a real one's. */
export async function handInJob(context: JobContext): Promise<AnswerSummary> {
  const { caller } = context;
  const set = await setOf(caller, handInInput.parse(context.input).set);
  if (!hasStandIn(set.outlet))
    throw new SprigFailure(
      'invalid',
      `No simulated engine takes sheets of ${set.profile.name}: hand them in where they belong, and read the answer here.`,
    );
  await context.phase('handing in');
  const files = await handedIn(caller, set);
  const account = await accountOf(caller, set.outlet);
  const chosen = (await chosenOutlets(caller)).find(({ outlet }) => outlet.key === set.outlet);
  const decimals = decimalsOf(await currencyOf(caller, null));
  const today = new Date().toISOString().slice(0, 10);
  const answer = new Engine(set.profile, account, chosen?.body.ticks ?? [], today, decimals).take(files);
  const refusals: Refusal[] = [];
  for (const { name, text } of answer.answers)
    for (const row of readSheet(text, set.profile, decimals, name).rows)
      if (row.refusal !== '') refusals.push(refusalOf(name, row));
  // A file that is refused as a whole is refused with every row of it.
  for (const file of files) {
    const whole =
      answer.refused || answer.verdicts.find(({ file: of, line }) => of === file.name && line === 0)?.reason;
    if (whole)
      for (const row of readBack(file, set, decimals))
        refusals.push({ ...refusalOf(file.name, row), reason: whole });
  }
  await context.phase('reading the answer');
  return keepAnswer(caller, set.id, refusals, (transaction) =>
    keepAccount(caller, transaction, set.outlet, account),
  );
}

function readBack(file: HandedIn, { profile }: SetRow, decimals: number) {
  if ('cells' in file) return readCells(file.cells, profile, decimals).rows;
  const { encoding } = profile.file;
  return readSheet(
    decoderOf(encoding, (name) => new TextDecoder(name)).decode(file.bytes),
    profile,
    decimals,
    file.name,
  ).rows;
}

async function handedIn(caller: PlanCaller, set: SetRow): Promise<HandedIn[]> {
  const files: HandedIn[] = [];
  for (const { name } of filesOfSet(set)) {
    const parts = await select<{ data: Buffer }>(
      caller.database,
      'select data from sheet_parts where set_id = $1 and file = $2 order by n',
      [set.id, name],
    );
    if (parts.length === 0)
      throw new SprigFailure('not-found', 'The sheets of this set are not kept any more: write them again.');
    const pieces = await Promise.all(parts.map(({ data }) => unpack(data)));
    files.push(
      set.format === 'xlsx' ? { name, cells: cellsIn(pieces) } : { name, bytes: Buffer.concat(pieces) },
    );
  }
  return files;
}

/** The cells of a workbook's sheet. Its XML, which may be too long for one text, is read as it is unpacked. */
function cellsIn(workbook: readonly Uint8Array[]): string[][] {
  const sheet = new SheetCells();
  const decoder = new TextDecoder();
  const unzip = new Unzip((entry) => {
    if (entry.name !== SHEET_PART) return;
    entry.ondata = (error, data, isLast) => {
      if (error) throw error;
      sheet.push(decoder.decode(data, { stream: !isLast }));
    };
    entry.start();
  });
  unzip.register(UnzipInflate);
  for (const piece of workbook) unzip.push(piece);
  unzip.push(new Uint8Array(), true);
  return sheet.rows;
}

/** The account that a simulated engine keeps of a plan, as it is packed; null: it has none yet. */
async function packedAccount(caller: PlanCaller, outlet: string) {
  const row = await findOne(caller, 'stand_in_accounts', { columns: ['data'], where: { outlet } });
  return row ? Readable.from([row.data]).pipe(createGunzip()).setEncoding('utf8') : null;
}

/** The day on which sheets were handed in there last. */
export async function accountDay(caller: PlanCaller, outlet: string): Promise<string> {
  const packed = await packedAccount(caller, outlet);
  let day = '';
  if (packed)
    for await (const _ of rowsOfPacked(packed, (head) => {
      day = head.day;
    }))
      break;
  return day || new Date().toISOString().slice(0, 10);
}

/** Its rows, one after another. */
export async function* accountRows(caller: PlanCaller, outlet: string): AsyncGenerator<AccountRow> {
  const packed = await packedAccount(caller, outlet);
  if (packed) yield* rowsOfPacked(packed);
}

async function accountOf(caller: PlanCaller, outlet: string): Promise<Account> {
  const packed = await packedAccount(caller, outlet);
  return packed ? unpackAccount(packed) : emptyAccount();
}

async function keepAccount(
  caller: PlanCaller,
  transaction: Transaction,
  outlet: string,
  account: Account,
): Promise<void> {
  const data = await buffer(Readable.from(packAccount(account)).pipe(createGzip(LEVEL)));
  await keepRow(caller, 'stand_in_accounts', { outlet, data }, transaction);
}
