import type { Micros } from '../money/index.ts';
import type { FunnelStage } from '../text/index.ts';
import { readTerm, type TermProblem, writeTerm } from './sift-term.ts';

export const keywordStates = ['in', 'cut', 'folded', 'blocked'] as const;
export type KeywordState = (typeof keywordStates)[number];

/**
 * A rule that picks keywords: it has one term of each of `has`, and none of `not`. Terms are kept as they are written
 * (`readTerm`). Figures and the rest narrow further; null and undefined do not.
 */
export type Sift = {
  has: string[][];
  not: string[];
  source?: number | null;
  stage?: FunnelStage | null;
  /** Out of which keywords; null: those that are in. */
  state?: KeywordState | null;
  searchesFrom?: number | null;
  searchesTo?: number | null;
  cpcFrom?: Micros | null;
  cpcTo?: Micros | null;
};

export const emptySift = (): Sift => ({ has: [], not: [] });

/** A sift that asks nothing picks nothing as a theme's rule. */
export const asksNothing = (sift: Sift): boolean =>
  sift.has.length === 0 &&
  sift.not.length === 0 &&
  [sift.source, sift.stage, sift.state, sift.searchesFrom, sift.searchesTo, sift.cpcFrom, sift.cpcTo].every(
    (value) => value === undefined || value === null,
  );

export type SiftProblem =
  | { code: 'term'; typed: string; why: TermProblem }
  | { code: 'too-many-terms'; count: number; most: number }
  | { code: 'no-has'; typed: string };

/** Rules longer than this are nobody's sentence. */
export const MOST_TERMS = 5_000;

/** Every term that can't be read; none where the sift is sound. */
export function siftProblems({ has, not }: Pick<Sift, 'has' | 'not'>): SiftProblem[] {
  const terms = [...has.flat(), ...not];
  if (terms.length > MOST_TERMS) return [{ code: 'too-many-terms', count: terms.length, most: MOST_TERMS }];
  return terms.flatMap((typed) => {
    const read = readTerm(typed);
    return 'problem' in read ? [{ code: 'term' as const, typed, why: read.problem }] : [];
  });
}

const BETWEEN_TERMS = ' / ';

/** The words of the sift as one sentence: `has inflatable / "blow up" and has kayak but not pump`. */
export function sentenceOf({ has, not }: Pick<Sift, 'has' | 'not'>): string {
  const parts = has.map((terms) => `has ${terms.join(BETWEEN_TERMS)}`);
  const haves = parts.join(' and ');
  if (not.length === 0) return haves;
  return `${haves === '' ? '' : `${haves} `}but not ${not.join(BETWEEN_TERMS)}`;
}

/** Everything from a connective to the next one that stands outside of quotes. */
const CONNECTIVE = /\s*\b(and has|has|but not)\s+/giu;
const QUOTED = /"[^"]*"/g;

/** Reads a sentence back; terms stand between ` / ` or commas, each once. */
export function readSentence(sentence: string): { sift: Sift } | { problems: SiftProblem[] } {
  const sift = emptySift();
  const kept: string[] = [];
  const open = sentence.trim().replace(QUOTED, (quoted) => `\u0001${kept.push(quoted) - 1}\u0001`);
  const [lead = '', ...rest] = open.split(CONNECTIVE);
  // biome-ignore lint/suspicious/noControlCharactersInRegex: it stands for what was quoted and can't be typed
  const back = (text: string) => text.replace(/\u0001(\d+)\u0001/g, (_, at) => kept[Number(at)] ?? '');
  if (lead.trim() !== '') return { problems: [{ code: 'no-has', typed: back(lead).trim() }] };
  for (let at = 0; at < rest.length; at += 2) {
    const terms = termsOf(rest[at + 1] ?? '').map(back);
    if (/not/i.test(rest[at] ?? '')) sift.not.push(...terms);
    else sift.has.push(terms);
  }
  sift.has = sift.has.filter((terms) => terms.length > 0);
  const problems = siftProblems(sift);
  return problems.length > 0 ? { problems } : { sift: tidySift(sift) };
}

const termsOf = (text: string): string[] =>
  text
    .split(/\s\/\s|,/)
    .map((term) => term.trim())
    .filter((term) => term !== '');

/** A sift with every term written one way, each once; terms that can't be read stay as they are. */
export function tidySift(sift: Sift): Sift {
  const tidy = (terms: readonly string[]) => [
    ...new Set(
      terms.map((typed) => {
        const read = readTerm(typed);
        return 'problem' in read ? typed : writeTerm(read);
      }),
    ),
  ];
  return {
    ...sift,
    has: sift.has.map(tidy).filter((terms) => terms.length > 0),
    not: tidy(sift.not),
  };
}
