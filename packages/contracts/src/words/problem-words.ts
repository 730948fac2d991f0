import type { LineProblem } from '@sprig/core/gather';

/** A line's problem in words: what is wrong, where, and what to do. */
export function problemWords({
  code,
  at,
  character,
}: Pick<LineProblem, 'code' | 'at' | 'character'>): string {
  const words: Record<LineProblem['code'], string> = {
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
    figure: `“${character ?? ''}” is no figure we can read. The keyword went in without it.`,
    'match-word': `“${character ?? ''}” is no match type. The keyword went in without one.`,
  };
  return words[code];
}
