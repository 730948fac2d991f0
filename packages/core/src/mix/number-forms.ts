import { type LanguagePack, normalise } from '../text/index.ts';
import { readWordLine } from './words.ts';

/**
 * The lines of a list, each with the other number of its first form behind it: `kayak` becomes `kayak | kayaks`, `sea kayaks`
 * becomes `sea kayaks | sea kayak`. The last word alone changes. What has the form already, or has no other, stays as it is.
 * O(length).
 */
export function withNumberForms(
  text: string,
  { numberFold, plural }: Pick<LanguagePack, 'numberFold' | 'plural'>,
): { text: string; added: number; without: number } {
  let [added, without] = [0, 0];
  const lines = text.split('\n').map((line) => {
    const { forms } = readWordLine(line);
    const words = (forms[0] ?? '').split(' ');
    const last = words.at(-1) ?? '';
    if (last === '') return line;
    const fold = numberFold(last);
    const other = normalise([...words.slice(0, -1), fold === last ? plural(last) : fold].join(' '));
    if (other === forms[0]) without++;
    if (forms.includes(other)) return line;
    added++;
    return `${line.trimEnd()} | ${other}`;
  });
  return { text: lines.join('\n'), added, without };
}
