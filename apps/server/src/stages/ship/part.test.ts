import * as api from '@sprig/contracts';
import { afterAll, beforeAll, describe, expect, test } from 'vitest';
import { select } from '../../db/connect.ts';
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
const { shippable, choose, check, ship, textOf, receiptsOf, handIn, account } = shipping(() => server);

const TEETH = 'whitening\t900\nwhitening price\t300\ncrown\t500\ncrown repair\t200\nbraces\t400\n';

/** A dentist's plan of three campaigns, a theme each, that ships to a made-up outlet. */
async function dentist(): Promise<number> {
  const plan = await shippable(TEETH);
  const params = { plan };
  await server.call(api.makeThemes, {
    params,
    body: {
      parent: null,
      themes: ['Whitening', 'Crown', 'Braces'].map((name) =>
        api.newThemeOf(name, { has: [[name.toLowerCase()]], not: [] }),
      ),
    },
  });
  const { layout } = await server.call(api.readLayout, { params });
  await server.call(api.editLayout, {
    params,
    body: {
      edits: [
        { at: 'campaignBy', before: layout.campaignBy, after: 'theme' },
        { at: 'campaignName', before: layout.campaignName, after: '@theme' },
        { at: 'grouping.kind', before: layout.grouping.kind, after: 'single' },
      ],
    },
  });
  await choose(plan, 'fennelwick', true, ['consent']);
  await choose(plan, 'plain', false);
  await built(server, plan);
  return plan;
}

const outlet = 'fennelwick';
const choicesOf = (plan: number) => server.call(api.readPartChoices, { params: { plan } });
const campaignOf = async (plan: number, name: string) =>
  (await choicesOf(plan)).campaigns.find((one) => one.name === name)?.key ?? '';
const groupOf = async (plan: number, words: string) =>
  (await server.call(api.findPartGroups, { params: { plan }, body: { words } })).groups[0]?.key ?? '';

type Chosen = Parameters<typeof api.shipPart.parse>[0];
const part = (chosen: Chosen) => api.shipPart.parse(chosen);

async function look(plan: number, chosen: Chosen) {
  const { job } = await server.call(api.startPartLook, {
    params: { plan, outlet },
    body: { part: part(chosen) },
  });
  return (await succeeded(server, plan, job)).result as Pick<api.OutletCheck, 'rows' | 'difference'>;
}

/** Ships a part; answers the lines of its sheet, without the heading. */
async function shipPart(plan: number, chosen: Chosen, what: 'all' | 'difference' = 'difference') {
  const { job } = await server.call(api.startShip, {
    params: { plan },
    body: { outlet, format: 'csv', what, sheets: ['combined'], part: part(chosen) },
  });
  const { sheetSet } = api.shipResult.parse((await succeeded(server, plan, job)).result);
  const text = await textOf(plan, sheetSet, 'fennelwick.csv');
  return { set: sheetSet, lines: text.split('\r\n').slice(1, -1) };
}

const left = async (plan: number) => {
  const view = await check(plan);
  const { added, changed, removed, same } = view.outlets[0]?.check?.difference ?? {};
  return { added, changed, removed, same };
};

