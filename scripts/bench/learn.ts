import { Readable } from 'node:stream';
import { type Look, usualLook } from '@sprig/contracts';
import { type JudgedRow, judge, usualVerdictLimits, worthOfClicks } from '@sprig/core/judge';
import type { Sequelize } from 'sequelize';
import { connect, execute } from '../../apps/server/src/db/connect.ts';
import { copyInto } from '../../apps/server/src/db/copy.ts';
import type { PlanCaller } from '../../apps/server/src/platform/caller.ts';
import { keepUpload } from '../../apps/server/src/stages/gather/uploads.ts';
import {
  forgetLooks,
  learnStage,
  lookAt,
  resultBids,
  takeReports,
  termsOf,
  verdictsOf,
} from '../../apps/server/src/stages/learn/index.ts';
import { type Entry, median } from './measure.ts';
import type { Measured } from './measured-apart.ts';
import { type Figure, seconds, timed } from './server.ts';
import { builtPlan, contextFor } from './ship.ts';

const GROUPS = 1_000;
const KEYWORDS = 100;
const DAYS = 10;
const FILES = Number(process.env.FILES ?? 3);
const HEADINGS = [
  'Day',
  'Campaign',
  'Ad group',
  'Keyword',
  'Match type',
  'Impressions',
  'Clicks',
  'Cost',
  'Conversions',
  'Position',
];

/** The number of the file that tells search terms instead. */
const TERMS = 9;
const BESIDE = ['cheap', 'best', 'used', 'new', 'red', 'long', 'near', 'light'];

/** A day of November. */
const dayOf = (n: number) => `2026-11-${String(n).padStart(2, '0')}`;

/** The cells of a million rows: 100,000 keywords on ten days. */
function* rowsOf(file: number): Generator<string[]> {
  let noise = 7 + file;
  const next = (most: number) => {
    noise = (noise * 1_103_515_245 + 12_345) & 0x7fffffff;
    return noise % most;
  };
  for (let day = 1; day <= DAYS; day++)
    for (let group = 1; group <= GROUPS; group++)
      for (let n = 1; n <= KEYWORDS; n++) {
        const clicks = next(12);
        yield [
          dayOf(file * DAYS + day),
          'Campaign 1',
          `Sea kayak ${group}`,
          `inflatable sea kayak hire ${group} ${n}`,
          'Exact',
          String(clicks * 20 + next(60)),
          String(clicks),
          (clicks * 0.43).toFixed(2),
          next(9) === 0 ? '1' : '0',
          (1 + next(50) / 10).toFixed(1),
        ];
      }
}

function* pieces(file: number): Generator<Buffer> {
  let text = `${HEADINGS.join(',')}\n`;
  for (const cells of rowsOf(file)) {
    text += `${cells.join(',')}\n`;
    if (text.length < 1_000_000) continue;
    yield Buffer.from(text);
    text = '';
  }
  yield Buffer.from(text);
}

/** A million rows of search terms: 100,000 of them on ten days. */
function* termPieces(): Generator<Buffer> {
  let text = 'Day,Campaign,Ad group,Search term,Impressions,Clicks,Cost,Conversions\n';
  for (let day = 1; day <= DAYS; day++)
    for (let group = 1; group <= GROUPS; group++)
      for (let n = 1; n <= KEYWORDS; n++) {
        const clicks = (group * 7 + n * 13 + day) % 12;
        const term = `${BESIDE[n % BESIDE.length]} kayak hire ${group} ${n} ${(group * n) % 97}`;
        text += `${dayOf(20 + day)},Campaign 1,Sea kayak ${group},${term},${clicks * 20 + 5},${clicks},${(clicks * 0.43).toFixed(2)},${(group + n * day) % 9 === 0 ? 1 : 0}\n`;
        if (text.length < 1_000_000) continue;
        yield Buffer.from(text);
        text = '';
      }
  yield Buffer.from(text);
}

/** Reads one file and takes it in. */
async function bring(caller: PlanCaller, file: number): Promise<number> {
  const { upload } = await keepUpload(caller, Readable.from(file === TERMS ? termPieces() : pieces(file)), 0);
  return timed(async () => {
    const { readings } = await learnStage.jobs.reports(
      contextFor(caller, { files: [{ upload, name: `Days ${file}.csv` }] }),
    );
    await takeReports(caller, readings, false);
  });
}

async function copyRows(database: Sequelize): Promise<number> {
  await execute(database, 'drop table if exists bench_rows');
  await execute(
    database,
    `create table bench_rows (day date, campaign text, ad_group text, keyword text, match_type text, impressions int,
       clicks int, cost numeric, conversions numeric, position numeric)`,
  );
  const columns =
    'day, campaign, ad_group, keyword, match_type, impressions, clicks, cost, conversions, position';
  const lines = [...rowsOf(0)].map((cells) => cells.join('\t'));
  return timed(() =>
    database.transaction((transaction) => copyInto(transaction, 'bench_rows', columns.split(', '), lines)),
  );
}

