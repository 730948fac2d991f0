/** Tokens that an ad line, a name or an address may hold. */
export const tokenNames = ['keyword', 'group', 'site'] as const;
export type TokenName = (typeof tokenNames)[number];

/** What each token stands for in one ad group; a token without a value makes its line unusable. */
export type TokenValues = Partial<Record<TokenName, string>>;

export type LinePart = { kind: 'text'; text: string } | { kind: 'token'; name: TokenName };

export type LineProblem = { code: 'unknown-token'; token: string; at: number };

export type Line = { parts: readonly LinePart[] };

const TOKEN = /@([a-z][a-z0-9]*)/gi;

/**
 * Splits a line at its tokens: `@keyword hire` is a token and ` hire`. A word after `@` that is no token is a
 * problem; `at` is its column, from 1. An `@` before anything else is text.
 */
export function parseLine(source: string): { line: Line } | { problem: LineProblem } {
  const parts: LinePart[] = [];
  let end = 0;
  for (const found of source.matchAll(TOKEN)) {
    const name = (found[1] ?? '').toLowerCase();
    if (!isToken(name)) return { problem: { code: 'unknown-token', token: found[0], at: found.index + 1 } };
    if (found.index > end) parts.push({ kind: 'text', text: source.slice(end, found.index) });
    parts.push({ kind: 'token', name });
    end = found.index + found[0].length;
  }
  if (end < source.length) parts.push({ kind: 'text', text: source.slice(end) });
  return { line: { parts } };
}

const isToken = (name: string): name is TokenName => (tokenNames as readonly string[]).includes(name);

/** The line with its tokens filled in, each value passed through `written`; undefined where one has no value. */
export function fillLine(
  line: Line,
  values: TokenValues,
  written: (value: string) => string = (value) => value,
): string | undefined {
  let text = '';
  for (const part of line.parts) {
    const value = part.kind === 'text' ? part.text : values[part.name];
    if (value === undefined || value === '') return undefined;
    text += part.kind === 'text' ? value : written(value);
  }
  return text;
}
