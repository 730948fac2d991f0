/** A character that a keyword may not hold; `at` counts UTF-16 units from 0. */
export type NotAllowed = { at: number; character: string };

const FORBIDDEN = /[!@%^*()={};~<>?\\|,"`+[\]]/;

/** A hyphen belongs to a keyword only between two characters of one word. */
function isLooseHyphen(text: string, at: number): boolean {
  const before = text[at - 1];
  const after = text[at + 1];
  return before === undefined || after === undefined || before === ' ' || after === ' ';
}

/**
 * The first character of `text` that a keyword may not hold, or undefined. `text` carries no notation any
 * more: a `+`, a bracket or a quote that is left is not allowed either.
 */
export function firstNotAllowed(text: string): NotAllowed | undefined {
  const found = FORBIDDEN.exec(text);
  for (let at = text.indexOf('-'); at >= 0 && (!found || at < found.index); at = text.indexOf('-', at + 1))
    if (isLooseHyphen(text, at)) return { at, character: '-' };
  return found ? { at: found.index, character: found[0] } : undefined;
}

/** `text` with every such character made a space. Only when the user asked for it. */
export function withoutNotAllowed(text: string): string {
  let out = text;
  for (let bad = firstNotAllowed(out); bad; bad = firstNotAllowed(out))
    out = `${out.slice(0, bad.at)} ${out.slice(bad.at + 1)}`;
  return out.replace(/\s+/g, ' ').trim();
}
