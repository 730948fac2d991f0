import {
  dayIn,
  type JudgedTerm,
  judgedTerm,
  type judgeTerms,
  newThemeOf,
  type previewBlock,
  type readTerms,
  type TermList,
  type TermRow,
  type TermsAnswer,
  termLists,
} from '@sprig/contracts';
import type { SaidKeyword } from '@sprig/core/gather';
import {
  addedTimes,
  type FactTable,
  type GroupSums,
  groupPlaces,
  onlyCosting,
  type PlaceList,
  sumPlaces,
  termRuns,
} from '@sprig/core/learn';
import { codeOf, NegativeIndex, type NegativeKeyword, readNotation } from '@sprig/core/match';
import { hashOf, type LanguagePack, normalise } from '@sprig/core/text';
import type { z } from 'zod';
import { select } from '../../db/connect.ts';
import { find } from '../../db/rows.ts';
import { readingRules } from '../../figures/reading-rules.ts';
import { type Change, inChange } from '../../plan/change/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { counted } from '../../platform/counted.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { grouped } from '../../platform/grouped.ts';
import { KeptFew } from '../../platform/kept-few.ts';
import { placeIn } from '../build/index.ts';
import { takeInKeywords } from '../gather/index.ts';
import { addToPlan, refreshBlocks, soundNegatives } from '../prune/index.ts';
import { makeThemesIn, setEachByHand } from '../sort/index.ts';
import { aboutLook, accountFor, findGrain, rangesOf } from './account.ts';
import { alikeOf, freshSince, inAlikes, toldBefore } from './terms-alike.ts';
import { nothingToday, planStamp } from './today.ts';

/** All search terms that reports tell of, by their normal forms. */
type AllTerms = {
  head: Omit<TermsAnswer, 'lists' | 'order' | 'alike' | 'fresh' | 'onlyCosting'>;
  terms: readonly string[];
  names: readonly string[];
  sums: GroupSums | null;
  places: PlaceList | null;
  /** Of each term the place with the most impressions, and how many others have it. */
  best: Int32Array;
  others: Int32Array;
  /** Terms that an exact keyword of the plan equals. */
  kept: ReadonlySet<string>;
  judged: ReadonlyMap<string, JudgedTerm & { id: number }>;
  pack: LanguagePack;
  /** Of each term the number of those that it is alike, and whether no report told of it before the last. */
  alike: Int32Array;
  fresh: Uint8Array;
  /** Whether a negative of the plan keeps it out. */
  isBlocked: (term: string) => boolean;
};

const kept = new KeptFew<AllTerms | null>(2);
export const forgetTerms = (): void => kept.clear();
const MILLION = 1_000_000;
const SHOWN_RUNS = 60;
const SHOWN = 8;

async function allTerms(caller: PlanCaller, code: string | null): Promise<AllTerms | null> {
  const account = await accountFor(caller, code);
  if (!account) return null;
  const stamp = `${account.stamp}/${await planStamp(caller)}`;
  return kept.of(stamp, async () => {
    const asked = new Set(['term'] as const);
    const first = findGrain(account.onHand, asked, false, rangesOf({ range: null }, account.told));
    const { found } = first;
    const head = { ...aboutLook(account, first), stamp: String(hashOf(stamp)) };
    const known = {
      kept: await exactOf(caller),
      judged: await judgedOf(caller),
      pack: (await readingRules(caller)).rules.pack,
      isBlocked: await blockedBy(caller),
    };
    const none = new Int32Array(0);
    const fresh = new Uint8Array(0);
    if (!found)
      return {
        head,
        terms: [],
        names: [],
        sums: null,
        places: null,
        best: none,
        others: none,
        alike: none,
        fresh,
        ...known,
      };
    const { places, table } = await account.series(found);
    const groups = groupPlaces(places, 'term', nothingToday);
    const added = addedTimes(table, places.campaigns, found.times);
    const sums = sumPlaces(table, { added, places: new Uint8Array(places.size).fill(1), groups });
    const { best, others } = bestPlaces(table, groups.of, groups.keys.length);
    const names = groups.names.map(([name = '']) => name);
    const alike = alikeOf(groups.keys, known.pack);
    const before = toldBefore(account, found);
    const seen = before === null ? fresh : freshSince(table, added, groups.of, groups.keys.length, before);
    return { head, terms: groups.keys, names, sums, places, best, others, alike, fresh: seen, ...known };
  });
}

