import * as api from '@sprig/contracts';
import { fennelwick, harrowlight, plainOutlet, quillmere } from '@sprig/core/outlets';
import { patternOf } from '@sprig/core/write';
import { select } from '../db/connect.ts';
import { built, finished, planOf, succeeded, type TestServer, takeIn } from './start-test-server.ts';

export const LIST = 'sea kayak\t900\nkayak hire\t400\ncanoe\t300\npaddle board\t200\n';
const lines = {
  headline1: ['@keyword', 'Boats'],
  headline2: ['Saltmarsh Paddle Co.'],
  headline3: ['On the water today'],
  description1: ['By the hour, the day or the week.'],
};

/** What tests of shipping do with a server, which they start later. */
export function shipping(server: () => TestServer) {
  /** A plan that nothing stands against, at any outlet but for what the outlets themselves ask. */
  async function shippable(list = LIST): Promise<number> {
    const plan = await planOf(server());
    await takeIn(server(), plan, list);
    const { patterns } = await server().call(api.readPatterns, { params: { plan } });
    const pattern = patternOf(lines, 'title');
    await server().call(api.editPattern, {
      params: { plan, pattern: 1 },
      body: { edits: [{ at: 'fields', before: patterns[0]?.body.fields, after: pattern.fields }] },
    });
    const { facts } = await server().call(api.readFacts, { params: { plan } });
    await server().call(api.editFacts, {
      params: { plan },
      body: {
        edits: [
          { at: 'locations', before: facts.locations, after: [{ name: 'Eastmere', level: 'region' }] },
          { at: 'languages', before: facts.languages, after: ['English'] },
        ],
      },
    });
    await built(server(), plan);
    return plan;
  }

  const choose = (plan: number, outlet: string, chosen = true, ticks?: string[]) =>
    server().call(api.chooseOutlet, {
      params: { plan, outlet },
      body: {
        chosen,
        ...(ticks ? { body: { ticks, steps: { search: 10_000, partners: 5_000, display: 5_000 } } } : {}),
      },
    });

  async function check(plan: number): Promise<api.ShipView> {
    await built(server(), plan);
    const { job } = await server().call(api.startCheck, { params: { plan } });
    await finished(server(), plan, job);
    return server().call(api.viewShip, { params: { plan } });
  }

  async function ship(
    plan: number,
    outlet: string,
    body: Partial<{ format: 'csv' | 'tsv' | 'xlsx'; what: 'all' | 'difference'; sheets: string[] }> = {},
  ) {
    const profile =
      [plainOutlet, fennelwick, harrowlight, quillmere].find(({ key }) => key === outlet) ?? plainOutlet;
    const { job } = await server().call(api.startShip, {
      params: { plan },
      body: {
        outlet,
        format: body.format ?? profile.file.formats[0] ?? 'csv',
        what: body.what ?? 'all',
        sheets: (body.sheets ?? profile.sheets.map(({ kind }) => kind)) as never,
      },
    });
    const done = await succeeded(server(), plan, job);
    return api.shipResult.parse(done.result);
  }

  /** Of a plan of `LIST`: one keyword comes, one goes, and a bid is held. */
  async function change(plan: number): Promise<void> {
    const params = { plan };
    await takeIn(server(), plan, 'raft\t50\n');
    const { database } = server();
    const [canoe] = await select<{ id: number }>(
      database,
      `select id from keywords where plan_id = $1 and text = 'canoe'`,
      [plan],
    );
    await server().call(api.setCut, { params, body: { ids: [canoe?.id ?? 0], cut: true } } as never);
    await built(server(), plan);
    const [row] = await select<{ key: string }>(
      database,
      `select key from keyword_rows where plan_id = $1 and text = 'sea kayak' and type = 3`,
      [plan],
    );
    const rowKey = row?.key ?? '';
    const body = { rowKey, field: 'bid', before: null, value: 910_000 };
    await server().call(api.holdValue, { params, body } as never);
    await built(server(), plan);
  }

  const bytesOf = async (plan: number, set: string, file: string) =>
    new Uint8Array(
      await (await fetch(`${server().url}/api/plans/${plan}/sheet-sets/${set}/files/${file}`)).arrayBuffer(),
    );
  const textOf = async (plan: number, set: string, file: string, encoding = 'utf-8') =>
    new TextDecoder(encoding).decode(await bytesOf(plan, set, file));
  const receiptsOf = async (plan: number) =>
    (await server().call(api.listReceipts, { params: { plan } })).receipts;
  async function handIn(plan: number, set: string) {
    const { job } = await server().call(api.handIn, { params: { plan, set } });
    return (await finished(server(), plan, job)).result as {
      taken: number;
      refused: number;
      strange: number;
    };
  }
  const account = (plan: number, outlet: string, campaign?: string) =>
    server().call(api.viewAccount, {
      params: { plan, outlet },
      query: campaign === undefined ? {} : { campaign },
    });

  return { shippable, choose, check, ship, change, bytesOf, textOf, receiptsOf, handIn, account };
}
