import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { basename, join, resolve } from 'node:path';
import { setTimeout as delay } from 'node:timers/promises';
import { parseArgs } from 'node:util';
import { main, SetupFailure } from './setup/stop-with.mjs';

const USAGE = `Makes plans and writes sheets through the API, as the token may.

  npm run sprig -- plan NAME --list FILE [--outset NAME] [--currency GBP] [--site shop.example]
      makes a plan of a list of keywords, with the rules of an outset, and prints its number
  npm run sprig -- sheets PLAN --outlet KEY [--into FOLDER] [--format csv] [--difference]
      writes the plan's sheets for an outlet that it ships to, all or what differs from the last receipt

SPRIG_TOKEN has the token (People, Tokens), SPRIG_URL where Green Sprig is; http://127.0.0.1:4600 unless set.`;

const LOOK_MS = 100;
const base = (process.env.SPRIG_URL ?? 'http://127.0.0.1:4600').replace(/\/+$/, '');

/** Asks the server; what it refuses is told in its own words. */
async function ask(method, path, body) {
  const isBytes = body instanceof Uint8Array;
  const answer = await fetch(`${base}/api${path}`, {
    method,
    headers: {
      authorization: `Bearer ${process.env.SPRIG_TOKEN}`,
      'content-type': isBytes ? 'application/octet-stream' : 'application/json',
    },
    ...(body === undefined ? {} : { body: isBytes ? body : JSON.stringify(body) }),
  }).catch(() => {
    throw new SetupFailure(`Nothing answers at ${base}. Start Green Sprig, or set SPRIG_URL.`);
  });
  if (answer.ok) return answer;
  const { message = `The server answered ${answer.status}.`, at } = await answer.json().catch(() => ({}));
  throw new SetupFailure(at ? `${message} (${at})` : message);
}
const told = async (...asked) => (await ask(...asked)).json();

/** What a job answered, once it has ended. */
async function ended(plan, job) {
  for (;;) {
    const { status, failure, result } = await told('GET', `/plans/${plan}/jobs/${job}`);
    if (status === 'done') return result;
    if (status !== 'queued' && status !== 'running')
      throw new SetupFailure(failure?.message ?? 'It was stopped.');
    await delay(LOOK_MS);
  }
}

async function built(plan) {
  for (;;) {
    const state = await told('GET', `/plans/${plan}`);
    if (state.builtRevision === state.revision) return state;
    await delay(LOOK_MS);
  }
}

async function outsetNamed(name) {
  if (name === undefined) return null;
  const { outsets } = await told('GET', '/outsets');
  const found = outsets.find((one) => one.name === name);
  if (!found)
    throw new SetupFailure(
      `There is no outset “${name}”. There are: ${outsets.map((one) => one.name).join(', ') || 'none'}.`,
    );
  return found;
}

async function makePlan([name], { list, outset: named, currency, site = '' }) {
  if (!name || !list) throw new SetupFailure(USAGE);
  if (!existsSync(list)) throw new SetupFailure(`There is no file ${list}.`);
  const outset = await outsetNamed(named);
  const { id } = await told('POST', '/plans', {
    name,
    currency: currency ?? outset?.currency ?? 'GBP',
    language: 'en',
    site,
    outset: outset?.id ?? null,
  });
  const { upload } = await told('POST', `/plans/${id}/uploads`, readFileSync(list));
  const { job } = await told('POST', `/plans/${id}/imports`, {
    upload,
    kind: 'file',
    name: basename(list),
    options: {},
  });
  await ended(id, job);
  const { counts } = await built(id);
  console.log(`${counts.keywords} keywords in ${counts.groups} ad groups: ${base}/plans/${id}`);
  console.log(String(id));
}

async function writeSheets([plan], { outlet, into = '.', format, difference }) {
  if (!/^\d+$/.test(plan ?? '') || !outlet) throw new SetupFailure(USAGE);
  await built(plan);
  const { outlets } = await told('GET', `/plans/${plan}/outlets`);
  const found = outlets.find((one) => one.outlet.key === outlet);
  if (!found?.chosen)
    throw new SetupFailure(
      `The plan does not ship to “${outlet}”. It ships to: ${outlets.flatMap((one) => (one.chosen ? [one.outlet.key] : [])).join(', ') || 'none'}.`,
    );
  const { job } = await told('POST', `/plans/${plan}/sheet-sets`, {
    outlet,
    format: format ?? found.outlet.file.formats[0],
    what: difference ? 'difference' : 'all',
    sheets: found.outlet.sheets.map(({ kind }) => kind),
  });
  const { sheetSet, files } = await ended(plan, job);
  const folder = resolve(process.env.INIT_CWD ?? '.', into);
  mkdirSync(folder, { recursive: true });
  for (const { name } of files) {
    const answer = await ask(
      'GET',
      `/plans/${plan}/sheet-sets/${sheetSet}/files/${encodeURIComponent(name)}`,
    );
    writeFileSync(join(folder, basename(name)), Buffer.from(await answer.arrayBuffer()));
    console.log(join(folder, basename(name)));
  }
}

const COMMANDS = { plan: makePlan, sheets: writeSheets };

await main(async () => {
  const { positionals, values } = parseArgs({
    allowPositionals: true,
    options: {
      list: { type: 'string' },
      outset: { type: 'string' },
      currency: { type: 'string' },
      site: { type: 'string' },
      outlet: { type: 'string' },
      into: { type: 'string' },
      format: { type: 'string' },
      difference: { type: 'boolean' },
      help: { type: 'boolean' },
    },
  });
  const [name, ...rest] = positionals;
  const command = COMMANDS[name];
  if (!command || values.help) {
    console.log(USAGE);
    if (!values.help) process.exitCode = 1;
    return;
  }
  if (!process.env.SPRIG_TOKEN)
    throw new SetupFailure('SPRIG_TOKEN is not set. An owner makes a token under People, Tokens.');
  const { list } = values;
  await command(rest, list ? { ...values, list: resolve(process.env.INIT_CWD ?? '.', list) } : values);
});