/** Of each group the place with the most impressions, and how many others it has. O(rows). */
function bestPlaces(table: FactTable, groupOf: Int32Array, groups: number) {
  const shown = new Float64Array(groupOf.length);
  const { impressions } = table.figures;
  for (let row = 0; row < table.rows; row++) {
    const place = table.place[row] as number;
    shown[place] = (shown[place] as number) + (impressions?.[row] || 0);
  }
  const best = new Int32Array(groups).fill(-1);
  const others = new Int32Array(groups).fill(-1);
  groupOf.forEach((group, place) => {
    const there = best[group] as number;
    others[group] = (others[group] as number) + 1;
    if (there < 0 || (shown[place] as number) > (shown[there] as number)) best[group] = place;
  });
  return { best, others };
}

async function exactOf({ database, plan }: PlanCaller): Promise<ReadonlySet<string>> {
  const rows = await select<{ text: string }>(
    database,
    'select distinct text from keyword_rows where plan_id = $1 and type = $2',
    [plan, codeOf('exact')],
  );
  return new Set(rows.map(({ text }) => normalise(text)));
}

async function blockedBy({ database, plan }: PlanCaller): Promise<AllTerms['isBlocked']> {
  const rows = await select<NegativeKeyword>(
    database,
    'select id, norm, match_type as type from negatives where plan_id = $1',
    [plan],
  );
  const index = new NegativeIndex(rows);
  return (term) => index.blocking(term) !== undefined;
}

async function judgedOf(caller: PlanCaller): Promise<AllTerms['judged']> {
  const rows = await find(caller, 'term_judgements', { columns: ['id', 'body'], order: ['id'] });
  const judged = new Map<string, JudgedTerm & { id: number }>();
  for (const { id, body } of rows) {
    const read = judgedTerm.safeParse(body);
    if (read.success) judged.set(read.data.term, { ...read.data, id });
  }
  return judged;
}

function listOf({ terms, kept: exact, judged, isBlocked }: AllTerms, n: number): TermList {
  const term = terms[n] ?? '';
  if (judged.has(term) || isBlocked(term)) return 'judged';
  return exact.has(term) ? 'kept' : 'open';
}

export async function termsOf(
  caller: PlanCaller,
  { account, list, like }: z.output<(typeof readTerms)['body']>,
): Promise<TermsAnswer> {
  const all = await allTerms(caller, account);
  if (!all) return { ...nobody, why: { none: 'reports' } };
  const { sums, terms } = all;
  if (!sums) return { ...nobody, ...all.head };
  const lists = new Map(termLists.map((one) => [one, { list: one, terms: 0, cost: 0 }]));
  const order: number[] = [];
  const seen: Parameters<typeof termRuns>[0] extends Iterable<infer Term> ? Term[] : never = [];
  const wanted = normalise(like);
  terms.forEach((term, n) => {
    if (!sums.has(n) || term === '') return;
    const own = listOf(all, n);
    const cost = sums.figure('cost', n) ?? 0;
    const sum = lists.get(own);
    if (sum) {
      sum.terms++;
      sum.cost += cost;
    }
    if (own !== 'judged')
      seen.push({
        term,
        cost,
        clicks: sums.figure('clicks', n) ?? 0,
        conversions: sums.figure('conversions', n) ?? 0,
      });
    if (own === list && term.includes(wanted)) order.push(n);
  });
  const alike = inAlikes(order, all, sums);
  // Where no report tells conversions nothing can be said to have sold nothing.
  const tellsConversions = seen.some(({ conversions }) => conversions > 0);
  return {
    ...all.head,
    lists: [...lists.values()],
    order,
    alike,
    fresh: order.reduce((sum, n) => sum + (all.fresh[n] ?? 0), 0),
    onlyCosting: tellsConversions
      ? onlyCosting(termRuns(seen, all.pack.functionWords))
          .slice(0, SHOWN_RUNS)
          .map(({ run, terms: count, cost, clicks, dearest }) => ({
            run,
            terms: count,
            cost,
            clicks,
            dearest,
          }))
      : [],
  };
}

const nobody: TermsAnswer = {
  account: null,
  range: null,
  grain: null,
  why: null,
  lists: [],
  order: [],
  alike: [],
  fresh: 0,
  onlyCosting: [],
  stamp: '',
};

