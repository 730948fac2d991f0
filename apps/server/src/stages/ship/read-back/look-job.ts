import { type ReadBack, startReadBack } from '@sprig/contracts';
import { decimalsOf } from '@sprig/core/money';
import { eachKind, type Outlet, plainOutlet, type RowKind } from '@sprig/core/outlets';
import { CellMaker, joinCells, type MergedRow, RowMerge, splitCells } from '@sprig/core/sheets';
import type { Transaction } from 'sequelize';
import type { z } from 'zod';
import { select } from '../../../db/connect.ts';
import { copyField, copyInto } from '../../../db/copy.ts';
import { keepRow, patchRows, removeRows } from '../../../db/rows.ts';
import { currencyOf } from '../../../plan/currency-of.ts';
import type { ChosenOutlet } from '../../../plan/outlets.ts';
import { SprigFailure } from '../../../platform/failure.ts';
import type { JobContext } from '../../../platform/jobs/context.ts';
import { Prefetch } from '../../../platform/prefetch.ts';
import { atOneMoment, bringUpToDate, type Moment } from '../moment.ts';
import { listOutlets, usualChoice } from '../outlets.ts';
import { type PlanAtOutlet, planAtOutlet } from './plan-at-outlet.ts';
import {
  inOrder,
  outletThatFits,
  type ReadBackSheet,
  readSheets,
  type SheetText,
  textsOf,
} from './sheets.ts';
import { packStaged } from './staged-body.ts';

const PROBLEMS_SHOWN = 100;
/** So many rows are kept at once. */
const AT_ONCE = 2_000;
const COLUMNS = ['n', 'kind', 'change', 'taken', 'campaign', 'body'];

const input = startReadBack.body;

/** Reads sheets, and compares what they say with the plan, row by row. */
export async function readBackJob(context: JobContext): Promise<{ readBack: string }> {
  const { caller, id } = context;
  const asked = input.parse(context.input);
  await context.phase('building');
  await bringUpToDate(caller);
  await context.phase('reading sheets');
  const texts = await textsOf(caller, asked.files);
  return atOneMoment(caller, async (moment) => {
    const outlet = await outletFor(context, texts, asked.by);
    const decimals = decimalsOf(await currencyOf(caller, moment.reading));
    const sheets = readSheets(texts, outlet, asked.columns, decimals);
    refuseUnreadable(sheets);
    await context.phase('comparing with the plan');
    const chosen = await usualChoice(caller, outlet ?? plainOutlet, moment.reading);
    const plan = await planAtOutlet(caller, moment, chosen, (done, total) =>
      context.progress('comparing with the plan', done, total),
    );
    await new Look(context, moment, plan, chosen, sheets, outlet === null, decimals).keep();
    return { readBack: id };
  });
}

async function outletFor(
  { caller }: JobContext,
  texts: readonly SheetText[],
  by: z.output<typeof input>['by'],
): Promise<Outlet | null> {
  if (by === 'columns') return null;
  const outlets = await listOutlets(caller);
  if (by !== 'best') {
    const found = outlets.find(({ outlet }) => outlet.key === by);
    if (!found) throw new SprigFailure('not-found', 'This outlet is not there any more.', { at: 'by' });
    return found.outlet as Outlet;
  }
  // Of two that fit alike the one that the plan ships to.
  const ordered = [...outlets].sort((a, b) => Number(b.chosen) - Number(a.chosen));
  return outletThatFits(
    texts,
    ordered.map(({ outlet }) => outlet as Outlet),
  );
}

/** A sheet of which nothing can be read is told at once: its place and what would help. */
function refuseUnreadable(sheets: readonly ReadBackSheet[]): void {
  for (const { name, problems, rows } of sheets) {
    if (rows.length > 0) continue;
    const [problem] = problems;
    if (problem?.code === 'no-heading')
      throw new SprigFailure('invalid', `${name} is empty.`, { at: 'files' });
    if (problem?.code === 'other-sheet')
      throw new SprigFailure(
        'invalid',
        `${name} has other headings than this outlet’s sheets. Read it by its columns, or choose its outlet.`,
        { at: 'by' },
      );
    if (problem?.code === 'column-missing')
      throw new SprigFailure(
        'invalid',
        `${name} has no column ${problem.column === '' ? 'that names a campaign' : `“${problem.column}”`}. Say which column that is, or add it.`,
        { at: 'columns' },
      );
  }
  if (sheets.every(({ rows, problems }) => rows.length === 0 && problems.length === 0))
    throw new SprigFailure('invalid', 'There is no row below the headings.', { at: 'files' });
}

function placeIn(key: string): [campaign: string, group: string] {
  const [, campaign = '', group = ''] = splitCells(key);
  return [campaign, group];
}

class Look {
  private readonly kinds: ReadBack['kinds'];
  private readonly fields: ReadBack['fields'] = {};
  private readonly lines: string[] = [];
  private n = 0;
  private readonly keeping = new Prefetch();

