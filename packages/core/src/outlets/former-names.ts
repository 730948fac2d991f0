import { presentCode } from '../columns/index.ts';

type Body = Record<string, unknown>;
const isBody = (value: unknown): value is Body =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** A body with a part under another name, where it has not that part already. */
function renamed(body: Body, former: string, name: string): Body {
  if (!(former in body) || name in body) return body;
  return Object.fromEntries(Object.entries(body).map(([key, part]) => [key === former ? name : key, part]));
}

/**
 * An outlet as it may have been kept or saved by an older version, with the names of today: what was called an asset is an
 * extra. What is none is left as it is, for its reader to refuse.
 */
export function underPresentNames(outlet: unknown): unknown {
  if (!isBody(outlet)) return outlet;
  const next: Body = { ...outlet };
  if (isBody(next.ad)) next.ad = renamed(next.ad, 'assets', 'extras');
  if (isBody(next.words)) {
    const words = renamed(next.words, 'assetKinds', 'extraKinds');
    next.words = isBody(words.rowKinds)
      ? { ...words, rowKinds: renamed(words.rowKinds, 'asset', 'extra') }
      : words;
  }
  if (Array.isArray(next.sheets)) next.sheets = next.sheets.map(presentSheet);
  return next;
}

function presentSheet(sheet: unknown): unknown {
  if (!isBody(sheet)) return sheet;
  const columns = Array.isArray(sheet.columns)
    ? sheet.columns.map((column: unknown) =>
        isBody(column) && typeof column.value === 'string'
          ? { ...column, value: presentCode(column.value) }
          : column,
      )
    : sheet.columns;
  return { ...sheet, kind: sheet.kind === 'assets' ? 'extras' : sheet.kind, columns };
}
