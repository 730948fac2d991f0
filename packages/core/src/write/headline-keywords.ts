import { firstNotAllowed, normalise } from '../text/index.ts';

/**
 * Keywords from a headline: its words without their marks, alone and with each entry of the lists before or behind it, an
 * entry of every list at most once in each. Those that can't be keywords, and repeated ones, are left out; at most `most`.
 */
export function headlineKeywords(
  headline: string,
  lists: readonly (readonly string[])[],
  side: 'before' | 'behind',
  most = 20_000,
): string[] {
  const start = normalise(headline)
    .replace(/[^\p{L}\p{M}\p{N}'&.-]+/gu, ' ')
    .split(' ')
    .map((word) => word.replace(/^[.'&-]+|[.'&-]+$/g, ''))
    .filter(Boolean)
    .join(' ');
  if (start === '') return [];
  let made = [start];
  for (const list of lists) {
    const next: string[] = made.slice();
    for (const text of made)
      for (const entry of list) {
        if (next.length >= most) break;
        const word = normalise(entry);
        if (word !== '') next.push(side === 'behind' ? `${text} ${word}` : `${word} ${text}`);
      }
    made = next;
  }
  return [...new Set(made)].filter((text) => firstNotAllowed(text) === undefined);
}
