import { stringAt } from '../access/index.ts';
import { type LanguagePack, normalise } from '../text/index.ts';

/** A text of a page with where it stands. */
export type SiteText = {
  text: string;
  where: 'title' | 'heading' | 'navigation' | 'link' | 'picture' | 'product';
};
export type SitePage = { texts: SiteText[] };

/** A run of words that a site speaks of: on how many pages, where, and how much that weighs. */
export type SitePhrase = { text: string; pages: number; where: SiteText['where'][]; weight: number };

const WEIGHTS: Record<SiteText['where'], number> = {
  product: 4,
  title: 3,
  heading: 3,
  navigation: 2,
  link: 1.5,
  picture: 1,
};
const LONGEST = 4;
/** Marks at which one thing that is said ends and another begins. */
const BREAKS = /[.,:;!?|/()[\]{}<>"“”•·»«→…]+|\s[-–—]\s/;
const LETTER = /\p{L}/u;

/**
 * Runs of one to four words that a site's titles, headings, navigation, links, pictures and product names speak of,
 * the weightiest first. None begins or ends with a function word. On each page the weightiest place counts, and what
 * stands on more pages weighs more, but less than in proportion: navigation is on all of them. A longer run says more. One that stands
 * nowhere but within a longer one is left out.
 */
export function sitePhrases(pages: readonly SitePage[], pack: LanguagePack, most = 400): SitePhrase[] {
  const found = new Map<
    string,
    { weights: Map<number, number>; where: Set<SiteText['where']>; count: number }
  >();
  pages.forEach(({ texts }, page) => {
    for (const { text, where } of texts)
      for (const clause of text.split(BREAKS))
        for (const run of runsOf(clause, pack)) {
          const known = found.get(run) ?? { weights: new Map(), where: new Set(), count: 0 };
          found.set(run, known);
          known.count++;
          known.where.add(where);
          known.weights.set(page, Math.max(known.weights.get(page) ?? 0, WEIGHTS[where]));
        }
  });
  const isWithin = new Set<string>();
  for (const [run, { count }] of found)
    for (const part of partsOf(run)) if (found.get(part)?.count === count) isWithin.add(part);
  return [...found]
    .filter(([run]) => !isWithin.has(run))
    .map(([text, { weights, where }]) => {
      const sum = [...weights.values()].reduce((all, one) => all + one, 0);
      return {
        text,
        pages: weights.size,
        where: [...where].sort((a, b) => WEIGHTS[b] - WEIGHTS[a] || (a < b ? -1 : 1)),
        weight: Math.round((sum / Math.sqrt(weights.size)) * lengthFactor(text) * 100) / 100,
      };
    })
    .sort((a, b) => b.weight - a.weight || (a.text < b.text ? -1 : 1))
    .slice(0, most);
}

const lengthFactor = (text: string): number => 1 + (text.split(' ').length - 1) / 5;

function runsOf(clause: string, { functionWords, conjunctions }: LanguagePack): string[] {
  const words = normalise(clause)
    .split(' ')
    .map((word) => (conjunctions.has(word) ? word : word.replaceAll(/^['"&+-]+|['"&+-]+$/g, '')))
    .filter((word) => word !== '');
  const runs: string[] = [];
  for (let from = 0; from < words.length; from++) {
    if (functionWords.has(stringAt(words, from))) continue;
    for (let to = from + 1; to <= Math.min(words.length, from + LONGEST); to++) {
      // `teapots and kettles` are two things.
      if (conjunctions.has(stringAt(words, to - 1))) break;
      if (functionWords.has(stringAt(words, to - 1))) continue;
      const run = words.slice(from, to).join(' ');
      if (LETTER.test(run) && run.length > 1) runs.push(run);
    }
  }
  return runs;
}

/** The runs that are within a longer one. */
function* partsOf(run: string): Generator<string> {
  const words = run.split(' ');
  for (let from = 0; from < words.length; from++)
    for (let to = from + 1; to <= words.length; to++)
      if (to - from < words.length) yield words.slice(from, to).join(' ');
}