export async function termRows(
  caller: PlanCaller,
  account: string | null,
  rows: readonly number[],
): Promise<TermRow[]> {
  const all = await allTerms(caller, account);
  if (!all?.sums || !all.places) return [];
  const { sums, places, best, others, names, terms, judged, isBlocked } = all;
  return rows.flatMap((n): TermRow[] => {
    const term = terms[n];
    if (term === undefined) return [];
    const place = best[n] as number;
    const by = places.names[place] ?? {};
    return [
      {
        n,
        term: names[n] ?? term,
        impressions: sums.figure('impressions', n) ?? 0,
        clicks: sums.figure('clicks', n) ?? 0,
        cost: sums.figure('cost', n) ?? 0,
        conversions: ofMillion(sums.figure('conversions', n)),
        by: {
          keyword: by.keyword ?? null,
          type: by.match ?? null,
          group: by.group ?? null,
          campaign: by.campaign ?? null,
          key: places.met[place]?.group ?? null,
          others: others[n] as number,
        },
        judged: judged.get(term) ?? null,
        isFresh: all.fresh[n] === 1,
        isBlocked: isBlocked(term),
      },
    ];
  });
}

const ofMillion = (value: number | null) => (value === null ? null : value / MILLION);

/** What a negative would keep out besides the term itself. */
export async function blockEffect(
  caller: PlanCaller,
  { account, text, type }: z.output<(typeof previewBlock)['body']>,
): Promise<z.output<(typeof previewBlock)['answer']>> {
  const all = await allTerms(caller, account);
  const index = new NegativeIndex([{ id: 1, norm: normalise(text), type }]);
  const isBlocked = (norm: string) => index.blocking(norm) !== undefined;
  const own = await select<{ text: string; norm: string }>(
    caller.database,
    'select text, norm from keywords where plan_id = $1 and not cut and folded_into is null and blocked_by is null order by searches desc nulls last, id',
    [caller.plan],
  );
  const keywords = own.filter(({ norm }) => isBlocked(norm));
  const blocked = (all?.terms ?? []).flatMap((term, n) => (all?.sums?.has(n) && isBlocked(term) ? [n] : []));
  const sum = (figure: 'clicks' | 'cost' | 'conversions') =>
    blocked.reduce((so, n) => so + (all?.sums?.figure(figure, n) ?? 0), 0);
  return {
    keywords: { count: keywords.length, shown: keywords.slice(0, SHOWN).map(({ text: said }) => said) },
    terms: {
      count: blocked.length,
      clicks: sum('clicks'),
      cost: sum('cost'),
      conversions: sum('conversions') / MILLION,
      shown: blocked.slice(0, SHOWN).map((n) => all?.names[n] ?? ''),
    },
  };
}

type Judging = z.output<(typeof judgeTerms)['body']>;

const labelOf = ({ kind }: Judging['judgement'], terms: string): string =>
  ({
    own: `Give ${terms} an ad group of their own`,
    into: `Take ${terms} into their ad groups`,
    block: `Block ${terms}`,
    leave: `Leave ${terms}`,
  })[kind];

/** Judges terms, as one change. */
export async function judge(
  caller: PlanCaller,
  { account, terms, judgement }: Judging,
): Promise<z.output<(typeof judgeTerms)['answer']>> {
  const all = await allTerms(caller, account);
  if (!all?.places) throw new SprigFailure('invalid', 'No report is there any more that told these.');
  const at = new Map(all.terms.map((term, n) => [term, n]));
  const wanted = [...new Set(terms.map(normalise))];
  const isKeyword = (term: string) => readNotation(term).status === 'read';
  const takes = judgement.kind === 'own' || judgement.kind === 'into';
  const groupOf = (term: string) => all.places?.met[all.best[at.get(term) ?? -1] ?? -1]?.group ?? null;
  const needsGroup = judgement.kind === 'into' || (judgement.kind === 'block' && judgement.where === 'group');
  const themes = await themesOf(caller, wanted.map(groupOf));
  const judged = wanted.filter(
    (term) =>
      at.has(term) &&
      (!takes || isKeyword(term)) &&
      (!needsGroup || themes.has(groupOf(term) ?? '')) &&
      // Beside a keyword that is in no theme there is no ad group to come into.
      (judgement.kind !== 'into' || (themes.get(groupOf(term) ?? '')?.theme ?? 0) > 0),
  );
  const refused = wanted.filter((term) => !judged.includes(term));
  if (judged.length === 0)
    throw new SprigFailure(
      'invalid',
      takes ? 'None of these can be a keyword here.' : 'None of these is a term that reports tell.',
      { at: 'terms' },
    );
  const label = labelOf(judgement, counted(judged.length, 'search term'));
  const on = dayIn(all.head.account?.timeZone ?? 'UTC', new Date());
  const { revision } = await inChange(caller, label, async (change) => {
    if (judgement.kind === 'block') await block(change, judged, judgement, groupOf);
    if (takes) {
      const figures = (term: string) => figuresOf(all, at.get(term) as number);
      await takeInKeywords(
        change,
        judged.map((term, line) => said(term, line + 1, figures(term))),
        { kind: 'ideas', name: 'Search terms', job: null },
      );
      await place(change, judged, judgement.kind, (term) => themes.get(groupOf(term) ?? ''));
    }
    await change.remove(
      'term_judgements',
      judged.flatMap((term) => {
        const old = all.judged.get(term);
        return old ? [{ id: old.id }] : [];
      }),
    );
    const first = change.takeIds(judged.length);
    await change.insert(
      'term_judgements',
      judged.map((term, nth) => ({ id: first + nth, body: { term, judgement, on } satisfies JudgedTerm })),
    );
  });
  return { revision, judged: judged.length, refused };
}

