import type { BuildSummary, FenceFigures } from '@sprig/contracts';
import type { BuildKeyword, Frame, GroupFrame } from '@sprig/core/build';
import { type Finding, Findings, type GroupFinding } from '@sprig/core/findings';
import { plainOutlet } from '@sprig/core/outlets';
import { partsBefore, placedKeywords } from '@sprig/core/plan';
import { Transaction } from 'sequelize';
import { execute, select } from '../../db/connect.ts';
import { locks } from '../../db/locks.ts';
import { keepRow, patchRows, removeRows } from '../../db/rows.ts';
import { learnEstimates } from '../../figures/learn-estimates.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import type { JobContext } from '../../platform/jobs/context.ts';
import { enqueueRebuild } from '../../platform/jobs/enqueue.ts';
import { notify } from '../../platform/jobs/notify.ts';
import { Prefetch } from '../../platform/prefetch.ts';
import { type DerivedPage, Deriving } from './derive.ts';
import {
  adTable,
  campaignRow,
  campaignTable,
  fenceTable,
  groupTable,
  outletGroupTable,
  rowTable,
} from './derived-rows.ts';
import { DuplicateRows } from './duplicate-rows.ts';
import { Fencing } from './fencing.ts';
import { keepBuild, type LastBuild, laidKeyOf, lastBuild, placedKeyOf } from './last-build.ts';
import { type Before, layOut, renameLaid } from './lay-out.ts';
import { InputReader, type Inputs } from './load-inputs.ts';
import { readPlaced } from './read-placed.ts';
import { type DerivedTable, type Replaced, replaceRows } from './replace-rows.ts';
import { type Rows, stoodParts } from './stood-parts.ts';

/** The outlet that a plan is built for. */
const outlet = plainOutlet;

export type RebuildResult = {
  revision: number;
  groups: number;
  rows: number;
  written: number;
  removed: number;
  summary: BuildSummary;
};

/** What is told is learned before what is built of it is shown, so that both are looked at anew at once. */
export async function rebuildJob(context: JobContext): Promise<RebuildResult> {
  await learnEstimates(context.caller);
  return rebuild(context.caller, (phase, done, total) => context.phase(phase, done, total));
}

type Tell = (phase: string, done: number, total: number) => Promise<void>;

/**
 * Brings what is derived up to date: reads the inputs as they stood at one moment, lays them out, and makes and keeps
 * the ad groups that have changed, a page at a time. Others see the old rows until all are there, and no change has to
 * wait. If the revision has moved meanwhile another rebuild is queued. Rebuilding twice changes nothing.
 */
export async function rebuild(caller: PlanCaller, tell: Tell = async () => {}): Promise<RebuildResult> {
  await tell('reading', 0, 0);
  return caller.database.transaction(
    { isolationLevel: Transaction.ISOLATION_LEVELS.REPEATABLE_READ, readOnly: true },
    async (reading) => {
      const reader = new InputReader(caller, reading);
      const inputs = await reader.inputs();
      let job: Rebuild | null = null;
      const result = await caller.database.transaction(async (writing) => {
        // Serialises rebuilds of one plan without keeping its changes waiting.
        await execute(caller.database, 'select pg_advisory_xact_lock($1, $2)', [locks.rebuild, caller.plan], {
          transaction: writing,
        });
        job = new Rebuild(caller, writing, reader, inputs, tell);
        return job.run();
      });
      const { made } = job as unknown as Rebuild;
      if (made) keepBuild(made);
      return result;
    },
  );
}

/** Keyword rows in memory at once, as they are stored. */
const PAGE = 12_000;
/** A plan with more fences to a keyword than this is laid out in a way that fights itself. */
const MANY_FENCES = 5;

type Stored = { key: string; made_of: number; findings: GroupFinding[] | null };
type Count = Omit<Replaced, 'written'>;

class Rebuild {
  private written = 0;
  private removed = 0;
  private readonly counts: Record<'groups' | 'rows', Count> = {
    groups: { fresh: 0, changed: 0, removed: 0 },
    rows: { fresh: 0, changed: 0, removed: 0 },
  };

  constructor(
    private readonly caller: PlanCaller,
    private readonly writing: Transaction,
    private readonly reader: InputReader,
    private readonly inputs: Inputs,
    private readonly tell: Tell,
  ) {}

