import { bitOf, type MatchSet, type marker } from '../match/index.ts';
import type { FunnelStage } from '../text/index.ts';
import type { Lane, LaneTakes, Layout } from './layout.ts';

/** Stands among the types that a keyword was asked for in where they were set by hand: they hold whatever the rules say. */
export const TYPES_BY_HAND = 16;

/** What of a keyword tells its lanes; `asked` may have `TYPES_BY_HAND` in it. */
export type LaneKeyword = {
  asked: MatchSet;
  searches?: number | null;
  stage?: FunnelStage | null;
  sources?: readonly number[];
};

export function takesPart({ searchesFrom, sources, stages }: LaneTakes, keyword: LaneKeyword): boolean {
  if (searchesFrom !== null && (keyword.searches ?? -1) < searchesFrom) return false;
  if (sources.length > 0 && !keyword.sources?.some((source) => sources.includes(source))) return false;
  return stages.length === 0 || (keyword.stage != null && stages.includes(keyword.stage));
}

/**
 * The match types that a keyword has in each lane, in the lanes' order. A type is made once: the first lane that has it
 * and takes the keyword gets it. What was asked for and no lane has goes to the first lane that takes the keyword, or to
 * the first of all, so that nothing that was asked for is lost.
 * @param ofBranch the types that the keyword's branch has of its own, for those that were asked for in none; 0: the lanes'
 */
export function laneTypes(
  layout: Pick<Layout, 'asAsked' | 'lanes'>,
  keyword: LaneKeyword,
  ofBranch: MatchSet = 0,
): MatchSet[] {
  const { lanes } = layout;
  const own = layout.asAsked || keyword.asked & TYPES_BY_HAND ? keyword.asked & ~TYPES_BY_HAND : 0;
  const asked = own === 0 ? ofBranch : own;
  let left = asked === 0 ? 15 : asked;
  const types = lanes.map((lane) => {
    if (!takesPart(lane.takes, keyword)) return 0;
    const own = lane.types & left;
    left &= ~own;
    return own;
  });
  if (asked === 0 || left === 0) return types;
  const home = Math.max(
    0,
    lanes.findIndex((lane) => takesPart(lane.takes, keyword)),
  );
  types[home] = (types[home] ?? 0) | left;
  return types;
}

/** All match types that a keyword is built in. */
export const typesFor = (layout: Pick<Layout, 'asAsked' | 'lanes'>, keyword: LaneKeyword): MatchSet =>
  laneTypes(layout, keyword).reduce((all, types) => all | types, 0);

/** The lanes' types together. */
export const laneUnion = (lanes: readonly Lane[]): MatchSet =>
  lanes.reduce((all, { types }) => all | types, 0);

const MODIFIED = bitOf('modified');

/** The places of the marked words of a modified broad keyword: those it was asked with, else by the rule. None: all are. */
export const marksFor = (
  { norm, asked, marks }: { norm: string; asked: MatchSet; marks: readonly number[] },
  mark: ReturnType<typeof marker>,
): readonly number[] => (asked & MODIFIED ? marks : mark(norm.split(' ')));
