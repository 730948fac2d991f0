import type { Outlet, RowKind } from '../outlets/index.ts';
import { toldValues } from '../sheets/index.ts';
import { lengthOf } from '../text/index.ts';

type Check = Outlet['checks'][number];
/** What became of one of an outlet's own checks: how many cells it objects to, and the first of them. */
export type OwnObjection = Check & { count: number; first: string };

const OBJECTS: Record<Check['is'], (cell: string, text: string) => boolean> = {
  with: (cell, text) => cell.toLowerCase().includes(text),
  // An empty cell says nothing that could lack something.
  without: (cell, text) => cell !== '' && !cell.toLowerCase().includes(text),
  over: (cell, text) => lengthOf(cell) > Number(text),
  empty: (cell) => cell === '',
};

/** An outlet's own checks of the cells that its sheets get. O(checks of the row's kind) a row. */
export class OwnChecks {
  private readonly found: OwnObjection[];
  private readonly of: Map<RowKind, { at: number; text: string; objection: OwnObjection }[]>;

  constructor(outlet: Pick<Outlet, 'checks' | 'sheets'>) {
    this.found = outlet.checks.map((check) => ({ ...check, count: 0, first: '' }));
    this.of = new Map(
      Object.entries(toldValues(outlet)).map(([kind, values]) => [
        kind as RowKind,
        this.found.flatMap((objection) => {
          const at = values.indexOf(objection.value);
          const isOfKind = objection.kind === null || objection.kind === kind;
          return at < 0 || !isOfKind ? [] : [{ at, text: objection.text.toLowerCase(), objection }];
        }),
      ]),
    );
  }

  /** `cells`: in the order of the values that the outlet's sheets tell of such rows. */
  see(kind: RowKind, cells: readonly string[]): void {
    for (const { at, text, objection } of this.of.get(kind) ?? []) {
      const cell = cells[at] ?? '';
      if (!OBJECTS[objection.is](cell, text)) continue;
      if (objection.count++ === 0) objection.first = cell;
    }
  }

  list(): OwnObjection[] {
    return this.found.filter(({ count }) => count > 0);
  }
}
