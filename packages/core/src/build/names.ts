import { stringAt } from '../access/index.ts';
import {
  type CaseStyle,
  type Casing,
  inCase,
  type LanguagePack,
  type Line,
  parseLine,
  type TokenName,
  type TokenPart,
  type TokenValues,
  tokenValue,
  writeToken,
} from '../text/index.ts';
import { UniqueNames } from './unique-names.ts';

/** The tokens that a name may hold; `@group` would be the name itself. */
export const nameTokens: readonly TokenName[] = ['keyword', 'theme', 'branch', 'place', 'stage', 'source'];

/** The first token of a name pattern that names can't hold; undefined where there is none. */
export function strangeToken(line: Line): string | undefined {
  const strange = line.parts.find(
    (part) => part.kind === 'token' && (part.live === true || !nameTokens.includes(part.name)),
  );
  return strange?.kind === 'token' ? writeToken(strange) : undefined;
}

/** A name pattern parsed; `@keyword` where it can't be. */
export function nameLine(pattern: string): Line {
  const read = parseLine(pattern);
  return 'line' in read ? read.line : { parts: [{ kind: 'token', name: 'keyword' }] };
}

const SEPARATORS = String.raw`[\s·–—|/,:-]`;
const LOOSE = new RegExp(`^${SEPARATORS}+|${SEPARATORS}+$`, 'gu');
const UNTIDY = /^\s|\s$|\s\s|[^\S ]/;
const DOUBLED = /(\s*[·–—|/,:]\s*){2,}/gu;

/**
 * A name by its pattern. A token without a value leaves nothing behind, nor do the separators that it stood between:
 * `@theme – @place` of a theme without a place is the theme.
 */
export function nameByRule(
  line: Line,
  values: TokenValues,
  style: CaseStyle,
  pack: LanguagePack,
  casing: Casing,
): string {
  let text = '';
  let isWhole = true;
  for (const part of line.parts) {
    const value = part.kind === 'text' ? part.text : valueIn(part, values, pack, casing);
    if (value === '') isWhole = false;
    text += value;
  }
  if (!isWhole)
    text = text
      .replace(DOUBLED, (between) => between.trim().slice(0, 1).padStart(2).padEnd(3))
      .replace(LOOSE, '');
  if (UNTIDY.test(text)) text = text.replace(/\s+/g, ' ').trim();
  return inCase(text, style, pack, casing);
}

/** A token's value, or what stands in for it, in a case of its own where it has one. */
function valueIn(part: TokenPart, values: TokenValues, pack: LanguagePack, casing: Casing): string {
  const value = tokenValue(part, values) ?? '';
  return part.style ? inCase(value, part.style, pack, casing) : value;
}

/** Makes the names of a set unique: what is held keeps its place and rule names give way to it. */
export function givenNames(rules: readonly string[], helds: readonly (string | undefined)[]): string[] {
  const unique = new UniqueNames();
  const names = helds.map((held) => (held === undefined ? undefined : unique.take(held)));
  return names.map((name, at) => name ?? unique.take(stringAt(rules, at)));
}
