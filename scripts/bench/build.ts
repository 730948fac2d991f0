import { outsetParts } from '@sprig/contracts';
import {
  auditFences,
  type BuildKeyword,
  bidOf,
  buildPlan,
  defaultLayout,
  type FencePlan,
  makeFences,
} from '@sprig/core/build';
import { AnswerIndex, NegativeIndex, noSynonyms, trySearch } from '@sprig/core/match';
import { asMicros } from '@sprig/core/money';
import {
  PoolWords,
  placeKeywords,
  propose,
  Signals,
  signalsFor,
  type Theme,
  Units,
  usualSizes,
} from '@sprig/core/sort';
import { english } from '@sprig/core/text';
import type { DemoKeyword } from '@sprig/market';
import { frameInputOf, keywordOf } from '../../packages/core/fixtures/build.ts';
import { type Entry, median } from './measure.ts';
import {
  type Api,
  type Figure,
  jobsDone,
  planOf,
  seconds,
  startServer,
  takeIn,
  textOf,
  timed,
} from './server.ts';

const RUNS = 3;
const usual = defaultLayout('Saltmarsh', 'GBP');
const layout = { ...usual, lanes: usual.lanes.map((lane) => ({ ...lane, types: 1 | 4 | 8 })) };

/** The keywords in the themes of the whole plan. */
function themed(many: readonly DemoKeyword[]): { keywords: BuildKeyword[]; themes: Theme[] } {
  const words = new PoolWords(
    {
      length: many.length,
      isIn: () => true,
      normOf: (row) => (many[row] as DemoKeyword).text,
      searchesOf: (row) => (many[row] as DemoKeyword).searches,
    },
    english,
  );
  const signals = new Signals(words, signalsFor(english, null, []));
  const proposal = propose(
    new Units(words, signals),
    many.map((_, row) => row),
    { ...usualSizes, target: 24 },
  );
  const themes = proposal.themes.map(
    ({ name, sift, parent }, at): Theme => ({
      id: at + 1,
      parent: parent === null ? null : parent + 1,
      name,
      sift,
      idea: false,
      colour: null,
      stage: null,
    }),
  );
  const placing = placeKeywords(words, { themes, stageOf: (row) => signals.stageOf(row) });
  return {
    themes,
    keywords: many.map(({ text, cpc, searches }, at) =>
      keywordOf(at + 1, text, {
        cpc,
        searches,
        theme: placing[at] as number,
        stage: signals.stageOf(at),
        sources: [1],
      }),
    ),
  };
}

