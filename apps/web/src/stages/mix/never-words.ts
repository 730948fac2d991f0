import { type AloneRule, joiningWord, type NeverPair, type Side } from '@sprig/core/mix';

type Named = { id: number; name: string };

/** Pairs as they are typed: `in + near me`, and a list by its name with @ before it: `@Places + bay`. */
export const writePairs = (pairs: readonly NeverPair[], lists: readonly Named[]): string =>
  pairs.map((pair) => pair.map((side) => writeSide(side, lists)).join(' + ')).join('\n');

export const writeSide = (side: Side, lists: readonly Named[]): string =>
  side.kind === 'word' ? side.text : `@${lists.find(({ id }) => id === side.list)?.name ?? 'a list'}`;

export function readPairs(
  typed: string,
  lists: readonly Named[],
): { value: NeverPair[] } | { words: string } {
  const pairs: NeverPair[] = [];
  for (const [at, line] of typed.split('\n').entries()) {
    if (line.trim() === '') continue;
    const parts = line.split('+').map((part) => part.trim());
    if (parts.length !== 2)
      return { words: `Line ${at + 1}: write a pair with + between, like in + near me.` };
    const sides: Side[] = [];
    for (const part of parts) {
      const side = readSide(part, lists);
      if (typeof side === 'string') return { words: `Line ${at + 1}: ${side}` };
      sides.push(side);
    }
    pairs.push(sides as NeverPair);
  }
  return { value: pairs };
}

/** What makes no keyword by itself as it is typed: a word to a line, or a list, `@Traits but folding, racing`. */
export const writeAlone = (rules: readonly AloneRule[], lists: readonly Named[]): string =>
  rules.map((rule) => writeAloneRule(rule, lists)).join('\n');

export const writeAloneRule = ({ side, but }: AloneRule, lists: readonly Named[]): string =>
  writeSide(side, lists) + (but.length > 0 ? ` but ${but.join(', ')}` : '');

export function readAlone(
  typed: string,
  lists: readonly Named[],
): { value: AloneRule[] } | { words: string } {
  const rules: AloneRule[] = [];
  for (const [at, line] of typed.split('\n').entries()) {
    if (line.trim() === '') continue;
    const [, name = '', excepted] = /^(@.*?)(?:\s+but\s+(.*))?$/i.exec(line.trim()) ?? [];
    const isName = typeof readSide(line.trim(), lists) !== 'string';
    const side = readSide(isName ? line.trim() : name || line.trim(), lists);
    if (typeof side === 'string') return { words: `Line ${at + 1}: ${side}` };
    const but: string[] = [];
    for (const part of (isName ? '' : (excepted ?? '')).split(',').map((one) => one.trim())) {
      if (part === '') continue;
      const word = joiningWord(part);
      if (word === null) return { words: `Line ${at + 1}: “${part}” can’t stand in a keyword.` };
      but.push(word);
    }
    rules.push({ side, but });
  }
  return { value: rules };
}

function readSide(part: string, lists: readonly Named[]): Side | string {
  if (part === '') return 'a word is missing beside the +.';
  if (part.startsWith('@')) {
    const name = part.slice(1).trim().toLowerCase();
    const list = lists.find((one) => one.name.toLowerCase() === name);
    return list
      ? { kind: 'list', list: list.id }
      : `this recipe has no list called “${part.slice(1).trim()}”.`;
  }
  const word = joiningWord(part);
  return word === null ? `“${part}” can’t stand in a keyword.` : { kind: 'word', text: word };
}
