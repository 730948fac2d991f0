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

/** Makes a rewriter; a regular expression that can't be read is told. What is found is found without regard to case. */
export function rewriter(rewriting: Rewriting, pack: LanguagePack): Rewriter {
  const { find, replace, isPattern, prefix, suffix, style } = rewriting;
  let pattern: RegExp | null = null;
  try {
    if (find !== '') pattern = new RegExp(isPattern ? find : literally(find), 'giu');
  } catch (error) {
    return { status: 'problem', code: 'bad-pattern', words: (error as Error).message };
  }
  const put = isPattern ? replace : replace.replaceAll('$', '$$$$');
  return {
    status: 'ready',
    rewrite: (text) => {
      const replaced = pattern === null ? text : text.replace(pattern, put);
      return inCase(tidy(`${prefix}${replaced}${suffix}`), style, pack);
    },
  };
}

const literally = (text: string) => text.replace(/[.*+?^${}()|[\]\\/]/g, '\\$&');
