import type { LinesLayout, ReadOptions } from './list-layout.ts';

/** On so many of the lines it is a bullet, and on fewer it may be one. */
const NEARLY_ALL = 0.9;
/** `- raft`: a dash with a space behind it. `-raft` is a negative. */
const DASH = /^\s*[-–—]\s+(?=\S)/;
/** Marks that are nothing but bullets. */
const DOT = /^\s*[•◦▪‣·●○■]\s*(?=\S)/;

/** The line without the bullet it begins with. */
export const withoutBullet = (line: string): string => line.replace(DASH, '').replace(DOT, '');

/**
 * How the lines of a list that is not delimited are to be taken: with bullets or without, and with several keywords
 * to a line or one. Asked only where both readings stand.
 */
export function linesLayout(
  lines: readonly string[],
  isDelimited: boolean,
  options: ReadOptions,
): LinesLayout {
  const said = lines.filter((line) => line.trim() !== '');
  const dashed = said.filter((line) => DASH.test(line)).length;
  const dotted = said.filter((line) => DOT.test(line)).length;
  const areBullets = said.length > 1 && dashed >= said.length * NEARLY_ALL;
  const isMixed = dashed > 0 && !areBullets;
  const commaLines = isDelimited ? 0 : said.filter((line) => partsOf(line).length > 1).length;
  return {
    bullets: options.bullets ?? (areBullets || (dotted > 0 && !isMixed)),
    commasPart: !isDelimited && commaLines > 0 && options.commasPart === true,
    commaLines,
    open: isMixed && options.bullets === undefined ? ['bullets'] : [],
  };
}

/** The keywords of one line between its commas or semicolons. */
export const partsOf = (line: string): string[] =>
  line
    .split(/[,;]/)
    .map((part) => part.trim())
    .filter((part) => part !== '');
