import { itemAt, numberAt } from '../access/index.ts';
import { bitOf, type MatchSet, type MatchType, marker, matchRules, matchTypes } from '../match/index.ts';
import { asMicros, type BasisPoints, type Micros } from '../money/index.ts';
import { codeOfStage, type FunnelStage } from '../text/index.ts';
import { baseFor, stepsFor } from './bid.ts';
import type { BuildKeyword } from './build-keyword.ts';
import type { CampaignFrame, Frame, GroupFrame } from './frame.ts';
import { type Hold, labelsOf, type Status, statusOf } from './hold.ts';
import { marksFor } from './lanes.ts';

export type BuiltCampaign = Omit<CampaignFrame, 'lane'> & { lane: number | null };

export type BuiltGroup = {
  /** It never depends on a name. */
  key: string;
  campaign: string;
  kind: 'single' | 'theme';
  theme: number;
  position: number;
  /** Its lead: the most searched, or the one chosen by hand. */
  keywordId: number;
  keyword: string;
  name: string;
  base: Micros;
  baseFrom: GroupFrame['baseFrom'];
  step: BasisPoints;
  status: Status;
  labels: string[];
  /** How many keywords it holds, each in one match type or more, and their searches together. */
  keywords: number;
  searches: number | null;
  lane: number | null;
  place: string | null;
  stage: FunnelStage | null;
  ads: boolean;
  /** Null where nothing is held. */
  covered: GroupFrame['covered'];
};

export type BuiltRow = {
  /** The keyword's id and the match type's first letter. */
  key: string;
  groupKey: string;
  keywordId: number;
  text: string;
  type: MatchType;
  marks: readonly number[];
  base: Micros;
  steps: readonly BasisPoints[];
  heldBid: Micros | null;
  /** Where it leads by hand. */
  heldUrl: string | null;
  status: Status;
  labels: readonly string[];
};

const NO_MARKS: readonly number[] = [];
const NO_LABELS: readonly string[] = [];
/** Each type with its bit, and what stands behind the keys of its rows. */
const TYPES = matchTypes.map((type) => ({ type, bit: bitOf(type), letter: `:${matchRules[type].key}` }));

/** Makes the rows of a frame's groups, one group at a time. O(rows). */
export class RowBuilder {
  /** Rows that share type, stage and further steps share one list. */
  private readonly steps = new Map<string, (readonly BasisPoints[])[]>();
  private readonly laneSteps: BasisPoints[];
  private readonly mark: ReturnType<typeof marker>;

  constructor(private readonly frame: Frame) {
    const { layout, pack } = frame.input;
    this.laneSteps = layout.lanes.map(({ step }) => step);
    this.mark = marker(layout.marks, pack);
  }

  group(frame: GroupFrame): BuiltGroup {
    const { keywords } = this.frame.input;
    const lead = itemAt(keywords, frame.lead);
    const { members, lane } = frame;
    return {
      key: frame.key,
      campaign: itemAt(this.frame.campaigns, frame.campaign).key,
      kind: frame.kind,
      theme: frame.theme,
      position: frame.position,
      keywordId: lead.id,
      keyword: lead.norm,
      name: frame.name,
      base: frame.base,
      baseFrom: frame.baseFrom,
      step: frame.step,
      status: frame.status,
      labels: frame.labels,
      keywords: members.length,
      searches: sumOfSearches(keywords, members),
      lane: lane?.id ?? null,
      place: frame.place,
      stage: frame.stage,
      ads: frame.ads,
      covered: frame.covered,
    };
  }

  rows(frame: GroupFrame): BuiltRow[] {
    const rows: BuiltRow[] = [];
    const { lane } = frame;
    // By its number: of a frame that was only renamed the layout is another object that says the same.
    const laneAt = lane === null ? -1 : this.frame.input.layout.lanes.findIndex(({ id }) => id === lane.id);
    for (const at of frame.members) this.addRows(rows, frame, at, laneAt);
    return rows;
  }

  private addRows(rows: BuiltRow[], frame: GroupFrame, at: number, onlyLane: number) {
    const { input, holds, typesOf, medianOf } = this.frame;
    const { layout } = input;
    const keyword = itemAt(input.keywords, at);
    const byLane = typesOf(at);
    const base =
      frame.baseFrom === 'held'
        ? frame.base
        : baseFor(layout, keyword.cpc, keyword.theme ? medianOf(keyword.theme) : null, keyword.takenCpc)[0];
    const prefix = `${frame.prefix}k${keyword.id}`;
    for (let place = 0; place < TYPES.length; place++) {
      const { type, bit, letter } = itemAt(TYPES, place);
      const lane = laneOf(byLane, bit, onlyLane);
      if (lane < 0) continue;
      const key = prefix + letter;
      const row: BuiltRow = {
        key,
        groupKey: frame.key,
        keywordId: keyword.id,
        text: keyword.norm,
        type,
        marks: type === 'modified' ? marksFor(keyword, this.mark) : NO_MARKS,
        base,
        steps: this.stepsOf(frame, lane, place, keyword.stage),
        heldBid: null,
        heldUrl: null,
        status: 'enabled',
        labels: NO_LABELS,
      };
      if (holds.size > 0) holdRow(row, holds.of(key));
      rows.push(row);
    }
  }

  private stepsOf(
    frame: GroupFrame,
    lane: number,
    type: number,
    stage: FunnelStage | null,
  ): readonly BasisPoints[] {
    const laneStep = this.laneSteps[lane] ?? 10_000;
    const id = `${frame.steps.length === 0 ? '' : frame.steps.join()}:${laneStep}`;
    let known = this.steps.get(id);
    if (!known) {
      known = [];
      this.steps.set(id, known);
    }
    const place = type * 4 + codeOfStage(stage);
    const there = known[place];
    if (there) return there;
    const more = laneStep === 10_000 ? frame.steps : [...frame.steps, laneStep];
    const made = stepsFor(this.frame.input.layout, matchTypes[type] as MatchType, { stage, more });
    known[place] = made;
    return made;
  }
}

/** The lane in which a keyword has a type, among all or as the one asked for; -1 where it has not. */
function laneOf(byLane: readonly MatchSet[], bit: number, only: number): number {
  if (only >= 0) return (byLane[only] ?? 0) & bit ? only : -1;
  for (let lane = 0; lane < byLane.length; lane++) if (numberAt(byLane, lane) & bit) return lane;
  return -1;
}

function holdRow(row: BuiltRow, held: ReadonlyMap<string, Hold> | undefined) {
  if (!held) return;
  const bid = held.get('bid');
  if (bid) row.heldBid = asMicros(Number(bid.value));
  const url = held.get('finalUrl');
  if (url) row.heldUrl = String(url.value);
  row.status = statusOf(held);
  const labels = held.get('labels');
  if (labels) row.labels = labelsOf(String(labels.value));
}

/** Null where none of them has a figure. */
function sumOfSearches(keywords: readonly BuildKeyword[], members: readonly number[]): number | null {
  let sum: number | null = null;
  for (const at of members) {
    const searches = keywords[at]?.searches ?? null;
    if (searches !== null) sum = (sum ?? 0) + searches;
  }
  return sum;
}