  async run(): Promise<RebuildResult> {
    const { revision } = this.inputs;
    const stands = await this.builtRevision();
    if (stands === null || stands >= revision) return this.result(0, 0);
    const known = lastBuild(this.caller.database, this.caller.plan, stands);
    const placedKey = await placedKeyOf(this.reader, this.inputs);
    const keywords = known?.placedKey === placedKey ? known.keywords : await this.placed();
    await this.tell('laying out', keywords.length, 0);
    const laidKey = laidKeyOf(this.inputs, placedKey);
    const isRenamed = known?.laidKey === laidKey && this.inputs.copies.length === 0;
    const fencing = new Fencing(this.inputs, outlet, isRenamed ? known.fencedRows : null);
    const duplicates = new DuplicateRows(this.inputs);
    const before = await this.before();
    const laid = isRenamed
      ? renameLaid(known.laid, this.inputs, outlet)
      : layOut(this.inputs, keywords, outlet, before, (group, row) => {
          fencing.visit(group, row);
          duplicates.visit(group, row);
        });
    const deriving = new Deriving(this.inputs, keywords, outlet, laid, before.campaignPartOf);
    const { campaigns, groups } = laid.frame;
    const found = new Findings();
    await this.keep(
      campaignTable,
      campaigns.map((one) => campaignRow({ ...one, lane: one.lane?.id ?? null })),
      [],
    );
    await this.keepGroups(deriving, found);
    const fences = await this.keepFences(fencing, laid.frame, keywords);
    deriving.planFindings(found);
    duplicates.tell(laid.frame, found);
    fenceFindings(found, fences, keywords.length);
    await this.keepFindings(found.list());
    await this.close();
    this.made = {
      database: this.caller.database,
      plan: this.caller.plan,
      builtRevision: revision,
      placedKey,
      keywords,
      laidKey,
      laid,
      fencedRows: fencing.rowsHash,
    };
    return this.result(groups.length, laid.rows);
  }

  /** What was built, to be kept once it is committed. */
  made: LastBuild | null = null;

  private result(groups: number, rows: number): RebuildResult {
    const { written, removed, counts } = this;
    return {
      revision: this.inputs.revision,
      groups,
      rows,
      written,
      removed,
      summary: {
        newGroups: counts.groups.fresh,
        goneGroups: counts.groups.removed,
        bids: counts.rows.changed,
        held: this.inputs.holds.length,
      },
    };
  }

  /** The keywords as they are laid out, each in its theme. */
  private async placed(): Promise<BuildKeyword[]> {
    const { pool, placed } = await readPlaced(this.reader, this.inputs, (done) =>
      this.tell('reading', done, 0),
    );
    return placedKeywords(pool, placed);
  }

  private async builtRevision(): Promise<number | null> {
    const [plan] = await this.rows<{ built: number }>(
      'select built_revision as built from plans where id = $1',
    );
    return plan?.built ?? null;
  }

  /** Where keywords and groups stand by what was built last. */
  private async before(): Promise<Before> {
    const placed = await this.rows<{ key: string; part: number }>(
      'select key, part from outlet_groups where plan_id = $1 and outlet = $2',
      [outlet.key],
    );
    const campaignParts = new Map(placed.map(({ key, part }) => [key, part]));
    const rows: Rows = (sql, bind) => this.rows(sql, bind);
    const parts = await stoodParts(
      rows,
      placed.map(({ key }) => key),
    );
    return {
      partOf: partsBefore(parts),
      campaignPartOf: (key) => campaignParts.get(key) ?? 0,
    };
  }

  /** Makes the groups that have changed, and takes those away that are made no more. */
  private async keepGroups(deriving: Deriving, found: Findings) {
    const stored = await this.rows<Stored>('select key, made_of, findings from ad_groups where plan_id = $1');
    const there = new Map(stored.map((row) => [row.key, row]));
    const { groups } = deriving.laid.frame;
    const stale: number[] = [];
    const findings = new Map<string, readonly GroupFinding[]>();
    groups.forEach(({ key }, at) => {
      const known = there.get(key);
      there.delete(key);
      if (known?.made_of !== deriving.madeOf[at]) stale.push(at);
      else if (known?.findings) findings.set(key, known.findings);
    });
    await this.keepPages(deriving, stale, findings);
    for (const frame of groups) {
      const list = findings.get(frame.key);
      if (list) found.addGroup(frame.key, list, deriving.builder.group(frame).searches);
    }
    if (there.size > 0) await this.removeGroups([...there.keys()]);
  }

