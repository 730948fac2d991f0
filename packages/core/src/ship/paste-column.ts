import { rowNotation } from './cells.ts';
import type { Outlet } from './outlet.ts';
import type { KeywordSheetRow, NegativeSheetRow } from './sheet-rows.ts';

/** One column of keywords and negatives in an outlet's notation, for pasting: each once, in their order. */
export const pasteColumn = (
  rows: readonly (KeywordSheetRow | NegativeSheetRow)[],
  outlet: Outlet,
): string[] => [...new Set(rows.map((row) => rowNotation(row, outlet)))];
