import { planOutletBody } from '@sprig/contracts';
import type { Outlet } from '@sprig/core/outlets';
import { fixedTexts, pickColumns, SheetFiles, toldValues } from '@sprig/core/sheets';
import { assertPlan } from '../../http/scope.ts';
import type { PlanCaller } from '../../platform/caller.ts';
import { nothingKnown } from './known-set.ts';
import { readAtOnce } from './moment.ts';
import { PlanRows } from './plan-rows.ts';
import { Shipment } from './shipment.ts';

/** Ad groups, and rows of a sheet, that a trial shows. */
const GROUPS = 12;
const ROWS = 40;

/** What an outlet, kept or not, would get of the first ad groups of a plan: its sheets, cell by cell. */
export async function tryOutlet(caller: PlanCaller, outlet: Outlet) {
  await assertPlan(caller);
  return readAtOnce(caller, async (transaction) => {
    const plan = new PlanRows(caller, transaction, outlet);
    const { brief } = await plan.open({ most: GROUPS });
    const files = outlet.sheets.map((profile) => {
      const places = pickColumns(profile.columns, toldValues(outlet));
      const rows = [profile.columns.map(({ heading }) => heading)];
      return { profile, places, rows, fixed: fixedTexts(profile.columns) };
    });
    const shipment = new Shipment(
      plan,
      { outlet, body: planOutletBody.parse({}) },
      brief.currency,
      nothingKnown(),
      null,
      Number.POSITIVE_INFINITY,
      {
        format: outlet.file.formats[0] ?? 'csv',
        sheets: outlet.sheets,
        what: 'all',
        sink: null,
        keepState: null,
        settle: async () => {},
        onRow: (row) => {
          for (const { profile, places, rows, fixed } of files)
            if (rows.length <= ROWS && SheetFiles.takes(profile, row.kind))
              rows.push(places[row.kind].map((place, at) => row.cells[place] ?? fixed[at] ?? ''));
        },
      },
    );
    const { losses } = await shipment.run();
    return {
      groups: plan.groups,
      files: files.map(({ profile, rows }) => ({
        name: `${profile.fileName}.${outlet.file.formats[0] ?? 'csv'}`,
        rows,
      })),
      losses,
    };
  });
}
