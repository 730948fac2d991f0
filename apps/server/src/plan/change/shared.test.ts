import * as api from '@sprig/contracts';
import { emptyRecipe } from '@sprig/core/mix';
import { plainOutlet } from '@sprig/core/outlets';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { followed, planOf, startTestServer, type TestServer } from '../../testing/start-test-server.ts';

let server: TestServer;
let plans: number[];
beforeAll(async () => {
  server = await startTestServer();
  plans = [];
  for (let at = 1; at <= 5; at++) plans.push(await planOf(server, `Plan ${at}`));
});
afterAll(() => server.stop());

/** What came of calls that were sent at once: how many were told yes. */
async function atOnce(calls: (() => Promise<unknown>)[]): Promise<{ yes: number; refusals: unknown[] }> {
  const ended = await Promise.allSettled(calls.map((one) => one()));
  const refusals = ended.flatMap((one) => (one.status === 'rejected' ? [one.reason.status] : []));
  return { yes: ended.length - refusals.length, refusals };
}

describe('what plans share, changed by several of them at once', () => {
  test.each(Array.from({ length: 6 }, (_, at) => at))(
    'a word list’s text: one is told yes, time %i',
    async (at) => {
      const [first = 0] = plans;
      const { id: list } = await server.call(api.makeWordList, {
        params: { plan: first },
        body: { name: `Words ${at}`, text: 'tea', takes: [] },
      });
      const edit = (plan: number) => () =>
        server.call(api.editWordList, {
          params: { plan, list },
          body: { edits: [{ at: 'text', before: 'tea', after: `tea\nof plan ${plan}` }] },
        });
      const { yes, refusals } = await atOnce(plans.map(edit));
      expect([yes, refusals]).toEqual([1, plans.slice(1).map(() => 409)]);
    },
  );

  test('a word list’s text and its name: both are kept', async () => {
    const [one = 0, other = 0] = plans;
    const { id: list } = await server.call(api.makeWordList, {
      params: { plan: one },
      body: { name: 'Cups', text: 'cup', takes: [] },
    });
    const edit = (plan: number, at: string, before: string, after: string) => () =>
      server.call(api.editWordList, { params: { plan, list }, body: { edits: [{ at, before, after }] } });
    const { yes } = await atOnce([edit(one, 'text', 'cup', 'cup\nmug'), edit(other, 'name', 'Cups', 'Mugs')]);
    expect(yes).toBe(2);
    const { shared } = await server.call(api.readMix, { params: { plan: one } });
    expect(shared.find(({ id }) => id === list)).toMatchObject({ name: 'Mugs', text: 'cup\nmug' });
  });

  test('a list of negatives is renamed by one of them', async () => {
    const [first = 0] = plans;
    const { id: list } = await server.call(api.makeShared, {
      params: { plan: first },
      body: { name: 'Never', about: '' },
    });
    const { yes, refusals } = await atOnce(
      plans.map(
        (plan) => () =>
          server.call(api.renameShared, {
            params: { plan, list },
            body: { name: `Never of ${plan}`, before: 'Never' },
          }),
      ),
    );
    expect([yes, refusals]).toEqual([1, plans.slice(1).map(() => 409)]);
  });

  test('one name is given once', async () => {
    const same = (plan: number) => () =>
      server.call(api.makeShared, { params: { plan }, body: { name: 'Only once', about: '' } });
    expect((await atOnce(plans.map(same))).yes).toBe(1);
    const key = 'only-once';
    const outlet = { ...structuredClone(plainOutlet), key, name: 'Only once' };
    const keep = (plan: number) => () =>
      server.call(api.keepOutlet, { params: { plan, outlet: key }, body: { outlet, isNew: true } });
    expect((await atOnce(plans.map(keep))).yes).toBe(1);
  });

  test('the same negative put into one list by all of them stands there once', async () => {
    const [first = 0] = plans;
    const { id: list } = await server.call(api.makeShared, {
      params: { plan: first },
      body: { name: 'Broken things', about: '' },
    });
    const add = (plan: number) => () =>
      server.call(api.addNegatives, {
        params: { plan },
        body: { negatives: [{ text: 'broken', type: 'broad' }], reason: 'hand', list },
      });
    expect((await atOnce(plans.map(add))).yes).toBe(plans.length);
    const { lists } = await server.call(api.listShared, { params: { plan: first } });
    expect(lists.find(({ id }) => id === list)).toMatchObject({
      plans: plans.length,
      negatives: [{ text: 'broken' }],
    });
    expect(lists.find(({ id }) => id === list)?.negatives).toHaveLength(1);
  });
});

