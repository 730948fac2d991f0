import { spawn } from 'node:child_process';
import { once } from 'node:events';
import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import * as api from '@sprig/contracts';
import { afterAll, beforeAll, expect, test } from 'vitest';
import { shipping } from '../testing/shipping.ts';
import { startTestServer, type TestServer } from '../testing/start-test-server.ts';

const script = fileURLToPath(new URL('../../../../scripts/sprig.mjs', import.meta.url));
const folder = mkdtempSync(join(tmpdir(), 'sprig-command-'));
let server: TestServer;
let token: string;
beforeAll(async () => {
  server = await startTestServer();
  token = await makeToken('builder', ['ship']);
});
afterAll(async () => {
  rmSync(folder, { recursive: true, force: true });
  await server.stop();
});

const makeToken = async (role: api.PlanRole, permissions: api.Permission[]) =>
  (await server.call(api.makeToken, { body: { name: `A ${role}`, role, permissions, plan: null, days: 1 } }))
    .token;

async function sprig(args: string[], env: Record<string, string> = {}) {
  const child = spawn(process.execPath, [script, ...args], {
    env: {
      PATH: process.env.PATH ?? '',
      SPRIG_URL: server.url,
      SPRIG_TOKEN: token,
      INIT_CWD: folder,
      ...env,
    },
  });
  let words = '';
  for (const out of [child.stdout, child.stderr])
    out.on('data', (piece) => {
      words += piece;
    });
  const [status] = await once(child, 'close');
  return { status, words };
}

test('a plan is made of a list, with the rules of an outset', async () => {
  writeFileSync(join(folder, 'list.csv'), 'Keyword;Searches\nzahnkrone;1.300\nteapot;900\nmug;80\n');
  const { shippable } = shipping(() => server);
  const model = await shippable();
  await server.call(api.keepOutset, {
    params: { plan: model },
    body: { name: 'Usual', parts: [...api.outsetParts], instead: null },
  });
  const { status, words } = await sprig([
    'plan',
    'Pots',
    '--list',
    'list.csv',
    '--outset',
    'Usual',
    '--site',
    'pots.example',
  ]);
  expect([status, words]).toEqual([
    0,
    expect.stringMatching(/^3 keywords in \d+ ad groups: .*\/plans\/\d+\n\d+\n$/),
  ]);
  const plan = Number(words.trim().split('\n').at(-1));
  const state = await server.call(api.openPlan, { params: { plan } });
  expect(state).toMatchObject({ brief: { name: 'Pots', site: 'pots.example' }, counts: { keywords: 3 } });
  const { changes } = await server.call(api.planHistory, { params: { plan } });
  expect(new Set(changes.map(({ actor }) => actor))).toEqual(new Set(['A builder']));

  const sheets = await sprig(['sheets', String(plan), '--outlet', 'plain', '--into', 'out']);
  expect([sheets.status, sheets.words]).toEqual([0, expect.stringContaining(join(folder, 'out'))]);
  const files = readdirSync(join(folder, 'out'));
  expect(files.length).toBeGreaterThan(2);
  const keywords = files.find((name) => name.includes('keyword')) ?? '';
  expect(readFileSync(join(folder, 'out', keywords), 'utf8')).toContain('zahnkrone');
}, 60_000);

test.each([
  [['plan', 'Pots'], {}, 'npm run sprig -- plan NAME'],
  [['plan', 'Pots', '--list', 'none.csv'], {}, 'There is no file'],
  [['plan', 'Pots', '--list', 'list.csv', '--outset', 'No such'], {}, 'There is no outset “No such”.'],
  [['sheets', 'x', '--outlet', 'plain'], {}, 'npm run sprig -- plan NAME'],
  [['sheets', '9999', '--outlet', 'plain'], {}, 'There is no such plan.'],
  [['dance'], {}, 'npm run sprig -- plan NAME'],
  [['plan', 'Pots', '--list', 'list.csv'], { SPRIG_TOKEN: '' }, 'SPRIG_TOKEN is not set'],
  [['plan', 'Pots', '--list', 'list.csv'], { SPRIG_TOKEN: 'sprig_x' }, 'This token does not work'],
  [
    ['plan', 'Pots', '--list', 'list.csv'],
    { SPRIG_URL: 'http://127.0.0.1:1' },
    'Nothing answers at http://127.0.0.1:1.',
  ],
])('what can’t be is said: %j', async (args, env, told) => {
  const { status, words } = await sprig(args, env);
  expect([status, words]).toEqual([1, expect.stringContaining(told)]);
});

test('a token that may not is refused in the server’s words', async () => {
  const { status, words } = await sprig(['plan', 'Pots', '--list', 'list.csv'], {
    SPRIG_TOKEN: await makeToken('reader', []),
  });
  expect([status, words]).toEqual([1, expect.stringContaining('You may not change this part of the plan')]);
});
