import { type KeywordSheetRow, type NegativeSheetRow, rowNotation } from '../columns/index.ts';
import type { Outlet } from '../outlets/index.ts';

/**
 * Keywords and negatives in an outlet's notation, for pasting, each with the campaign and the ad group in which it
 * stands, once there, in their order. A negative of a whole campaign names no ad group. No cell holds a tab or a line end.
 */
export function pasteRows(
  rows: readonly (KeywordSheetRow | NegativeSheetRow)[],
  outlet: Outlet,
): [campaign: string, group: string, text: string][] {
  const told = new Set<string>();
  return rows.flatMap((row): [string, string, string][] => {
    const cells = [row.campaign, row.group, rowNotation(row, outlet)].map((cell) =>
      cell.replace(/[\t\r\n]+/g, ' '),
    );
    const place = cells.join('\t');
    if (told.has(place)) return [];
    told.add(place);
    return [cells as [string, string, string]];
  });
}
