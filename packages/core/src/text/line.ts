import { type CaseStyle, caseStyles } from './case-style.ts';

/** Tokens that an ad line, a name or an address may hold. */
export const tokenNames = [
  'keyword',
  'group',
  'theme',
  'branch',
  'place',
  'stage',
  'source',
  'offer',
  'brand',
  'year',
  'site',
  'gap',
] as const;
export type TokenName = (typeof tokenNames)[number];

/**
 * What each token stands for in one ad group; a token without a value makes its line unusable. `gap` never has one: it holds
 * the place of what is still to be written.
 */
export type TokenValues = Partial<Record<TokenName, string>>;

export type TokenPart = {
  kind: 'token';
  name: TokenName;
  /** A case of its own, whatever the field's. */
  style?: CaseStyle;
  /** Filled in at search time by the engine. */
  live?: boolean;
  /** What stands there instead where the token has no value; for a live one, what the engine falls back on. */
  or?: string;
  /** Of a gap: what is to be written there. */
  about?: string;
};
export type LinePart = { kind: 'text'; text: string } | TokenPart;

export type TokenProblemCode =
  | 'unknown-token'
  | 'unclosed-token'
  | 'nested-token'
  | 'unknown-option'
  | 'not-live';
/** `at` is the column of what is wrong, from 1; `token` is what stands there. */
export type LineProblem = { code: TokenProblemCode; token: string; at: number };

export type Line = { parts: readonly LinePart[] };

const TOKEN = /@([a-z][a-z0-9]*)(\()?/gi;
/** Tokens that an engine can fill in when somebody searches. */
export const liveNames: readonly TokenName[] = ['keyword'];

/**
 * Splits a line at its tokens: `@keyword hire` is a token and ` hire`. What a token is to be told stands in brackets
 * right behind it, commas between: a case style, `live`, and at the end `or` with the text to stand in for it, as in
 * `@keyword(live, title, or Kayak hire)`. A word after `@` that is no token is a problem; an `@` before anything else is
 * text.
 */
export function parseLine(source: string): { line: Line } | { problem: LineProblem } {
  const parts: LinePart[] = [];
  let end = 0;
  for (const found of source.matchAll(TOKEN)) {
    if (found.index < end) continue;
    const at = found.index + 1;
    const word = `@${found[1]}`;
    const name = (found[1] ?? '').toLowerCase();
    if (!isToken(name)) return { problem: { code: 'unknown-token', token: word, at } };
    if (found.index > end) parts.push({ kind: 'text', text: source.slice(end, found.index) });
    end = found.index + found[0].length;
    if (found[2] === undefined) {
      parts.push({ kind: 'token', name });
      continue;
    }
    const close = source.indexOf(')', end);
    if (close < 0) return { problem: { code: 'unclosed-token', token: word, at } };
    const read = readOptions(name, source.slice(end, close));
    if ('code' in read) return { problem: { code: read.code, token: read.token, at: end + 1 } };
    parts.push(read);
    end = close + 1;
  }
  if (end < source.length) parts.push({ kind: 'text', text: source.slice(end) });
  return { line: { parts } };
}

const isToken = (name: string): name is TokenName => (tokenNames as readonly string[]).includes(name);

function readOptions(name: TokenName, inside: string): TokenPart | { code: TokenProblemCode; token: string } {
  const nested = /@|\(/.exec(inside);
  if (nested) return { code: 'nested-token', token: inside.slice(nested.index) };
  const part: TokenPart = { kind: 'token', name };
  if (name === 'gap') return { ...part, about: inside.trim() };
  const instead = /(?:^|,)\s*or\s+(.*)$/i.exec(inside);
  if (instead?.[1]?.trim()) part.or = instead[1].trim();
  const options = (instead ? inside.slice(0, instead.index) : inside).split(',').map((one) => one.trim());
  if (options.length === 1 && options[0] === '' && part.or !== undefined) return part;
  for (const option of options) {
    const said = option.toLowerCase();
    if (said === 'live') part.live = true;
    else if (isStyle(said)) part.style = said;
    else return { code: 'unknown-option', token: option };
  }
  if (part.live && !liveNames.includes(name)) return { code: 'not-live', token: `@${name}` };
  return part;
}

const isStyle = (said: string): said is CaseStyle => (caseStyles as readonly string[]).includes(said);

/** A token as one types it. */
export function writeToken({ name, style, live, or, about }: Omit<TokenPart, 'kind'>): string {
  if (about) return `@${name}(${about})`;
  const options = [...(live ? ['live'] : []), ...(style ? [style] : []), ...(or ? [`or ${or}`] : [])];
  return options.length === 0 ? `@${name}` : `@${name}(${options.join(', ')})`;
}

/** A line as one types it: `parseLine(writeLine(line))` is the line. */
export const writeLine = ({ parts }: Line): string =>
  parts.map((part) => (part.kind === 'text' ? part.text : writeToken(part))).join('');

/** What a token stands for, or what stands in for it; a live one is shown as what the engine falls back on. */
export const tokenValue = ({ name, live, or }: TokenPart, values: TokenValues): string | undefined =>
  (live && or) || values[name] || or || undefined;

/** What is still to be written in a line; null where nothing is. */
export function gapIn({ parts }: Line): string | null {
  for (const part of parts) if (part.kind === 'token' && part.name === 'gap') return part.about ?? '';
  return null;
}

/** The line with its tokens filled in, each value passed through `written`; undefined where one has no value. */
export function fillLine(
  line: Line,
  values: TokenValues,
  written: (value: string) => string = (value) => value,
): string | undefined {
  let text = '';
  for (const part of line.parts) {
    if (part.kind === 'text') {
      text += part.text;
      continue;
    }
    const value = tokenValue(part, values);
    if (value === undefined) return undefined;
    text += written(value);
  }
  return text;
}
