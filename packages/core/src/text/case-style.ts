import type { LanguagePack } from './language.ts';

export const caseStyles = ['as-is', 'lower', 'sentence', 'title'] as const;
export type CaseStyle = (typeof caseStyles)[number];

/** Words that always take one written form, compiled for replacing. */
export type Casing = { pattern: RegExp; forms: ReadonlyMap<string, string> } | null;

const literally = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** Compiles a casing list such as `['SUP', 'Wrenport', 'Fathom & Reed']`; longer forms win over shorter. */
export function casingOf(list: readonly string[]): Casing {
  const forms = new Map(list.filter(Boolean).map((form) => [form.toLowerCase(), form]));
  if (forms.size === 0) return null;
  const longestFirst = [...forms.keys()].sort((a, b) => b.length - a.length);
  const inside = '[\\p{L}\\p{N}]';
  const pattern = new RegExp(
    `(?<!${inside})(?:${longestFirst.map(literally).join('|')})(?!${inside})`,
    'giu',
  );
  return { pattern, forms };
}

const FIRST_LETTER = /\p{L}|\p{N}/u;

function raise(word: string): string {
  const first = word.charCodeAt(0);
  // Nearly every word begins with a small ASCII letter: three times as fast as the expression.
  if (first >= 97 && first <= 122) return String.fromCharCode(first - 32) + word.slice(1);
  return word.replace(FIRST_LETTER, (letter) => letter.toUpperCase());
}

const raiseParts = (word: string) =>
  word.includes('-') ? word.split('-').map(raise).join('-') : raise(word);

function titleCase(text: string, pack: LanguagePack): string {
  const words = text.split(' ');
  const last = words.length - 1;
  return words
    .map((word, at) =>
      at > 0 && at < last && pack.functionWords.has(word.toLowerCase()) ? word : raiseParts(word),
    )
    .join(' ');
}

/**
 * A whole field in a case style. Title and sentence case raise letters and never lower any; words on the
 * casing list take their listed form in every style.
 *
 * Title: `sit-on-top kayak for the sea` is `Sit-On-Top Kayak for the Sea`.
 */
export function inCase(text: string, style: CaseStyle, pack: LanguagePack, casing: Casing = null): string {
  const styled = styledAs(text, style, pack);
  if (!casing) return styled;
  return styled.replace(casing.pattern, (found) => casing.forms.get(found.toLowerCase()) ?? found);
}

function styledAs(text: string, style: CaseStyle, pack: LanguagePack): string {
  switch (style) {
    case 'as-is':
      return text;
    case 'lower':
      return text.toLowerCase();
    case 'sentence':
      return raise(text);
    case 'title':
      return titleCase(text, pack);
  }
}
