import { type MatchType, matchTypes, readNotation, writeNotation } from '../match/index.ts';
import { tidy } from '../text/index.ts';
import type { CellRules, ReadCell } from './column.ts';
import type { KeywordSheetRow, NegativeSheetRow } from './rows.ts';

type Worded = { words: Pick<CellRules['words'], 'notation' | 'negative'> };

/** A keyword as the outlet writes its match type into its text. */
export function inOutletNotation(
  { text, type, marks = [] }: { text: string; type: MatchType; marks?: readonly number[] },
  { words }: Worded,
): string {
  const noted = type === 'modified' ? writeNotation(text, 'modified', marks) : text;
  return words.notation[type].replace('@', () => noted);
}

/** A keyword or a negative as it stands in a column of both. */
export function rowNotation(row: KeywordSheetRow | NegativeSheetRow, rules: Worded): string {
  const notation = inOutletNotation(row, rules);
  return row.kind === 'keyword' ? notation : rules.words.negative.replace('@', () => notation);
}

/** Whether a cell of keywords in notation holds a negative. */
export function isNegativeNotation(cell: string, { words }: Worded): boolean {
  const { before } = aroundText(words.negative);
  return before !== '' && cell.startsWith(before);
}

/** The match type of a row whose sheet does not tell it. */
export const usualType = (kind: 'keyword' | 'negative', rules: CellRules): MatchType =>
  kind === 'negative' ? (rules.negativeTypes[0] ?? 'exact') : rules.match === 'setting' ? 'exact' : 'broad';

/** Whether keywords stand in a column of notation, and in no other. */
export const areNoted = (cell: ReadCell): boolean => cell.has('keyword-notation') && !cell.has('keyword');

type Noted = { text: string; type: MatchType; marks: number[] };

/** Reads keywords in the notation of an outlet: the longest signs first. */
export function notationReader(rules: CellRules): (typed: string, isNegative: boolean) => Noted {
  const { words } = rules;
  const known = new Set([...rules.matchTypes, ...rules.negativeTypes]);
  const notations = matchTypes
    .filter((type) => type !== 'modified' && known.has(type))
    .map((type) => ({ type, ...aroundText(words.notation[type]) }))
    .sort((a, b) => b.before.length + b.after.length - (a.before.length + a.after.length));
  const negative = aroundText(words.negative);
  return (typed, isNegative) => {
    const bare =
      isNegative && typed.startsWith(negative.before) && typed.endsWith(negative.after)
        ? typed.slice(negative.before.length, typed.length - negative.after.length)
        : typed;
    if (/(^|\s)\+\S/.test(bare)) return marked(bare);
    for (const { type, before, after } of notations)
      if (bare.length > before.length + after.length && bare.startsWith(before) && bare.endsWith(after))
        return { text: bare.slice(before.length, bare.length - after.length), type, marks: [] };
    return { text: bare, type: 'broad', marks: [] };
  };
}

/** What stands before and behind the `@` of a notation. */
function aroundText(notation: string): { before: string; after: string } {
  const at = notation.indexOf('@');
  return { before: notation.slice(0, at), after: notation.slice(at + 1) };
}

/** A modified broad keyword, whose text carries its marks. */
export function marked(typed: string): Noted {
  const noted = readNotation(typed);
  if (noted.status === 'read') return { text: noted.text, type: 'modified', marks: noted.marks };
  return { text: tidy(typed.replaceAll('+', ' ')), type: 'modified', marks: [] };
}
