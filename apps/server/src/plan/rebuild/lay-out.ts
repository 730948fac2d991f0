import { layoutRules } from '@sprig/contracts';
import {
  type BuildKeyword,
  type BuiltRow,
  bidOfRow,
  type Frame,
  type GroupFrame,
  noPartsBefore,
  type PartsBefore,
  RowBuilder,
} from '@sprig/core/build';
import type { Outlet } from '@sprig/core/outlets';
import { layOut as frameOf, renamed } from '@sprig/core/plan';
import { incrementOf } from '@sprig/core/sheets';
import { hashOf } from '@sprig/core/text';
import { HashSum } from './hash-sum.ts';
import type { Inputs } from './load-inputs.ts';
import { placingRulesOf } from './read-placed.ts';

/** Where groups and keywords stood before, so that nothing moves that need not. */
export type Before = {
  partOf: PartsBefore;
  /** The part of an ad group's campaign at the outlet; 0: none. */
  campaignPartOf: (groupKey: string) => number;
};

/** Who belongs where, and what is known of the rows after going through all of them once. */
export type LaidOut = {
  frame: Frame;
  rows: number;
  /** Of each group: how many rows it has, and a hash of all that they are made of. */
  rowCounts: Uint32Array;
  rowHashes: Float64Array;
  /** Keywords of which a narrower match bids less than a wider one, by their group. */
  cheaper: { key: string; text: string }[];
};

export type RowVisitor = (group: number, row: BuiltRow) => void;

const rulesOf = (inputs: Inputs, outlet: Outlet, partBefore: PartsBefore) => ({
  ...placingRulesOf(inputs),
  ...layoutRules({
    language: inputs.brief.language,
    facts: inputs.facts,
    layout: inputs.layout,
    holds: inputs.holds,
    sources: inputs.sources,
    copies: inputs.copies,
    outlet,
    partBefore,
  }),
});

/** Lays a plan out, and goes through every row once. O(rows). */
export function layOut(
  inputs: Inputs,
  keywords: readonly BuildKeyword[],
  outlet: Outlet,
  { partOf }: Before,
  visit: RowVisitor,
): LaidOut {
  const frame = frameOf(keywords, rulesOf(inputs, outlet, partOf));
  const laid: LaidOut = {
    frame,
    rows: 0,
    rowCounts: new Uint32Array(frame.groups.length),
    rowHashes: new Float64Array(frame.groups.length),
    cheaper: [],
  };
  const builder = new RowBuilder(frame);
  const hashes = new RowHashes(keywords);
  const ladder = new LadderWatch(inputs, outlet, laid.cheaper);
  frame.groups.forEach((group, at) => {
    const rows = builder.rows(group);
    laid.rowCounts[at] = rows.length;
    laid.rowHashes[at] = hashes.of(rows);
    laid.rows += rows.length;
    ladder.watch(group, rows);
    for (const row of rows) visit(at, row);
  });
  return laid;
}

/** A plan that was laid out, under other names: rows do not hang on them. */
export const renameLaid = (laid: LaidOut, inputs: Inputs, outlet: Outlet): LaidOut => ({
  ...laid,
  frame: renamed(laid.frame, rulesOf(inputs, outlet, noPartsBefore)),
});

/** Hashes of rows out of numbers that are worked out once for each keyword and each list of steps. */
class RowHashes {
  private readonly ofKeyword: ReadonlyMap<number, number>;
  private readonly ofSteps = new Map<readonly number[], number>();

  constructor(keywords: readonly BuildKeyword[]) {
    this.ofKeyword = new Map(
      keywords.map(({ id, norm, marks, asked }) => [
        id,
        new HashSum().add(hashOf(norm)).add(id).add(asked).add(hashOf(marks.join())).hash,
      ]),
    );
  }

  of(rows: readonly BuiltRow[]): number {
    const mixer = new HashSum();
    for (const row of rows) {
      mixer
        .add(this.ofKeyword.get(row.keywordId) as number)
        .add(row.type.length * 31 + row.type.charCodeAt(0))
        .add(row.base)
        .add(this.stepsHash(row.steps))
        .add(row.heldBid ?? -1);
      if (row.status !== 'enabled' || row.labels.length > 0)
        mixer.add(hashOf(`${row.status} ${row.labels.join()}`));
      if (row.heldUrl !== null) mixer.add(hashOf(row.heldUrl));
    }
    return mixer.hash;
  }

  private stepsHash(steps: readonly number[]): number {
    const known = this.ofSteps.get(steps);
    if (known !== undefined) return known;
    const hash = hashOf(steps.join());
    this.ofSteps.set(steps, hash);
    return hash;
  }
}

/** Finds keywords whose bids step down from a wider match type to a narrower one, also over their lanes. */
class LadderWatch {
  private readonly highest = new Map<number, number>();
  private readonly bidOf: (row: BuiltRow) => number;

  constructor(
    { layout, brief }: Inputs,
    outlet: Outlet,
    private readonly cheaper: LaidOut['cheaper'],
  ) {
    const increment = incrementOf(outlet, brief.currency);
    this.bidOf = (row) => bidOfRow(row, layout.ladder, increment);
  }

  watch({ key, prefix, lane }: GroupFrame, rows: readonly BuiltRow[]) {
    if (prefix !== '') return;
    let keyword = -1;
    let widest = 0;
    for (const row of rows) {
      if (row.keywordId !== keyword) {
        keyword = row.keywordId;
        widest = lane === null ? 0 : (this.highest.get(keyword) ?? 0);
      }
      const bid = this.bidOf(row);
      if (bid < widest) this.cheaper.push({ key, text: row.text });
      widest = Math.max(widest, bid);
      if (lane !== null) this.highest.set(keyword, widest);
    }
  }
}