/** Themed building, fences and their audit over 300,000 rows. */
export async function buildEntries(many: readonly DemoKeyword[]): Promise<Entry[]> {
  const { keywords, themes } = themed(many);
  const input = frameInputOf({ keywords, layout: { ...layout, keywordsPerGroup: 25 }, themes });
  const plan = buildPlan(input);
  const placeOf = new Map(plan.groups.map(({ key }, at) => [key, at]));
  const rows = plan.rows.map(({ text, type, marks, groupKey }) => ({
    norm: text,
    type,
    marks,
    owner: placeOf.get(groupKey) as number,
  }));
  const words = `${many.length.toLocaleString('en')} keywords in ${plan.groups.length.toLocaleString('en')} ad groups`;
  const joined = 'join the same rows';
  const counted = 'split every keyword and count its words once';
  const build = await median(RUNS, () => buildPlan(input));
  const joining = await median(RUNS, () => {
    const lines: string[] = [];
    for (const { key, groupKey, text, type, base } of plan.rows)
      lines.push(`${key}\t${groupKey}\t${text}\t${type}\t${base}`);
    return lines;
  });
  const counting = await median(RUNS, () => {
    const counts = new Map<string, number>();
    for (const { text } of many)
      for (const word of text.split(' ')) counts.set(word, (counts.get(word) ?? 0) + 1);
    return counts;
  });
  const index = new AnswerIndex(rows, { pack: english, synonyms: noSynonyms });
  const fencePlan: FencePlan = {
    index,
    groups: plan.groups.length,
    classOf: new Uint8Array(plan.groups.length),
    overlaps: () => true,
    searchesOf: () => -1,
  };
  const exact = makeFences(fencePlan, 'exact');
  const tight = makeFences(fencePlan, 'tight');
  const blocks = new Map<number, NegativeIndex>();
  const listed = new Map<number, { id: number; norm: string; type: 'exact' }[]>();
  for (let at = 0; at < exact.length; at++) {
    const group = exact.group[at] as number;
    const list = listed.get(group) ?? [];
    listed.set(group, list);
    list.push({ id: at, norm: index.textNorms[exact.text[at] as number] as string, type: 'exact' });
  }
  for (const [group, list] of listed) blocks.set(group, new NegativeIndex(list));
  const blockOf = (group: number, search: string) => blocks.get(group)?.blocking(search);
  const audit = () => auditFences(fencePlan, (group, search) => blockOf(group, search) !== undefined);
  const { tried: all, kept } = audit();
  if (kept !== all) throw new Error(`the audit says ${kept} of ${all}`);
  const bids = plan.rows.map(({ base, steps }) =>
    bidOf({ base, steps, held: null }, layout.ladder, asMicros(10_000)),
  );
  const searches = many.filter((_, at) => at % 100 === 0).map(({ text }) => `${text} near me`);
  const tried = await median(RUNS, () => {
    for (const search of searches)
      trySearch(index, search, { bidOf: (row) => asMicros(bids[row] as number), blockOf });
  });
  const entry = (name: string, ms: number, floor: string, floorMs: number, most?: number): Entry => ({
    name,
    ms,
    floor,
    floorMs,
    ...(most === undefined ? {} : { most }),
  });
  return [
    entry(`build ${words} into ${plan.rows.length.toLocaleString('en')} rows`, build, joined, joining),
    entry(
      `${exact.length.toLocaleString('en')} exact fences for ${words}, with the index`,
      await median(RUNS, () =>
        makeFences(
          { ...fencePlan, index: new AnswerIndex(rows, { pack: english, synonyms: noSynonyms }) },
          'exact',
        ),
      ),
      counted,
      counting,
      15,
    ),
    entry(
      `${tight.length.toLocaleString('en')} tight fences for them, with the index`,
      await median(RUNS, () =>
        makeFences(
          { ...fencePlan, index: new AnswerIndex(rows, { pack: english, synonyms: noSynonyms }) },
          'tight',
        ),
      ),
      counted,
      counting,
    ),
    entry(
      `fence audit of ${all.toLocaleString('en')} searches`,
      await median(RUNS, audit),
      counted,
      counting,
      10,
    ),
    entry(
      `${searches.length.toLocaleString('en')} searches tried among ${rows.length.toLocaleString('en')} rows`,
      tried,
      counted,
      counting,
    ),
  ];
}

