import { RE2JS, RE2JSException } from 're2js';
import { type CaseStyle, inCase, type LanguagePack, tidy } from '../text/index.ts';

/** How many texts are changed at once: found parts replaced, then put between prefix and suffix, then cased. */
export type Rewriting = {
  find: string;
  replace: string;
  /** True: `find` is a regular expression, and `replace` may speak of its groups as `$1`. */
  isPattern: boolean;
  prefix: string;
  suffix: string;
  style: CaseStyle;
};

export const noRewriting: Rewriting = {
  find: '',
  replace: '',
  isPattern: false,
  prefix: '',
  suffix: '',
  style: 'as-is',
};

export type Rewriter =
  | { status: 'ready'; rewrite: (text: string) => string }
  | { status: 'problem'; code: 'bad-pattern'; words: string };

/**
 * Makes a rewriter; a regular expression that can't be read is told. What is found is found without regard to case.
 * Regular expressions are those of RE2: whatever is asked for, a text costs its length times that of the expression.
 */
export function rewriter(rewriting: Rewriting, pack: LanguagePack): Rewriter {
  const { find, replace, isPattern, prefix, suffix, style } = rewriting;
  let replaced = (text: string) => text;
  if (find !== '' && isPattern) {
    const made = patternOf(find, replace);
    if (typeof made === 'string') return { status: 'problem', code: 'bad-pattern', words: made };
    replaced = made;
  } else if (find !== '') {
    const pattern = new RegExp(literally(find), 'giu');
    replaced = (text) => text.replace(pattern, () => replace);
  }
  return {
    status: 'ready',
    rewrite: (text) => inCase(tidy(`${prefix}${replaced(text)}${suffix}`), style, pack),
  };
}

const literally = (text: string) => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');

/** What replaces all that the expression finds; in words, what is wrong with it. */
function patternOf(find: string, replace: string): ((text: string) => string) | string {
  try {
    const pattern = RE2JS.compile(RE2JS.translateRegExp(find), RE2JS.CASE_INSENSITIVE);
    const missing = missingGroup(replace, pattern.groupCount(), Object.keys(pattern.namedGroups()));
    if (missing !== null) return `nothing in brackets is called ${missing}`;
    return (text) => pattern.matcher(text).replaceAll(replace);
  } catch (error) {
    if (error instanceof RE2JSException) return wordsOf(error);
    throw error;
  }
}

/** A group of which the replacement speaks and that is not there. */
function missingGroup(replace: string, groups: number, names: readonly string[]): string | null {
  for (const [said, number, name] of replace.replaceAll('$$', '').matchAll(/\$(?:(\d)|<([^>]*)>)/g))
    if (number === undefined ? !names.includes(name ?? '') : Number(number) > groups) return said;
  return null;
}

/** What the engine says, without what it adds for itself. */
function wordsOf({ message }: Error): string {
  const words = message.replace(/^error parsing regexp: /, '').replace('(?i)', '');
  const isBeyond = /Perl syntax|escape sequence: `\\[1-9]/.test(words);
  return isBeyond
    ? `${words}. Looking ahead or behind, and speaking of an earlier group, are not possible here`
    : words;
}
