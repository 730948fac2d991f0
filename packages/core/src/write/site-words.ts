import { itemAt } from '../access/index.ts';
/**
 * The words of a site's name: `saltmarshpaddle.example` is `saltmarsh paddle`. The name without its ending is cut where
 * all pieces are known words, with the fewest and the best known pieces; where it can't be, letters that belong to no word
 * stay together. `weightOf` tells how well known a word is, 0 if not at all.
 */
export function siteWords(site: string, weightOf: (word: string) => number): string[] {
  const host = site
    .trim()
    .toLowerCase()
    .replace(/^[a-z]+:\/\//, '')
    .replace(/[/?#:].*$/, '')
    .replace(/^www\./, '');
  const labels = host.split('.').filter(Boolean);
  const name =
    labels.length > 1
      ? (labels.at(labels.length > 2 && isSecondLevel(labels) ? -3 : -2) ?? '')
      : (labels[0] ?? '');
  return name.split(/[-_]+/).flatMap((part) => cut(part, weightOf));
}

/** `.co.example` and the like: the name stands before both. */
const isSecondLevel = (labels: readonly string[]) => /^(co|com|org|net|ac|gov)$/.test(labels.at(-2) ?? '');

type Best = { cost: number; from: number };
const LONGEST = 24;
/** What a letter costs that belongs to no known word, and a word to begin with. */
const STRAY = 6;
const WORD = 4;

function cut(name: string, weightOf: (word: string) => number): string[] {
  const letters = [...name];
  const best: Best[] = [{ cost: 0, from: 0 }];
  for (let to = 1; to <= letters.length; to++) {
    let found: Best = { cost: Number.POSITIVE_INFINITY, from: to - 1 };
    for (let from = Math.max(0, to - LONGEST); from < to; from++) {
      const piece = letters.slice(from, to).join('');
      const weight = /^\d+$/.test(piece) ? 1 : to - from === 1 ? 0 : weightOf(piece);
      const own = weight > 0 ? WORD + 1 / (1 + weight) : WORD + STRAY * (to - from);
      const cost = itemAt(best, from).cost + own;
      if (cost < found.cost) found = { cost, from };
    }
    best.push(found);
  }
  const words: string[] = [];
  for (let to = letters.length; to > 0; to = itemAt(best, to).from)
    words.unshift(letters.slice(itemAt(best, to).from, to).join(''));
  return words;
}