function figuresOf({ sums }: AllTerms, n: number): Record<string, string> {
  const of = (name: 'impressions' | 'clicks') => String(sums?.figure(name, n) ?? 0);
  const amount = (micros: number) => (micros / MILLION).toFixed(2);
  return {
    'Term impressions': of('impressions'),
    'Term clicks': of('clicks'),
    'Term cost': amount(sums?.figure('cost', n) ?? 0),
    'Term conversions': amount(sums?.figure('conversions', n) ?? 0),
  };
}

/** A term as a keyword of the source “Search terms”, exact, with its figures kept beside it. */
const said = (term: string, line: number, extra: Record<string, string>): SaidKeyword => ({
  line,
  text: term,
  norm: normalise(term),
  type: 'exact',
  marks: [],
  searches: null,
  cpc: null,
  competition: null,
  extra,
});

type Blocking = Extract<Judging['judgement'], { kind: 'block' }>;

async function block(
  change: Change,
  terms: readonly string[],
  { type, where, text }: Blocking,
  groupOf: (term: string) => string | null,
): Promise<void> {
  if (where === 'plan') {
    const texts = text === undefined ? terms : [text];
    await addToPlan(change, soundNegatives(texts.map((one) => ({ text: one, type }))), { reason: 'block' });
    await refreshBlocks(change);
    return;
  }
  for (const [key, own] of grouped(terms, (term) => groupOf(term) ?? ''))
    await placeIn(change, [key], soundNegatives(own.map((term) => ({ text: text ?? term, type }))));
}

type Placed = { key: string; theme: number; parent: number | null };

/** The themes of ad groups that are in today's plan, with what these are in. */
async function themesOf(
  { database, plan }: PlanCaller,
  keys: readonly (string | null)[],
): Promise<Map<string, Placed>> {
  const rows = await select<Placed>(
    database,
    `select g.key, g.theme_id as theme, t.parent_id as parent from ad_groups g
     left join themes t on t.plan_id = g.plan_id and t.id = g.theme_id where g.plan_id = $1 and g.key = any($2::text[])`,
    [plan, [...new Set(keys.filter((key) => key !== null))]],
  );
  return new Map(rows.map((row) => [row.key, row]));
}

/** Holds the keywords in the theme of the ad group that answered them, or each in one of its own, kept out of that one. */
async function place(
  change: Change,
  terms: readonly string[],
  kind: 'own' | 'into',
  groupOf: (term: string) => Placed | undefined,
): Promise<void> {
  const keywords = await change.rows<{ id: number; norm: string }>(
    'select id, norm from keywords where plan_id = $1 and norm = any($2::text[])',
    [terms],
  );
  const idOf = new Map(keywords.map(({ id, norm }) => [norm, id]));
  const [layout] = await change.find('layouts', { columns: ['body'] });
  const hasFences = (layout?.body as { fences?: string } | undefined)?.fences !== 'off';
  const known = terms.filter((term) => idOf.has(term));
  const patches = new Map<number, { theme_id: number | null }>();
  const hold = (term: string, theme: number | null) =>
    patches.set(idOf.get(term) as number, { theme_id: theme });
  if (kind === 'into') for (const term of known) hold(term, groupOf(term)?.theme ?? null);
  else
    for (const [, own] of grouped(known, (term) => String(groupOf(term)?.parent ?? ''))) {
      const parent = groupOf(own[0] ?? '')?.parent ?? null;
      const themes = await makeThemesIn(
        change,
        parent,
        own.map((term) => newThemeOf(term, null)),
      );
      own.forEach((term, at) => void hold(term, themes[at] ?? null));
    }
  await setEachByHand(change, patches);
  if (kind === 'into' || hasFences) return;
  // Where fences are built they keep a term out of the ad group that answered it; else a negative does.
  const answered = known.filter((term) => groupOf(term) !== undefined);
  for (const [key, own] of grouped(answered, (term) => groupOf(term)?.key ?? ''))
    await placeIn(change, [key], soundNegatives(own.map((term) => ({ text: term, type: 'exact' as const }))));
}