describe('other plans follow what they share', () => {
  const makeList = async (plan: number, name: string) => {
    const { id: list } = await server.call(api.makeShared, { params: { plan }, body: { name, about: '' } });
    return list;
  };
  const add = (plan: number, list: number, text: string) =>
    server.call(api.addNegatives, {
      params: { plan },
      body: { negatives: [{ text, type: 'broad' }], reason: 'hand', list },
    });
  const labelOf = async (plan: number) =>
    (await server.call(api.planHistory, { params: { plan } })).changes[0]?.label;

  test('also one that is busy: it is told with the change, and follows when it can', async () => {
    const [one = 0, other = 0] = plans;
    const list = await makeList(one, 'Followed');
    await add(other, list, 'free');
    const busy = await server.database.transaction();
    await server.database.query('select 1 from plans where id = $1 for no key update', {
      bind: [other],
      transaction: busy,
    });
    expect((await add(one, list, 'cheap')).added).toBe(1);
    await busy.commit();
    await followed(server);
    expect(await labelOf(other)).toBe('The shared list Followed was changed');
  });

  test('none is told of a change that fails', async () => {
    const [one = 0, other = 0] = plans;
    const list = await makeList(one, 'Not followed');
    await add(other, list, 'free');
    await followed(server);
    const before = await labelOf(other);
    await server.database.query(`create function no_change() returns trigger language plpgsql as $$ begin
        raise exception 'no'; end $$;
      create trigger no_change before insert on changes for each row execute function no_change()`);
    await expect(add(one, list, 'cheap')).rejects.toMatchObject({ status: 500 });
    await server.database.query('drop function no_change cascade');
    await followed(server);
    expect(await labelOf(other)).toBe(before);
  });
});

describe('a step that made something shared is taken back', () => {
  const undo = (plan: number) => server.call(api.undoChange, { params: { plan }, body: { force: true } });
  const body = { name: 'Shared by two', text: 'tea', takes: [] };

  test('not while another plan has it: it is told which', async () => {
    const maker = await planOf(server, 'The maker');
    const user = await planOf(server, 'The user');
    const own = { params: { plan: maker } };
    const other = { params: { plan: user } };
    const { id: negatives } = await server.call(api.makeShared, {
      ...own,
      body: { name: 'Never here', about: '' },
    });
    await server.call(api.attachShared, {
      params: { plan: user, list: negatives },
      body: { attach: true },
    });
    await expect(undo(maker)).rejects.toThrow('“The user”');
    await server.call(api.attachShared, {
      params: { plan: user, list: negatives },
      body: { attach: false },
    });
    await undo(maker);

    const { id: words } = await server.call(api.makeWordList, { ...own, body });
    const lists = [{ id: 1, kind: 'shared' as const, list: words }];
    const recipe = { ...emptyRecipe('Teas'), lists };
    const { id: made } = await server.call(api.makeRecipe, { ...other, body: { recipe } });
    await expect(undo(maker)).rejects.toThrow('a shared list of words that other plans use: “The user”');
    await server.call(api.removeRecipe, { params: { plan: user, recipe: made }, body: {} });
    await undo(maker);

    const outlet = { ...structuredClone(plainOutlet), key: 'of-two', name: 'Of two' };
    await server.call(api.keepOutlet, {
      params: { plan: maker, outlet: outlet.key },
      body: { outlet, isNew: true },
    });
    const choice = { params: { plan: user, outlet: outlet.key } };
    await server.call(api.chooseOutlet, { ...choice, body: { chosen: true } });
    await expect(undo(maker)).rejects.toThrow('an outlet that other plans use');
    await server.call(api.chooseOutlet, { ...choice, body: { chosen: false } });
    await undo(maker);
  });
});
