declare const normal: unique symbol;

/** A keyword's text in normal form: lower case, ASCII quotes and dashes, single spaces. */
export type NormalText = string & { readonly [normal]: true };

/** Nothing in here changes: the common case, told by one scan. */
const ALREADY_NORMAL = /^[!-@[-~]+(?: [!-@[-~]+)*$/;

/** Words of ASCII with one space between them: only their case may change. */
const PLAIN_ASCII = /^[!-~]+(?: [!-~]+)*$/;

const APOSTROPHES =
  /[\u2018-\u201b\u2032\u2035\u2039\u203a\u00b4\u02b9\u02bb-\u02bd\u02c8\u055a\u0374\uff07]/g;
const QUOTES = /[\u201c-\u201f\u2033\u2036\u00ab\u00bb\u301d-\u301f\u02ba\u02ee\uff02]/g;
/** Marks whose NFKC form is made of the marks above, so that they must go before it. */
const COMPOUND_MARKS: Record<string, string> = {
  '\u0149': "'n",
  '\u2034': `"'`,
  '\u2037': `"'`,
  '\u2057': '""',
};
const COMPOUND = /[\u0149\u2034\u2037\u2057]/g;
const DASHES = /[\p{Pd}\u2212\u207b\u208b]/gu;
const WHITE_CONTROLS = /[\t\n\v\f\r\u0085\u2028\u2029]/g;
const INVISIBLE = /[\p{Cc}\p{Cf}\p{Cs}\p{Default_Ignorable_Code_Point}]/gu;

/** Every kind of apostrophe, quote mark and dash to its ASCII form. Letters stay as they are. */
export function plainMarks(text: string): string {
  return text
    .replace(COMPOUND, (mark) => COMPOUND_MARKS[mark] ?? mark)
    .replace(APOSTROPHES, "'")
    .replace(QUOTES, '"')
    .replace(DASHES, '-');
}

/** One space for every run of white space, none at the ends, nothing invisible; letters and case stay. */
export function tidy(text: string): string {
  if (PLAIN_ASCII.test(text)) return text;
  return text.replace(WHITE_CONTROLS, ' ').replace(INVISIBLE, '').replace(/\s+/g, ' ').trim();
}

/**
 * The normal form by which keywords are told apart. `normalise(normalise(x)) === normalise(x)`.
 *
 * `normalise('  Kids’  Kayak – Hire ')` is `kids' kayak - hire`.
 */
export function normalise(text: string): NormalText {
  if (ALREADY_NORMAL.test(text)) return text as NormalText;
  if (PLAIN_ASCII.test(text)) return text.toLowerCase() as NormalText;
  const plain = plainMarks(text).replace(WHITE_CONTROLS, ' ').replace(INVISIBLE, '');
  const folded = plain.normalize('NFKC').toLowerCase().normalize('NFKC');
  return folded.replace(/\s+/g, ' ').trim() as NormalText;
}

/** The words of a normal form. Hyphens and apostrophes inside a word stay in it. */
export function wordsOf(text: NormalText): string[] {
  return text === '' ? [] : text.split(' ');
}
