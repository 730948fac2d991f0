import { decoded } from './decoded.ts';

/** What a marker stands for: between brackets, or behind `insert`, any of them says that something is still to be filled in. */
const STANDS_FOR =
  '(?:ad ?group|brand|category|city|company|county|country|date|default|headline|keyword|location|month|name|number|offer|phone|place|price|product|region|service|term|text|theme|topic|town|url|word|year)s?';
const BEGINS = String.raw`(?<![\p{L}\p{N}])`;
const ENDS = String.raw`(?![\p{L}\p{N}])`;

const ANYWHERE = [
  // xxkeywordxx, XX town XX
  String.raw`${BEGINS}x{2,}[\s_-]?\p{L}+?[\s_-]?x{2,}${ENDS}`,
  // XXXX; three of them are a word
  `${BEGINS}x{4,}${ENDS}`,
  // [keyword], <your town>
  String.raw`[[<]\s*(?:insert |your |the )?${STANDS_FOR}(?: here)?\s*[\]>]`,
  // insert_town, insert keyword here: "insert text" alone may be what a program does
  `${BEGINS}insert_(?:your_|the_)?${STANDS_FOR}${ENDS}`,
  `${BEGINS}insert (?:your |the )?${STANDS_FOR} here${ENDS}`,
  'lorem ipsum',
];
/** In addresses braces, per cents and low lines have their uses. */
const IN_TEXTS = [
  // {CITY}, {{ town }}
  String.raw`\{+[^{}]*\}+`,
  // %city%, $town$
  String.raw`([%$])\s?${STANDS_FOR}\s?\1`,
  // your_brand, PRODUCT_NAME
  String.raw`${BEGINS}(?:\p{L}+_)+${STANDS_FOR}${ENDS}`,
];
const MARKERS = new RegExp([...IN_TEXTS, ...ANYWHERE].join('|'), 'iu');
const MARKERS_IN_ADDRESS = new RegExp(ANYWHERE.join('|'), 'iu');

/** Nearly no text has a marker: told by one look. */
const HINT = /xx|[{[<%$_]|insert|lorem/i;

/**
 * A marker that was left where something was to be filled in (`xxkeywordxx`, `insert_town`, `{CITY}`, `XXXX`,
 * `[keyword]`), as it stands; null where there is none. O(text).
 */
export const markerIn = (text: string): string | null =>
  HINT.test(text) ? (MARKERS.exec(text)?.[0] ?? null) : null;

/** A marker that was left in an address, whatever of it is escaped. */
export function markerInAddress(address: string): string | null {
  if (!/xx|insert|lorem|%5b|%3c|[[<]/i.test(address)) return null;
  return MARKERS_IN_ADDRESS.exec(decoded(address))?.[0] ?? null;
}