/** The rebuild as a job of a real server: from the edit to the last row stored. */
export async function buildFigures(many: readonly DemoKeyword[]): Promise<Figure[]> {
  const server = await startServer();
  const { api } = server;
  const plan = await planOf(api);
  await takeIn(api, plan, textOf(many));
  await api('POST', `/plans/${plan}/themes/whole`, { parent: null, instead: false });
  await jobsDone(api, plan, 'sort');
  await jobsDone(api, plan, 'rebuild');
  const edit = async (at: string, before: unknown, after: unknown) => {
    await api('PATCH', `/plans/${plan}/layout`, { edits: [{ at, before, after }] });
    await jobsDone(api, plan, 'rebuild');
  };
  // All rows anew: another pattern of ads and other match types touch every ad group.
  await edit('unplaced', 'single', 'out');
  await edit('lanes.0.types', 12, 4);
  const whole = await timed(() => edit('lanes.0.types', 4, 13));
  const { themes } = (await api('GET', `/plans/${plan}/sort`)) as { themes: { id: number; name: string }[] };
  const leaf = themes.at(-1) as (typeof themes)[number];
  const rename = await timed(async () => {
    await api('PATCH', `/plans/${plan}/themes/${leaf.id}`, {
      edits: [{ at: 'name', before: leaf.name, after: `${leaf.name} again` }],
    });
    await jobsDone(api, plan, 'rebuild');
  });
  const { patterns } = (await api('GET', `/plans/${plan}/patterns`)) as {
    patterns: { id: number; body: { fields: { headline2: { lines: string[] } } } }[];
  };
  const written = await timed(async () => {
    const before = patterns[0]?.body.fields.headline2.lines;
    await api('PATCH', `/plans/${plan}/patterns/${patterns[0]?.id}`, {
      edits: [{ at: 'fields.headline2.lines', before, after: ['On the water in an hour'] }],
    });
    await jobsDone(api, plan, 'rebuild');
  });
  const fenced = await timed(() => edit('fences', 'off', 'exact'));
  const { counts } = (await api('GET', `/plans/${plan}`)) as { counts: { rows: number; groups: number } };
  const searches = many.filter((_, at) => at % 500 === 0).map(({ text }) => text);
  await api('POST', `/plans/${plan}/try`, { search: 'kayak' });
  const times: number[] = [];
  for (const search of searches) times.push(await timed(() => api('POST', `/plans/${plan}/try`, { search })));
  times.sort((a, b) => a - b);
  const audit = await timed(() => api('GET', `/plans/${plan}/audit`));
  const bulk = (path: string, body: object) => (dry: boolean) =>
    timed(() => api('POST', `/plans/${plan}/${path}`, { ...body, dry }));
  const types = bulk('match-types', { scope: { all: true }, change: { kind: 'set', types: 12 } });
  const names = bulk('names/rewrite', {
    scope: { all: 'groups' },
    rewriting: { find: ' ', replace: '-', isPattern: false, prefix: '', suffix: '', style: 'title' },
  });
  const [typesShown, typesKept] = [await types(true), await types(false)];
  await jobsDone(api, plan, 'rebuild');
  const [namesShown, namesKept] = [await names(true), await names(false)];
  const outset = await takenAsOutset(api, plan);
  const memory = server.memory();
  await server.stop();
  const rows = `${counts.rows.toLocaleString('en')} rows in ${counts.groups.toLocaleString('en')} ad groups`;
  return [
    { name: `${rows} rebuilt and stored after a match type more`, value: seconds(whole), target: '15 s' },
    { name: 'there, a rebuild after one theme was renamed', value: seconds(rename), target: '0.5 s' },
    {
      name: 'there, a line of the ad pattern changed, in every ad group',
      value: seconds(written),
      target: '3 s',
    },
    { name: 'there, exact fences made, audited and stored', value: seconds(fenced), target: '5 s' },
    {
      name: 'there, a search tried, over HTTP: median and 95th percentile',
      value: `${(times[Math.floor(times.length / 2)] as number).toFixed(1)} ms, ${(times[Math.floor(times.length * 0.95)] as number).toFixed(1)} ms`,
      target: '4 ms',
    },
    { name: 'there, the fence audit, over HTTP', value: seconds(audit), target: '10 s' },
    {
      name: 'there, match types of all keywords changed: shown before',
      value: seconds(typesShown),
      target: '1 s',
    },
    { name: 'and stored', value: seconds(typesKept), target: '5 s' },
    {
      name: 'there, all names of ad groups changed: shown before',
      value: seconds(namesShown),
      target: '1 s',
    },
    { name: 'and all stored', value: seconds(namesKept), target: '5 s' },
    {
      name: `all parts of an outset of ${outset.themes.toLocaleString('en')} themes: shown before in another plan`,
      value: seconds(outset.shown),
      target: '2 s',
    },
    { name: 'and taken in there', value: seconds(outset.taken), target: '2 s' },
    { name: 'most memory that server held, building', value: `${Math.round(memory)} MB`, target: '900 MB' },
  ];
}

/** The plan's rules kept as an outset, and all of its parts taken into a plan that has none of them. */
async function takenAsOutset(api: Api, plan: number) {
  const parts = [...outsetParts];
  const { id } = await api('POST', `/plans/${plan}/outsets`, { name: 'Bench', parts, instead: null });
  const other = await planOf(api);
  const address = `/plans/${other}/outsets/${Number(id)}`;
  let seen = '';
  const shown = await timed(async () => {
    seen = String((await api('POST', `${address}/try`, { parts })).seen);
  });
  const taken = await timed(() => api('POST', `${address}/take`, { parts, seen }));
  const { themes } = (await api('GET', `/plans/${other}/sort`)) as { themes: unknown[] };
  return { shown, taken, themes: themes.length };
}
