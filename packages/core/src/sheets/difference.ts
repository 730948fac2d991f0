import { stringAt } from '../access/index.ts';
import { type CellValue, type Outlet, type RowKind, rowKinds } from '../outlets/index.ts';
import { type CellMaker, type CellRow, KeyedRow, splitCells } from './cells.ts';
import { cellsIn, isGone, kindOfRow } from './kept-rows.ts';
import type { KnownRows } from './known-rows.ts';

export type FieldChange = { value: CellValue; before: string; after: string };
/** The fields of a change are filled in when what the outlet has is read again. */
export type Change = { change: 'same' } | { change: 'added' } | { change: 'changed'; fields: FieldChange[] };

export type DifferenceCounts = { added: number; changed: number; removed: number; same: number };

/**
 * A row that was known and that nobody has seen: the plan has it no more. `isOutside`: it is of no part that is told, so that
 * nobody looked whether the plan still has it.
 */
export type LeftRow = { row: CellRow; known: string; wasGone: boolean; isOutside: boolean };

/** One time that what an outlet has is read again: the numbers of the rows that are needed, rising, and the kinds of those that may be gone. */
export type Round = { kinds: ReadonlySet<RowKind>; rows: Uint32Array };

/** What is within others goes first. */
const GONE_ORDER: readonly RowKind[] = ['ad', 'negative', 'keyword', 'extra', 'group', 'campaign'];

/**
 * What separates a plan's rows from those that an outlet has. Every row of the kinds that are told is to be seen once; then
 * what the outlet has is read again, as often as `rounds` says, for the fields that differ, for the rows that are gone and
 * for those of kinds that are not told: it has them as before.
 */
export class Difference {
  readonly counts: DifferenceCounts = { added: 0, changed: 0, removed: 0, same: 0 };
  /** Budgets that would change beyond what the outlet takes in a day: they stay as they are until tomorrow. */
  waiting = 0;
  budgetChanges = 0;
  private readonly budget: number;
  /** Changed rows of which it is to be told what they said before. */
  private readonly asked = new Map<string, { row: CellRow; fields: FieldChange[] }>();

  constructor(
    private readonly known: KnownRows,
    private readonly maker: CellMaker,
    private readonly outlet: Outlet,
    private readonly budgetChangesLeft: number = Number.POSITIVE_INFINITY,
    private readonly told: ReadonlySet<RowKind> = new Set(rowKinds),
    /** Whether what has this key belongs to what is told; none: all of it does. */
    private readonly isTold: ((key: string) => boolean) | null = null,
  ) {
    this.budget = maker.placeOf('campaign', 'daily-budget');
  }

  /** How a row differs from what the outlet has; a budget that has to wait is put back in the row's cells. */
  see(row: CellRow, wantsFields: boolean): Change {
    if (row.kind === 'campaign') this.holdBudget(row);
    const is = this.known.see(row);
    if (is === 'new') {
      this.counts.added++;
      return ADDED;
    }
    if (is === 'same') {
      this.counts.same++;
      return SAME;
    }
    this.counts.changed++;
    const fields: FieldChange[] = [];
    if (wantsFields) this.asked.set(row.key, { row, fields });
    return { change: 'changed', fields };
  }

  private holdBudget(row: CellRow) {
    const { budget } = this;
    const before = budget < 0 ? undefined : this.known.campaigns.get(row.key);
    if (before === undefined) return;
    const old = stringAt(splitCells(cellsIn(before)), budget);
    if (old === row.cells[budget]) return;
    if (this.budgetChanges < this.budgetChangesLeft) this.budgetChanges++;
    else {
      this.waiting++;
      row.cells[budget] = old;
    }
  }

  /** Once all rows are seen: what is to be read again, a kind of rows that are gone after another; nothing where nothing is to be told. */
  rounds(): Round[] {
    const unseen = this.known.unseen();
    // Of a part it is known only row by row.
    if (!this.isTold)
      for (const [kind, { standing }] of unseen) if (this.told.has(kind)) this.counts.removed += standing;
    const asked = Uint32Array.from([...this.asked.keys()].map((key) => this.known.rowOf(key))).sort();
    const rounds: Round[] = asked.length > 0 ? [{ kinds: new Set(), rows: asked }] : [];
    for (const kind of GONE_ORDER) {
      const rows = unseen.get(kind)?.rows;
      if (rows) rounds.push({ kinds: new Set([kind]), rows });
    }
    return rounds;
  }

  /** A row as the outlet has it, read again: fills in what a change was before; answers a row that is gone, if of these kinds. */
  again(key: string, known: string, kinds: ReadonlySet<RowKind>): LeftRow | null {
    const asked = this.asked.get(key);
    if (asked) {
      const old = splitCells(cellsIn(known));
      this.maker.values[asked.row.kind].forEach((value, at) => {
        const after = stringAt(asked.row.cells, at);
        if (old[at] !== after) asked.fields.push({ value, before: stringAt(old, at), after });
      });
      this.asked.delete(key);
    }
    const kind = kindOfRow(key);
    if (!kinds.has(kind) || this.known.isSeen(key)) return null;
    const cells = this.asGone(kind, splitCells(cellsIn(known)));
    const wasGone = isGone(known);
    const isOutside = this.isTold?.(key) === false;
    if (this.isTold && !isOutside && !wasGone && this.told.has(kind)) this.counts.removed++;
    return { row: new KeyedRow(kind, key, cells), known, wasGone, isOutside };
  }

  /** Whether the outlet's sheets can tell that a row is gone. */
  tellsGone(kind: RowKind): boolean {
    return this.maker.placeOf(kind, 'status') >= 0;
  }

  private asGone(kind: RowKind, cells: string[]): string[] {
    const { words, gone } = this.outlet;
    const isRemoved = gone === 'removed' || kind === 'negative' || kind === 'extra';
    const status = this.maker.placeOf(kind, 'status');
    if (status >= 0) cells[status] = isRemoved ? words.removed : words.paused;
    return cells;
  }
}

const SAME: Change = { change: 'same' };
const ADDED: Change = { change: 'added' };

/** Whether an outlet still has a row of this kind once it was told that it is gone. */
export const staysWhenGone = (outlet: Outlet, kind: RowKind): boolean =>
  outlet.gone === 'paused' && kind !== 'negative' && kind !== 'extra';
