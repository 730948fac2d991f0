import { type CellValue, columnOf } from '../../columns/index.ts';
import type { ReportColumn, SheetColumn } from '../outlet.ts';

export const columns = (...list: [heading: string, value: CellValue][]): SheetColumn[] =>
  list.map(([heading, value]) => ({ heading, value }));

/** `Headline 1`, `Headline 2`, … */
export const numbered = (words: string, names: readonly CellValue[]): SheetColumn[] =>
  columns(...names.map((name, at) => [`${words} ${at + 1}`, name] as [string, CellValue]));

/** Columns under the trade's names. */
export const named = (...values: CellValue[]): SheetColumn[] =>
  values.map((value) => ({ heading: columnOf(value).heading, value }));

/** Columns of reports. */
export const told = (...list: [heading: string, role: ReportColumn['role']][]): ReportColumn[] =>
  list.map(([heading, role]) => ({ heading, role }));
