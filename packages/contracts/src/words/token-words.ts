import { parseLine, type TokenProblem, tokenNames } from '@sprig/core/text';

const listed = tokenNames.map((name) => `@${name}`);

/** What is wrong with a token in words: what, where, and what to do. */
export function tokenWords({ code, token, at }: TokenProblem): string {
  switch (code) {
    case 'unknown-token':
      return `${token} (column ${at}) is no token. There are ${listed.slice(0, -1).join(', ')} and ${listed.at(-1)}.`;
    case 'unclosed-token':
      return `The bracket behind ${token} (column ${at}) does not close. Add a ), or a space before the bracket.`;
    case 'nested-token':
      return `“${token.slice(0, 30)}” (column ${at}) can’t stand inside a token’s brackets. Take it out of them.`;
    case 'unknown-option':
      return `“${token}” (column ${at}) is nothing a token can be told. Say live, lower, sentence, title or as-is, or at the end “or” and a text.`;
    case 'not-live':
      return `${token} can’t be live: only @keyword is filled in at search time.`;
  }
}

/** The words on what is wrong with a typed line; null where nothing is. */
export function lineWords(typed: string): string | null {
  const read = parseLine(typed);
  return 'problem' in read ? tokenWords(read.problem) : null;
}
