import type { Endpoint, RawEndpoint } from './endpoint.ts';
import * as brief from './stages/brief.ts';
import * as build from './stages/build.ts';
import * as client from './stages/client.ts';
import * as door from './stages/door.ts';
import * as gather from './stages/gather.ts';
import * as ideas from './stages/ideas.ts';
import * as jobs from './stages/jobs.ts';
import * as layout from './stages/layout.ts';
import * as learn from './stages/learn.ts';
import * as learnAds from './stages/learn-ads.ts';
import * as learnBids from './stages/learn-bids.ts';
import * as learnTerms from './stages/learn-terms.ts';
import * as learnVerdicts from './stages/learn-verdicts.ts';
import * as learnWatch from './stages/learn-watch.ts';
import * as me from './stages/me.ts';
import * as mix from './stages/mix.ts';
import * as notes from './stages/notes.ts';
import * as outsets from './stages/outsets.ts';
import * as people from './stages/people.ts';
import * as plans from './stages/plans.ts';
import * as prune from './stages/prune.ts';
import * as readBack from './stages/read-back.ts';
import * as ship from './stages/ship.ts';
import * as sort from './stages/sort.ts';
import * as worth from './stages/worth.ts';
import * as write from './stages/write.ts';

const groups = {
  door,
  me,
  people,
  plans,
  outsets,
  jobs,
  brief,
  gather,
  ideas,
  mix,
  prune,
  sort,
  layout,
  build,
  client,
  worth,
  notes,
  write,
  ship,
  readBack,
  learn,
  learnAds,
  learnBids,
  learnTerms,
  learnVerdicts,
  learnWatch,
};

export type AnyEndpoint = Endpoint | RawEndpoint;
export type NamedEndpoint = { group: keyof typeof groups; name: string; endpoint: AnyEndpoint };

const isEndpoint = (value: unknown): value is AnyEndpoint =>
  typeof value === 'object' && value !== null && 'method' in value && 'access' in value;

/** Every call there is, by the stage that it is of. */
export const allEndpoints: readonly NamedEndpoint[] = Object.entries(groups).flatMap(([group, exports]) =>
  Object.entries(exports).flatMap(([name, value]) =>
    isEndpoint(value) ? [{ group: group as keyof typeof groups, name, endpoint: value }] : [],
  ),
);

/** Whether a call takes or answers bytes. */
export const isRaw = (one: AnyEndpoint): one is RawEndpoint => 'answers' in one;
