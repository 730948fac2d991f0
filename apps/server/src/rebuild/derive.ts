import { casingList } from '@sprig/contracts';
import {
  type BuiltPlan,
  buildPlan,
  GroupNames,
  type Hold,
  OrphanWatch,
  UniqueNames,
} from '@sprig/core/build';
import { matchTypes, NegativeIndex, writeNegative } from '@sprig/core/match';
import {
  Checker,
  type Finding,
  type Outlet,
  type Projection,
  partLimits,
  project,
  splitParts,
  textOf,
} from '@sprig/core/ship';
import { casingOf, languagePack } from '@sprig/core/text';
import {
  adFields,
  type CompiledPattern,
  compilePattern,
  unfilledFields,
  type Writing,
} from '@sprig/core/write';
import type { Column } from '../database/copy.ts';
import type { Frame, InputKeyword, Inputs } from './load-inputs.ts';
import type { DerivedRow } from './replace-rows.ts';

const int = (name: string): Column => ({ name, type: 'int4' });
const text = (name: string): Column => ({ name, type: 'text' });
const amount = (name: string): Column => ({ name, type: 'int8' });

export const groupColumns: Column[] = [
  int('position'),
  int('keyword_id'),
  text('keyword'),
  text('name'),
  int('searches'),
  amount('base'),
  text('base_from'),
  { name: 'covered', type: 'jsonb' },
];
export const rowColumns: Column[] = [
  text('group_key'),
  int('position'),
  text('text'),
  int('type'),
  { name: 'marks', type: 'int2[]' },
  amount('base'),
  { name: 'steps', type: 'int4[]' },
  amount('held_bid'),
];
export const outletGroupColumns: Column[] = [
  int('position'),
  text('campaign'),
  int('part'),
  text('name'),
  amount('bid'),
];
export const adColumns: Column[] = [
  text('group_key'),
  int('position'),
  { name: 'texts', type: 'text[]' },
  text('final_url'),
  { name: 'misfit', type: 'bool' },
];

export type DerivedPage = { built: BuiltPlan; projection: Projection; keywords: readonly InputKeyword[] };

/** Makes all that hangs on the inputs, by core functions in the trail's order, a page of keywords at a time. */
export class Deriving {
  private readonly parts: Uint32Array;
  private readonly names: GroupNames;
  private readonly outletNames: UniqueNames;
  private readonly checker: Checker;
  private readonly watch: OrphanWatch;
  private readonly against: NegativeIndex;
  private readonly blocked = new Map<number, number>();
  private readonly writing: Writing;
  private readonly pattern: CompiledPattern;
  private done = 0;
  groups = 0;
  rows = 0;

  constructor(
    private readonly inputs: Inputs,
    frame: Frame,
    private readonly outlet: Outlet,
  ) {
    const { brief, facts, holds, layout, negatives } = inputs;
    const isIn = new Set(heldKeywords(holds));
    const there = new Set(frame.ids.filter((id) => isIn.has(id)));
    this.parts = splitParts(frame.rows, partLimits(outlet), frame.partsBefore);
    this.names = new GroupNames(holds, (id) => there.has(id));
    this.outletNames = new UniqueNames(outlet.limits.groupName);
    this.checker = new Checker({ layout, site: brief.site }, outlet);
    this.watch = new OrphanWatch(holds);
    this.against = new NegativeIndex(negatives);
    this.writing = {
      pack: languagePack(brief.language, facts.functionWords),
      casing: casingOf(casingList(facts)),
    };
    this.pattern = compilePattern(inputs.pattern);
  }

  page(keywords: readonly InputKeyword[]): DerivedPage {
    const { layout, holds, brief } = this.inputs;
    const pageHolds = holdsOf(holds, keywords);
    const built = buildPlan({ keywords, layout, holds: pageHolds, ...this.writing, names: this.names });
    const parts = this.parts.subarray(this.done, this.done + keywords.length);
    this.done += keywords.length;
    const projection = project(
      {
        ...built,
        layout,
        currency: brief.currency,
        site: brief.site,
        pattern: this.pattern,
        holds: pageHolds,
        writing: this.writing,
        page: { parts, names: this.outletNames },
      },
      this.outlet,
    );
    this.checker.page({ ...built, projection });
    this.watch.page(built);
    this.groups += built.groups.length;
    this.rows += built.rows.length;
    for (const { norm } of keywords)
      if (this.against.blocking(norm) !== undefined)
        for (const id of this.against.allBlocking(norm))
          this.blocked.set(id, (this.blocked.get(id) ?? 0) + 1);
    return { built, projection, keywords };
  }

  findings(): Finding[] {
    const conflicts = this.inputs.negatives.flatMap(({ id, norm, type }) => {
      const blocked = this.blocked.get(id);
      return blocked === undefined ? [] : [{ text: writeNegative(norm, type), blocked }];
    });
    return this.checker.done(this.watch.orphans().length, conflicts);
  }
}

const keywordOf = (rowKey: string): number => Number(/^k(\d+)/.exec(rowKey)?.[1] ?? 0);
const heldKeywords = (holds: readonly Hold[]) => holds.map(({ rowKey }) => keywordOf(rowKey));

function holdsOf(holds: readonly Hold[], keywords: readonly InputKeyword[]): Hold[] {
  if (holds.length === 0) return [];
  const ids = new Set(keywords.map(({ id }) => id));
  return holds.filter(({ rowKey }) => ids.has(keywordOf(rowKey)));
}

/** The rows of each derived table; the position is the keyword's id, so that nothing moves when others come or go. */
export function rowsOf({ built, projection, keywords }: DerivedPage) {
  const places = new Map(built.groups.map(({ key, keywordId }) => [key, keywordId]));
  const groups: DerivedRow[] = built.groups.map((group, at) => ({
    key: group.key,
    values: [
      group.keywordId,
      group.keywordId,
      group.keyword,
      group.name,
      keywords[at]?.searches ?? null,
      group.base,
      group.baseFrom,
      group.covered,
    ],
  }));
  const rows: DerivedRow[] = built.rows.map((row) => ({
    key: row.key,
    values: [
      row.groupKey,
      places.get(row.groupKey),
      row.text,
      matchTypes.indexOf(row.type),
      row.marks,
      row.base,
      row.steps,
      row.heldBid,
    ],
  }));
  const outletGroups: DerivedRow[] = projection.groups.map(({ key, campaign, part, name, bid }) => ({
    key,
    values: [places.get(key), campaign, part, name, bid],
  }));
  const ads: DerivedRow[] = projection.ads.map(({ key, groupKey, fit }) => ({
    key,
    values: [
      groupKey,
      places.get(groupKey),
      adFields.map((field) => textOf(fit.fields[field])),
      fit.finalUrl.status === 'fits' ? fit.finalUrl.text : '',
      unfilledFields(fit).length > 0,
    ],
  }));
  return { groups, rows, outletGroups, ads };
}
