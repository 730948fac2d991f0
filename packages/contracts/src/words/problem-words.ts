import { type LineProblem, LONGEST_LINE, MOST_COLUMNS } from '@sprig/core/gather';

/** Why a line that says nothing wrong was set aside. */
export type SetAsideCode = 'title' | 'totals';

/** Whether a line was set aside, and is no error. */
export const isSetAside = (code: string): code is SetAsideCode => code === 'title' || code === 'totals';

/** A line's problem in words: what is wrong, where, and what to do. */
export function problemWords({
  code,
  at,
  character,
}: Pick<LineProblem, 'at' | 'character'> & { code: LineProblem['code'] | SetAsideCode }): string {
  const words: Record<LineProblem['code'] | SetAsideCode, string> = {
    title: 'It stands above the headings, so it was set aside. Take it in if it is a keyword.',
    totals: 'It looks like a total of the lines above, so it was set aside. Take it in if it is a keyword.',
    empty: 'There is no keyword in it.',
    'unbalanced-quote': `The quote at column ${at} has no other. Add it, or take this one away.`,
    'unbalanced-bracket': `The bracket at column ${at} has no other. Add it, or take this one away.`,
    'empty-pair': `There is nothing between the marks at column ${at}.`,
    'lone-plus': `The + at column ${at} stands alone. Put it right before a word, or take it away.`,
    'mark-inside': `The mark at column ${at} stands inside the text. Marks go around the whole keyword.`,
    'mixed-marks': `Two kinds of marks meet at column ${at}. Keep one.`,
    'not-allowed': `A keyword may not hold ${character ?? 'this character'} (column ${at}). Take it out.`,
    'too-long': 'It is longer than any keyword may be (400 characters).',
    'open-quote': `The quote at column ${at} does not close. Close it, or take it away.`,
    'text-after-quote': `Text follows the closing quote at column ${at}. Put a delimiter between them.`,
    'long-line': `It is longer than any line of a list (${LONGEST_LINE.toLocaleString('en')} characters), and was not read. Put a line end behind each keyword.`,
    'many-columns': `It has more than ${MOST_COLUMNS.toLocaleString('en')} columns, and was not read. Is the delimiter the right one?`,
    figure: `“${character ?? ''}” is no figure we can read. The keyword went in without it.`,
    'match-word': `“${character ?? ''}” is no match type. The keyword went in without one.`,
  };
  return words[code];
}