/** Looks of all kinds; each is told apart, narrowed and ordered anew. */
const LOOKS: readonly (readonly [string, Partial<Look>])[] = [
  ['by campaign', {}],
  ['by keyword', { by: 'keyword' }],
  ['by keyword in another order', { by: 'keyword', sort: 'ctr', down: false }],
  [
    'by ad group, positions from 2 to 4',
    {
      by: 'group',
      figures: [
        { figure: 'position', is: 'over', than: 2 },
        { figure: 'position', is: 'under', than: 4 },
      ],
    },
  ],
  ['by weekday', { by: 'weekday' }],
  ['by source', { by: 'source' }],
  ['by keyword of one ad group', { by: 'keyword', names: [{ by: 'group', is: 'Sea kayak 17' }] }],
];

const MANY = 300_000;

/** Sums of many keyword rows, three to an ad group and three hundred to a theme. */
function manyRows() {
  const levels = [3, 300].map((each) => Int32Array.from({ length: MANY }, (_, at) => Math.floor(at / each)));
  const clicks = Float64Array.from({ length: MANY }, (_, at) => (at * 7_919) % 180);
  const conversions = clicks.map((count, at) =>
    (at * 104_729) % 97 < 9 ? Math.min(count, 1 + (at % 4)) : 0,
  );
  const value = conversions.map((sold) => sold * 42_000_000);
  const rows = Array.from({ length: MANY }, (_, at): JudgedRow => {
    const [own, sold] = [clicks[at] as number, conversions[at] as number];
    const impressions = own * (9 + (at % 30));
    const settled = { clicks: own, cost: own * 430_000, conversions: sold, value: value[at] as number };
    return {
      impressions,
      clicks: own,
      cost: own * 430_000,
      position: 1 + ((at * 31) % 60) / 10,
      lostRank: null,
      settled,
      since: sold > 0 ? { clicks: own / 4, cost: own * 100_000 } : null,
      type: (['exact', 'phrase', 'broad'] as const)[at % 3] ?? null,
      isBrand: at % 50 === 0,
      network: '',
      group: String(levels[0]?.[at]),
      theme: String(levels[1]?.[at]),
      campaign: String(Math.floor(at / 30_000)),
      pageFails: false,
    };
  });
  return { rows, earned: { clicks, conversions, value }, levels };
}

export async function learnMeasured(): Promise<Measured> {
  const database = connect(process.env.DATABASE_URL ?? '');
  const caller = await builtPlan(database, GROUPS, KEYWORDS, false);
  const figures: Figure[] = [];
  const add = (name: string, ms: number, target: string) =>
    figures.push({ name, value: seconds(ms), target });
  const times: number[] = [];
  for (let file = 0; file < FILES; file++) times.push(await bring(caller, file));
  const ms = times.sort((a, b) => a - b)[1] ?? 0;
  add('a report of 1,000,000 rows, from the upload until it is taken in', ms, '20 s');
  const floorMs = await median(3, () => copyRows(database)).then(() => copyRows(database));
  const entries: Entry[] = [
    {
      name: '1,000,000 rows of a report read, met and stored',
      ms,
      floor: 'COPY the same rows into a table without indexes',
      floorMs,
    },
  ];
  forgetLooks();
  add(
    'Learn opened on 100,000 keywords × 30 days, for the first time',
    await timed(() => lookAt(caller, usualLook())),
    '2 s',
  );
  let [slowest, name] = [0, ''];
  for (const [words, asked] of LOOKS) {
    const took = await timed(() => lookAt(caller, { ...usualLook(), against: 'none', ...asked }));
    if (took > slowest) [slowest, name] = [took, words];
    console.log(words, took.toFixed(0));
  }
  add(`there, the slowest of ${LOOKS.length} looks: ${name}`, slowest, '1 s');
  await execute(database, `update facts set body = body || '{"targetCost": 12000000}' where plan_id = $1`, [
    caller.plan,
  ]);
  const asked = { account: null, by: 'keyword', list: 'never-pays' } as const;
  add('there, a verdict for each of 100,000 keywords', await timed(() => verdictsOf(caller, asked)), '2 s');
  const toAim = { account: null, from: 'aim', list: 'change' } as const;
  add('there, bids to the aim for 100,000 keywords', await timed(() => resultBids(caller, toAim)), '2 s');
  const range = { from: dayOf(16), to: dayOf(30) };
  add(
    'there, another range against the days before it, by keyword',
    await timed(() => lookAt(caller, { ...usualLook(), by: 'keyword', range })),
    '1.5 s',
  );
  const { rows, earned, levels } = manyRows();
  const aim = { cost: 12_000_000, return: null };
  add(
    'verdicts of 300,000 rows, of their sums',
    await timed(async () => judge(rows, usualVerdictLimits, aim)),
    '2 s',
  );
  add(
    'what a click may cost of 300,000 rows, of their sums',
    await timed(async () => worthOfClicks(earned, levels, aim)),
    '2 s',
  );
  await bring(caller, TERMS);
  const open = { account: null, list: 'open', like: '' } as const;
  add(
    'search terms of 1,000,000 rows, with the words that only cost',
    await timed(() => termsOf(caller, open)),
    '5 s',
  );
  console.log('memory', process.memoryUsage().rss / 1e6);
  await database.close();
  return { entries, figures };
}