  constructor(
    private readonly context: JobContext,
    private readonly moment: Moment,
    private readonly plan: PlanAtOutlet,
    private readonly chosen: ChosenOutlet,
    private readonly sheets: readonly ReadBackSheet[],
    private readonly isGuess: boolean,
    private readonly decimals: number,
  ) {
    this.kinds = eachKind(() => ({ added: 0, changed: 0, removed: 0, missing: 0, same: 0 }));
  }

  async keep(): Promise<void> {
    const { caller, id } = this.context;
    const { writing } = this.moment;
    const { outlet } = this.chosen;
    await this.begin(writing);
    const merge = new RowMerge(
      this.plan.cells,
      new CellMaker({ outlet, decimals: this.decimals }),
      this.plan.wasCalled,
    );
    let hasSchedule = false;
    const listed = new Set<RowKind>();
    const all = eachKind(() => 0);
    const places = new Map<object, { sheet: number; line: number }>();
    for (const { sheet, read } of inOrder(this.sheets)) {
      const { row, line } = read;
      all[row.kind]++;
      listed.add(row.kind);
      if (row.kind === 'campaign' && row.settings.schedule !== '') hasSchedule = true;
      const met = merge.see(row, (this.sheets[sheet] as ReadBackSheet).told);
      if (met) this.put(met, sheet, line);
      else if (row.kind === 'ad') places.set(row.texts, { sheet, line });
      if (this.lines.length > AT_ONCE) await this.flush();
    }
    for (const met of merge.finish(listed)) {
      const place = met.row?.kind === 'ad' ? places.get(met.row.texts) : undefined;
      this.put(met, place?.sheet ?? -1, place?.line ?? 0);
      if (this.lines.length > AT_ONCE) await this.flush();
    }
    for (const kind of listed) {
      const { added, changed, removed } = this.kinds[kind];
      this.kinds[kind].same = Math.max(0, all[kind] - added - changed - removed);
    }
    const problems = this.sheets.flatMap(({ name, problems: own }) =>
      own.map((problem) => ({ file: name, ...problem })),
    );
    const isEmpty = await this.isEmpty();
    const body: Omit<ReadBack, 'id' | 'at' | 'revision'> = {
      isEmpty,
      by: this.isGuess ? 'columns' : outlet.key,
      outletName: this.isGuess ? '' : outlet.name,
      files: this.sheets.map(({ upload, name, columns, rows: own }) => ({
        upload,
        name,
        rows: own.length,
        columns,
      })),
      problems: { count: problems.length, shown: problems.slice(0, PROBLEMS_SHOWN) },
      kinds: this.kinds,
      twice: merge.counts.twice,
      goneThere: merge.counts.unknownRemoved,
      fields: this.fields,
      hasSchedule,
    };
    await this.flush();
    await this.keeping.ended;
    await patchRows(caller, 'read_backs', { id }, { body }, writing);
  }

  /** One plan has one set of sheets that wait; run again after a crash it begins anew. */
  private async begin(transaction: Transaction) {
    const { caller, id } = this.context;
    await removeRows(caller, 'read_backs', {}, transaction);
    await keepRow(caller, 'read_backs', { id, revision: this.plan.inputs.revision, body: {} }, transaction);
  }

  private put({ change, kind, key, row, fields }: MergedRow, sheet: number, line: number) {
    this.kinds[kind][change]++;
    for (const { value } of fields) this.fields[value] = (this.fields[value] ?? 0) + 1;
    const [campaign, group] = row ? [row.campaign, 'group' in row ? row.group : ''] : placeIn(key);
    const at = this.plan.groups.get(joinCells([campaign, group]));
    const body = packStaged({
      key,
      change,
      row,
      fields,
      campaign: at?.campaign ?? this.plan.campaigns.get(campaign) ?? null,
      group: at?.key ?? null,
      ad: kind === 'ad' ? (this.plan.ads.get(key) ?? null) : null,
      sheet,
      line,
    });
    this.lines.push(
      `${this.n++}\t${kind}\t${change}\tt\t${copyField(campaign, 'text')}\t${copyField(body, 'text')}`,
    );
  }

  /** The database keeps some rows while the next are compared. */
  private flush(): Promise<void> {
    const { id } = this.context;
    return this.keeping.next(() =>
      copyInto(
        this.moment.writing,
        'read_back_rows',
        ['read_back_id', ...COLUMNS],
        this.lines.splice(0).map((line) => `${id}\t${line}`),
      ),
    );
  }

  /** Nothing gathered, sorted or built: it takes the shape of what is read. */
  private async isEmpty(): Promise<boolean> {
    const { caller } = this.context;
    const [found] = await select<{ filled: boolean }>(
      caller.database,
      `select exists (select from keywords where plan_id = $1) or exists (select from themes where plan_id = $1) as filled`,
      [caller.plan],
      { transaction: this.moment.reading },
    );
    return found?.filled === false;
  }
}
