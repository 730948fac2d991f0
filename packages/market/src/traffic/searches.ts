import { seeded } from '@sprig/core/text';
import { noiseOf } from '../noise.ts';

/** What is searched of one thing: as a keyword says it, and otherwise; `weight`s add up to 1. */
export type Searched = { text: string; weight: number; word: string | null };

/** Words that people put to what they search; of some nothing is ever bought. */
export const BESIDE = [
  'near me',
  'cheap',
  'best',
  'reviews',
  'free',
  'jobs',
  'second hand',
  'how to',
  'today',
  'price',
  'for beginners',
  'repair',
] as const;

const AS_IT_IS = 0.66;

/** A text as it is searched: itself, misspelt, in another order, with words beside it. Hangs on the text alone. */
export function searchesFor(text: string): Searched[] {
  const random = seeded(Math.floor(noiseOf(`searches ${text}`) * 2 ** 32));
  const words = text.split(' ');
  const found: Searched[] = [{ text, weight: AS_IT_IS, word: null }];
  const add = (searched: string, weight: number, word: string | null = null) => {
    if (searched !== text && !found.some((one) => one.text === searched))
      found.push({ text: searched, weight, word });
  };
  if (words.length > 1) add([...words.slice(1), words[0]].join(' '), 0.07);
  add(misspelt(text, random), 0.05);
  for (let n = 0; n < 3; n++) {
    const word = BESIDE[Math.floor(random() * BESIDE.length)] as string;
    const stands = word === 'best' || word === 'cheap' || word === 'how to' || word === 'free';
    add(stands ? `${word} ${text}` : `${text} ${word}`, 0.12 - 0.03 * n, word);
  }
  const all = found.reduce((sum, { weight }) => sum + weight, 0);
  return found.map((one) => ({ ...one, weight: one.weight / all }));
}

/** Two letters that change places. */
function misspelt(text: string, random: () => number): string {
  const at = 1 + Math.floor(random() * Math.max(1, text.length - 3));
  const [a = '', b = ''] = [text[at], text[at + 1]];
  if (a === ' ' || b === ' ' || a === b || b === '') return text;
  return text.slice(0, at) + b + a + text.slice(at + 2);
}