  /** A page is made while the one before it is stored. */
  private async keepPages(
    deriving: Deriving,
    stale: readonly number[],
    findings: Map<string, readonly GroupFinding[]>,
  ) {
    const { rowCounts, frame } = deriving.laid;
    const total = stale.reduce((sum, at) => sum + (rowCounts[at] as number), 0);
    let done = 0;
    const storing = new Prefetch();
    for (let from = 0; from < stale.length; ) {
      await this.tell('building', done, total);
      let to = from;
      let rows = 0;
      for (; to < stale.length && rows < PAGE; to++) rows += rowCounts[stale[to] as number] as number;
      const places = stale.slice(from, to);
      const page = deriving.page(places);
      for (const { key, list } of page.findings) findings.set(key, list);
      const keys = places.map((at) => (frame.groups[at] as GroupFrame).key);
      await storing.next(() => this.storePage(page, keys));
      from = to;
      done += rows;
    }
    await storing.ended;
  }

  private async storePage(page: DerivedPage, keys: readonly string[]) {
    add(this.counts.groups, await this.keep(groupTable, page.groups, keys));
    add(this.counts.rows, await this.keep(rowTable, page.rows, keys));
    await this.keep(outletGroupTable(outlet.key), page.outletGroups, keys);
    await this.keep(adTable(outlet.key), page.ads, keys);
  }

  private async removeGroups(keys: readonly string[]) {
    add(this.counts.groups, await this.keep(groupTable, [], keys));
    // What has moved to another group stands there by now.
    add(this.counts.rows, await this.keep(rowTable, [], keys));
    await this.keep(outletGroupTable(outlet.key), [], keys);
    await this.keep(adTable(outlet.key), [], keys);
  }

  private async keepFences(
    fencing: Fencing,
    frame: Frame,
    keywords: readonly BuildKeyword[],
  ): Promise<FenceFigures | null> {
    const [state] = await this.rows<{ fenced_for: number; fences: FenceFigures | null }>(
      'select fenced_for, fences from build_states where plan_id = $1',
    );
    const hash = fencing.hashFor(frame);
    if (state && state.fenced_for === hash) return state.fences;
    await this.tell('fencing', 0, 0);
    const fenced = fencing.fence(frame, keywords);
    await this.keep(fenceTable, fenced?.rows ?? [], []);
    const fences = fenced?.figures ?? null;
    await keepRow(this.caller, 'build_states', { fenced_for: hash, fences }, this.writing);
    return fenced?.figures ?? null;
  }

  private async keep(
    table: DerivedTable,
    rows: Parameters<typeof replaceRows>[3],
    groups: readonly string[],
  ): Promise<Replaced> {
    const replaced = await replaceRows(this.caller, this.writing, table, rows, groups);
    this.written += replaced.written;
    this.removed += replaced.removed;
    return replaced;
  }

  private async keepFindings(findings: readonly Finding[]) {
    await removeRows(this.caller, 'findings', { outlet: outlet.key }, this.writing);
    for (const [n, body] of findings.entries())
      await keepRow(
        this.caller,
        'findings',
        { outlet: outlet.key, n, severity: body.severity, body },
        this.writing,
      );
  }

  private async close() {
    const { revision, day } = this.inputs;
    const { summary } = this.result(0, 0);
    if (this.written + this.removed > 0)
      await patchRows(this.caller, 'build_states', {}, { summary }, this.writing);
    const [now] = await this.rows<{ revision: number }>(
      'update plans set built_revision = $2, built_day = $3 where id = $1 returning revision',
      [revision, day],
    );
    if (now && now.revision > revision) await enqueueRebuild(this.caller, this.writing);
    await notify(this.caller.database, this.writing, {
      type: 'built',
      plan: this.caller.plan,
      builtRevision: revision,
    });
  }

  private rows<T extends object>(sql: string, bind: unknown[] = []): Promise<T[]> {
    const { database, plan } = this.caller;
    return select<T>(database, sql, [plan, ...bind], { transaction: this.writing });
  }
}

function add(count: Count, { fresh, changed, removed }: Count) {
  count.fresh += fresh;
  count.changed += changed;
  count.removed += removed;
}

function fenceFindings(found: Findings, fences: FenceFigures | null, keywords: number) {
  if (!fences) return;
  const { audit, exact, phrase, left } = fences;
  if (audit.kept < audit.tried) found.add('fence-audit', { count: audit.tried - audit.kept });
  if (left > 0 || exact + phrase > keywords * MANY_FENCES)
    found.add('fences-over-limit', { count: left > 0 ? left : exact + phrase });
}
