import { MOST_TRIED, type TriedCandidate, type TriedMany, type TriedView } from '@sprig/contracts';
import { type Candidate, type matchTypes, trySearch as tryIn, weightOf } from '@sprig/core/match';
import { asMicros } from '@sprig/core/money';
import { plainOutlet } from '@sprig/core/outlets';
import { linesOf, normalise } from '@sprig/core/text';
import { select } from '../../db/connect.ts';
import type { Block } from '../../plan/blocks.ts';
import { adTexts } from '../../plan/rebuild/index.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { SprigFailure } from '../../platform/failure.ts';
import { type IndexedGroup, type PlanIndex, planIndex } from './plan-index.ts';

/** Candidates that are shown one by one. */
const SHOWN = 200;
const SAMPLES = 5;
const LISTED = 500;

const triedIn = (plan: PlanIndex, search: string) =>
  tryIn<Block>(plan.index, search, {
    bidOf: (row) => asMicros(plan.bids[row] as number),
    blockOf: plan.blocks.blockOf,
    groupOf: (owner) => (plan.groups[owner] as IndexedGroup).name,
  });

/** Every keyword that could answer a search, the one that does, and the ad that it shows. */
export async function trySearch(caller: PlanCaller, typed: string): Promise<TriedView> {
  const search = normalise(typed);
  if (search === '') throw new SprigFailure('invalid', 'Type a search to try.', { at: 'search' });
  const plan = await planIndex(caller);
  const { candidates, wonBy } = triedIn(plan, search);
  const winner = wonBy === null ? undefined : candidates[0];
  return {
    builtRevision: plan.builtRevision,
    search,
    candidates: candidates.slice(0, SHOWN).map((one) => viewOf(plan, one)),
    candidateCount: candidates.length,
    wonBy,
    ad: winner ? await adOf(caller, groupOf(plan, winner).key) : null,
  };
}

const groupOf = ({ groups, index }: PlanIndex, { row }: Candidate<Block>): IndexedGroup =>
  groups[index.ownerOfRow[row] as number] as IndexedGroup;

function viewOf(plan: PlanIndex, candidate: Candidate<Block>): TriedCandidate {
  const { row, type, bid, relevance, standing, blockedBy } = candidate;
  const group = groupOf(plan, candidate);
  return {
    key: plan.rowKeys[row] as string,
    text: plan.index.normOfRow(row),
    type: type satisfies (typeof matchTypes)[number],
    marks: [...plan.index.marksOf(row)],
    group: group.key,
    groupName: group.name,
    campaignName: group.campaignName,
    bid,
    relevance,
    weight: weightOf(candidate),
    standing,
    blockedBy,
  };
}

async function adOf({ database, plan }: PlanCaller, group: string): Promise<TriedView['ad']> {
  const [ad] = await select<{ texts: string[]; finalUrl: string }>(
    database,
    `select texts, final_url as "finalUrl" from ads where plan_id = $1 and outlet = $2 and group_key = $3 order by misfit, key limit 1`,
    [plan, plainOutlet.key, group],
  );
  return ad ? { texts: adTexts(ad.texts), finalUrl: ad.finalUrl } : null;
}

/** Where a list of searches lands: one to a line. */
export async function trySearches(caller: PlanCaller, text: string): Promise<TriedMany> {
  const searches = linesOf(text)
    .map((line) => normalise(line.split('\t')[0] ?? ''))
    .filter((search) => search !== '');
  if (searches.length === 0)
    throw new SprigFailure('invalid', 'Paste searches, one to a line.', { at: 'text' });
  if (searches.length > MOST_TRIED)
    throw new SprigFailure(
      'invalid',
      `These are ${searches.length.toLocaleString('en')} searches; ${MOST_TRIED.toLocaleString('en')} can be tried at once.`,
      { at: 'text' },
    );
  const plan = await planIndex(caller);
  const landed = new Map<string, { name: string; searches: number; samples: string[] }>();
  const unanswered: string[] = [];
  const blocked: string[] = [];
  for (const search of searches) {
    const { candidates, wonBy } = triedIn(plan, search);
    const winner = candidates[0];
    if (!winner) unanswered.push(search);
    else if (wonBy === null) blocked.push(search);
    else {
      const { key, name } = groupOf(plan, winner);
      const there = landed.get(key) ?? { name, searches: 0, samples: [] };
      landed.set(key, there);
      there.searches++;
      if (there.samples.length < SAMPLES) there.samples.push(search);
    }
  }
  const groups = [...landed]
    .map(([key, found]) => ({ key, ...found }))
    .sort((a, b) => b.searches - a.searches);
  return {
    searches: searches.length,
    answered: searches.length - unanswered.length - blocked.length,
    blocked: blocked.length,
    groups: groups.slice(0, LISTED),
    groupCount: groups.length,
    unanswered: unanswered.slice(0, LISTED),
    blockedSamples: blocked.slice(0, LISTED),
  };
}
