import * as api from '@sprig/contracts';
import { type RowKind, rowKinds } from '@sprig/core/outlets';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { shipping } from '../../testing/shipping.ts';
import {
  built,
  type Refused,
  startTestServer,
  succeeded,
  type TestServer,
  takeIn,
} from '../../testing/start-test-server.ts';

let server: TestServer;
beforeAll(async () => {
  server = await startTestServer();
});
afterAll(() => server.stop());
const { shippable, choose, ship, change, textOf } = shipping(() => server);

const outlet = 'fennelwick';
const view = async (plan: number) => (await server.call(api.viewRows, { params: { plan, outlet } })).look;
async function look(plan: number): Promise<api.RowsLook> {
  const { job } = await server.call(api.startRows, { params: { plan, outlet } });
  await succeeded(server, plan, job);
  const seen = await view(plan);
  if (!seen) throw new Error('There is no look.');
  return seen;
}
type Asked = { change?: api.RowChange | 'all'; words?: string; from?: number; count?: number };
const page = (plan: number, stamp: number, kind: RowKind, asked: Asked = {}) =>
  server.call(api.pageOutletRows, {
    params: { plan, outlet },
    body: { stamp, kind, count: 500, ...asked },
  });

async function toShip(list?: string): Promise<number> {
  const plan = await shippable(list);
  await choose(plan, outlet, true, ['consent']);
  await built(server, plan);
  return plan;
}

describe('every row before it goes', () => {
  test('is that of the sheets, cell by cell, kind by kind', async () => {
    const plan = await toShip();
    const { stamp, kinds } = await look(plan);
    const cells: string[] = [];
    for (const kind of rowKinds) {
      const { total, rows } = await page(plan, stamp, kind);
      expect(total).toBe(Object.values(kinds[kind].counts).reduce((sum, one) => sum + one, 0));
      expect(rows.every(({ change }) => change === 'added')).toBe(true);
      cells.push(...rows.map((row) => row.cells.filter((cell) => cell !== '').join('|')));
    }
    const { sheetSet } = await ship(plan, outlet);
    const sheet = await textOf(plan, sheetSet, 'fennelwick.csv');
    const lines = sheet.split('\r\n').slice(1, -1);
    expect(cells.length).toBe(lines.length);
    // Cells stand in another order in the sheet; each of its lines says the same as one of the rows.
    const sorted = (text: string) =>
      text
        .replaceAll('"', '')
        .split(/[|,]/)
        .filter((cell) => cell !== '')
        .sort()
        .join('|');
    expect(cells.map(sorted).sort()).toEqual(lines.map(sorted).sort());
  });

  test('says what is new, changed, gone, the same, and what it was before', async () => {
    const plan = await toShip();
    await ship(plan, outlet);
    await change(plan);
    const { stamp, kinds } = await look(plan);
    expect(kinds.keyword.counts).toEqual({ added: 2, changed: 1, removed: 2, same: 5 });
    const changed = await page(plan, stamp, 'keyword', { change: 'changed' });
    const bid = kinds.keyword.values.indexOf('bid');
    expect(changed.rows.map(({ cells, before }) => [cells[bid], before[bid]])).toEqual([['0.91', '0.50']]);
    const gone = await page(plan, stamp, 'keyword', { change: 'removed' });
    expect(gone.rows.every(({ cells }) => cells.includes('canoe'))).toBe(true);
    const added = await page(plan, stamp, 'group', { change: 'added' });
    expect(added.rows.map(({ cells }) => cells.includes('raft'))).toEqual([true]);
  });

  test('is found by its words, in any order, page by page, over the borders of what is kept together', async () => {
    const list = Array.from({ length: 640 }, (_, n) => `lamp ${n} ${n % 7 === 0 ? 'brass' : 'steel'}`);
    const plan = await toShip(`${list.join('\n')}\n`);
    const { stamp, kinds } = await look(plan);
    const all = kinds.keyword.counts.added;
    expect(all).toBe(1_280);
    const first = await page(plan, stamp, 'keyword', { from: 490, count: 20 });
    const whole = [
      ...(await page(plan, stamp, 'keyword', { from: 0 })).rows,
      ...(await page(plan, stamp, 'keyword', { from: 500 })).rows,
      ...(await page(plan, stamp, 'keyword', { from: 1_000 })).rows,
    ];
    expect(whole).toHaveLength(all);
    expect(first.rows.map(({ cells }) => cells)).toEqual(whole.slice(490, 510).map(({ cells }) => cells));
    const brass = whole.filter(({ cells }) => cells.join(' ').includes('brass'));
    const found = await page(plan, stamp, 'keyword', { words: 'BRASS lamp' });
    expect(found.total).toBe(brass.length);
    expect(found.rows.map(({ cells }) => cells)).toEqual(brass.slice(0, 500).map(({ cells }) => cells));
    expect(await page(plan, stamp, 'keyword', { words: 'tin' })).toEqual({ total: 0, rows: [] });
    expect((await page(plan, stamp, 'keyword', { from: 5_000 })).rows).toEqual([]);
    expect((await page(plan, stamp, 'extra')).total).toBe(0);
  });

  test('is looked at anew once the plan was changed, and never told as it was', async () => {
    const plan = await toShip();
    const { stamp } = await look(plan);
    await takeIn(server, plan, 'raft\t50\n');
    expect(await view(plan)).toBeNull();
    const refused = await page(plan, stamp, 'keyword').catch((error: unknown) => error as Refused);
    expect(refused).toMatchObject({ status: 409 });
    await built(server, plan);
    expect(await view(plan)).toBeNull();
    expect((await look(plan)).stamp).not.toBe(stamp);
    expect(await server.call(api.viewRows, { params: { plan, outlet: 'quillmere' } })).toEqual({
      look: null,
    });
  });
});
