import type * as api from '@sprig/contracts';
import { plainOutlet } from '@sprig/core/outlets';
import { toldValues } from '@sprig/core/sheets';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../../db/connect.ts';
import { shipping } from '../../testing/shipping.ts';
import { startTestServer, type TestServer } from '../../testing/start-test-server.ts';
import { keepAnswer } from './answers.ts';
import { knownSet } from './known-set.ts';
import { atOneMoment } from './moment.ts';
import { lastSet } from './receipts.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());
const { shippable, check, ship } = shipping(() => server);

describe('an answer while the plan is looked through', () => {
  const values = toldValues(plainOutlet);
  const refusal = (text: string, group: string) => ({
    file: 'keywords.csv',
    line: 2,
    key: ['keyword', 'Kayaks', group, 'exact', text].join('\u001f'),
    reason: 'Bid too low',
  });
  const newRows = async (plan: number) => {
    const { outlets } = await check(plan);
    const { added, same } = outlets.find(({ outlet }) => outlet.key === 'plain')?.check?.difference ?? {};
    return [added, same];
  };
  async function shipped() {
    const plan = await shippable();
    await check(plan);
    const { sheetSet } = await ship(plan, 'plain');
    const rows = await select<{ text: string; name: string }>(
      server.database,
      `select k.text, g.name from keyword_rows k join ad_groups g on g.plan_id = k.plan_id and g.key = k.group_key
       where k.plan_id = $1 and k.type = 3 order by k.text limit 2`,
      [plan],
    );
    const [refused, others] = rows.map(({ text, name }) => [refusal(text, name)]);
    const caller = { database: server.database, workspace: 1, actor: 1, plan };
    return { plan, sheetSet, caller, refused: refused ?? [], others: others ?? [] };
  }

  test('that comes before the look has ended makes it of yesterday', async () => {
    const { plan, sheetSet, caller, refused } = await shipped();
    let answering: Promise<unknown> = Promise.resolve();
    await atOneMoment(caller, async (moment) => {
      await knownSet(caller, await lastSet(caller, 'plain', moment.reading), values, moment);
      answering = keepAnswer(caller, sheetSet, refused);
      await new Promise((done) => setTimeout(done, 100));
    });
    await answering;
    const [added, same] = await newRows(plan);
    expect(added).toBe(1);
    expect(same).toBeGreaterThan(10);
  });

  test('that came after the look had begun is not written over by it', async () => {
    const { plan, sheetSet, caller, refused } = await shipped();
    await atOneMoment(caller, async (moment) => {
      const last = await lastSet(caller, 'plain', moment.reading);
      await keepAnswer(caller, sheetSet, refused);
      const { rows } = await knownSet(caller, last, values, moment);
      expect(rows.rowOf(refused[0]?.key ?? '')).toBeGreaterThanOrEqual(0);
    });
    expect((await newRows(plan))[0]).toBe(1);
  });

  test('another one that refuses as many is another one', async () => {
    const { plan, sheetSet, caller, refused, others } = await shipped();
    await keepAnswer(caller, sheetSet, refused);
    const before = await check(plan);
    await keepAnswer(caller, sheetSet, others);
    const after = await check(plan);
    const told = (view: api.ShipView) => view.outlets[0]?.check?.difference?.rows.map(({ text }) => text);
    expect(told(before)).toHaveLength(1);
    expect(told(after)).toHaveLength(2);
  });
});