describe('a part of a plan', () => {
  test('is chosen campaigns with all in them; the rest waits, and is told as new the next time', async () => {
    const plan = await dentist();
    const { added: all = 0 } = await left(plan);
    const crown = await campaignOf(plan, 'Crown');
    const seen = await look(plan, { campaigns: [crown] });
    const { lines } = await shipPart(plan, { campaigns: [crown] }, 'all');
    expect(lines.length).toBe(seen.difference.added);
    expect(lines.every((line) => line.includes('Crown'))).toBe(true);
    expect(await left(plan)).toEqual({
      added: all - lines.length,
      changed: 0,
      removed: 0,
      same: lines.length,
    });
    const [receipt] = await receiptsOf(plan);
    expect(receipt?.part).toMatchObject({
      campaigns: ['Crown'],
      campaignCount: 1,
      groupCount: 2,
      labels: [],
    });
    // A plan of which a part was shipped is not shipped.
    expect((await server.call(api.openPlan, { params: { plan } })).counts.shipped).toBe(0);
  });

  test('is chosen ad groups, behind their campaign where the outlet does not have it yet', async () => {
    const plan = await dentist();
    const group = await groupOf(plan, 'repair crown');
    const { lines } = await shipPart(plan, { groups: [group] });
    expect(lines.filter((line) => line.includes('crown repair')).length).toBeGreaterThan(2);
    // Beside what is in the ad group only its campaign's own row.
    expect(lines.filter((line) => !line.includes('crown repair'))).toHaveLength(1);
    const again = await shipPart(plan, { groups: [await groupOf(plan, 'whitening price')] });
    expect(again.lines.some((line) => line.includes('rown'))).toBe(false);
    await takeIn(server, plan, 'crown care\t100\n');
    await built(server, plan);
    const third = await shipPart(plan, { groups: [await groupOf(plan, 'crown care')] });
    // Its campaign is there by now.
    expect(third.lines.every((line) => line.includes('crown care'))).toBe(true);
  });

  test('takes the negatives of a campaign along where that is new at the outlet, and not again', async () => {
    const plan = await dentist();
    await server.call(api.addNegatives, {
      params: { plan },
      body: { negatives: [{ text: 'free', type: 'broad' }], reason: 'hand' },
    });
    await built(server, plan);
    const negatives = (lines: readonly string[]) => lines.filter((line) => line.includes('free')).length;
    const first = await shipPart(plan, { groups: [await groupOf(plan, 'crown repair')] });
    expect([negatives(first.lines), first.lines.some((line) => line.includes('Braces'))]).toEqual([1, false]);
    await takeIn(server, plan, 'crown care\t100\n');
    await built(server, plan);
    const second = await shipPart(plan, { groups: [await groupOf(plan, 'crown care')] });
    expect(negatives(second.lines)).toBe(0);
  });

  test('that has all that was left makes the plan shipped', async () => {
    const plan = await dentist();
    await ship(plan, outlet);
    const shippedTo = async () => (await server.call(api.openPlan, { params: { plan } })).counts.shipped;
    expect(await shippedTo()).toBe(1);
    await takeIn(server, plan, 'braces price\t80\n');
    await built(server, plan);
    await left(plan);
    expect(await shippedTo()).toBe(0);
    await shipPart(plan, { campaigns: [await campaignOf(plan, 'Braces')] });
    expect(await left(plan)).toMatchObject({ added: 0, changed: 0, removed: 0 });
    expect(await shippedTo()).toBe(1);
  });

  test('is what has a label; a label of a campaign is that of all in it', async () => {
    const plan = await dentist();
    const hold = (rowKey: string, value: string) =>
      server.call(api.holdValue, {
        params: { plan },
        body: { rowKey, field: 'labels', value, before: null },
      } as never);
    await hold(await groupOf(plan, 'whitening price'), 'spring');
    await hold(await campaignOf(plan, 'Braces'), 'spring, new');
    await built(server, plan);
    expect((await choicesOf(plan)).labels).toEqual([
      { label: 'new', groups: 1 },
      { label: 'spring', groups: 2 },
    ]);
    await shipPart(plan, { labels: ['spring'] });
    const [receipt] = await receiptsOf(plan);
    expect(receipt?.part).toMatchObject({ campaigns: ['Braces'], groupCount: 2, labels: ['spring'] });
  });

  test('differs by itself: what changed elsewhere is neither told nor forgotten', async () => {
    const plan = await dentist();
    await ship(plan, outlet);
    const pool = await select<{ id: number; text: string }>(
      server.database,
      'select id, text from keywords where plan_id = $1',
      [plan],
    );
    const cut = (text: string) => pool.find((row) => row.text === text)?.id ?? 0;
    await server.call(api.setCut, {
      params: { plan },
      body: { ids: [cut('crown repair'), cut('whitening price')], cut: true },
    } as never);
    await takeIn(server, plan, 'braces price\t80\n');
    await built(server, plan);
    const whole = await left(plan);
    const crown = await look(plan, { campaigns: [await campaignOf(plan, 'Crown')] });
    expect(crown.difference).toMatchObject({ added: 0, changed: 0, removed: 4 });
    expect(crown.difference.rows.every(({ campaign }) => campaign === 'Crown')).toBe(true);
    const { lines } = await shipPart(plan, { campaigns: [await campaignOf(plan, 'Crown')] });
    expect(lines).toHaveLength(4);
    expect(await left(plan)).toMatchObject({
      added: whole.added,
      changed: 0,
      removed: (whole.removed ?? 0) - 4,
    });
    await ship(plan, outlet, { what: 'difference' });
    expect(await left(plan)).toMatchObject({ added: 0, changed: 0, removed: 0 });
  });

  test('that was renamed since is told under its old name too', async () => {
    const plan = await dentist();
    await ship(plan, outlet);
    const crown = await campaignOf(plan, 'Crown');
    const whole = await look(plan, {});
    expect(whole.difference).toMatchObject({ added: 0, removed: 0 });
    await server.call(api.holdValue, {
      params: { plan },
      body: { rowKey: crown, field: 'name', value: 'Crowns and caps', before: null },
    } as never);
    await built(server, plan);
    // Another part ships first: the old name is still known then.
    await shipPart(plan, { campaigns: [await campaignOf(plan, 'Braces')] });
    const { difference } = await look(plan, { campaigns: [crown] });
    expect(difference.added).toBeGreaterThan(5);
    expect(difference.removed).toBe(difference.added);
    await shipPart(plan, { campaigns: [crown] });
    expect(await left(plan)).toMatchObject({ added: 0, changed: 0, removed: 0 });
  });

  test('is chosen kinds of rows: of others the outlet has what it had', async () => {
    const plan = await dentist();
    const { lines } = await shipPart(plan, { kinds: ['campaign', 'group'] });
    expect(lines).toHaveLength(3 + 5);
    const { difference } = await look(plan, { kinds: ['ad'] });
    expect(difference.told).toMatchObject({ ad: difference.added, keyword: 0, group: 0 });
    await ship(plan, outlet, { what: 'difference' });
    expect(await left(plan)).toMatchObject({ added: 0, changed: 0, removed: 0 });
  });

  test('one part after another comes to the account that the whole plan comes to', async () => {
    const [whole, parts] = [await dentist(), await dentist()];
    await handIn(whole, (await ship(whole, outlet)).sheetSet);
    for (const name of ['Braces', 'Whitening', 'Crown'])
      await handIn(parts, (await shipPart(parts, { campaigns: [await campaignOf(parts, name)] })).set);
    expect(await left(parts)).toMatchObject({ added: 0, changed: 0, removed: 0 });
    const [one, other] = await Promise.all([account(whole, outlet), account(parts, outlet)]);
    const sorted = ({ campaigns }: typeof one) => campaigns.map((row) => JSON.stringify(row)).sort();
    expect(sorted(other)).toEqual(sorted(one));
    expect(other.rows).toEqual(one.rows);
  });

  test('of which something is gone, or that is empty, is refused with what to do', async () => {
    const plan = await dentist();
    const refused = async (chosen: Chosen) =>
      look(plan, chosen).then(
        () => 'done',
        (error: Refused | Error) => error.message,
      );
    expect(await refused({ campaigns: ['ct999'] })).toContain('not in the plan any more. Choose again.');
    expect(await refused({ labels: ['nobody has it'] })).toContain('No ad group belongs to this part.');
    const { job } = await server.call(api.startPartLook, {
      params: { plan, outlet: 'quillmere' },
      body: { part: part({}) },
    });
    await expect(succeeded(server, plan, job)).rejects.toThrow('does not ship to this outlet');
  });

  test('ad groups are found by words of their names, whatever signs are in them', async () => {
    const plan = await dentist();
    const found = async (words: string) =>
      (await server.call(api.findPartGroups, { params: { plan }, body: { words } })).groups.map(
        ({ name }) => name,
      );
    expect(await found('PRICE white')).toEqual(['whitening price']);
    expect(await found('%')).toEqual([]);
    expect((await found('')).length).toBe(5);
  });
});
