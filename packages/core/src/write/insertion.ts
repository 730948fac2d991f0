import { itemAt, stringAt } from '../access/index.ts';
import type { CaseStyle, TokenValues } from '../text/index.ts';
import type { CompiledPattern } from './ad-pattern.ts';
import type { CompiledLine, TextRules } from './compiled-line.ts';
import { checkText, type EditorialWords } from './editorial.ts';
import { type AdField, type AdLimits, adFields, partOf } from './fields.ts';
import { fitLine } from './fit-line.ts';

/** A keyword put into a field as the engine would. */
export type Inserted = { keyword: string; text: string; problems: string[] };

/** What happens to one field with a live token when each keyword of the group is searched for. */
export type InsertionCheck = {
  field: AdField;
  /** With what is fallen back on. */
  shown: string;
  fits: number;
  /** Too long: what is fallen back on is shown. */
  fallsBack: number;
  /** Of those that fit: what would be objected to, and what names a word not to use. */
  objections: number;
  banned: number;
  /** Up to five that fit and read worst, the worst first. */
  worst: Inserted[];
};

const WORST = 5;

/**
 * Tries all keywords of a group in each field that is live there. In the line that is used, every live token becomes the
 * keyword; where that is over the limit the engine falls back on the default. O(keywords × fields).
 */
export function tryInsertion(
  pattern: CompiledPattern,
  values: TokenValues,
  keywords: readonly string[],
  limits: AdLimits,
  writing: TextRules,
  words: EditorialWords,
): InsertionCheck[] {
  const trials: Trial[] = [];
  for (const field of adFields) {
    const limit = limits[field];
    const lines = pattern.fields[field];
    if (!limit || lines.lines.length === 0) continue;
    const fit = fitLine(lines, values, limit.limit, writing);
    if (fit.status !== 'fits' || fit.live.length === 0) continue;
    const line = itemAt(lines.lines, fit.line).live();
    trials.push(new Trial(field, fit.text, line, lines.style, limit.limit));
  }
  if (trials.length === 0) return [];
  const own = { ...values };
  keywords.forEach((keyword, at) => {
    own.keyword = keyword;
    const awkward = awkwardness(keyword, writing.pack.functionWords);
    for (const trial of trials) trial.try(keyword, at, awkward, own, writing, words);
  });
  return trials.map((trial) => trial.check(keywords.length));
}

/** One field with each keyword in turn. */
class Trial {
  private fits = 0;
  private objections = 0;
  private banned = 0;
  private least = Number.NEGATIVE_INFINITY;
  private readonly worst: { at: number; score: number; inserted: Inserted }[] = [];

  constructor(
    private readonly field: AdField,
    private readonly shown: string,
    private readonly line: CompiledLine,
    private readonly style: CaseStyle,
    private readonly limit: number,
  ) {}

  try(
    keyword: string,
    at: number,
    awkward: number,
    values: TokenValues,
    writing: TextRules,
    words: EditorialWords,
  ): void {
    const written = this.line.write(values, this.style, writing);
    if (!written || written.length > this.limit) return;
    const { length } = written;
    const text = partOf(this.field) === 'paths' ? written.text.replace(/ /g, '-') : written.text;
    this.fits++;
    const found = checkText(text, this.field, words);
    if (found.length > 0) this.objections++;
    if (found.some(({ rule }) => rule === 'word-not-allowed')) this.banned++;
    const score = found.length * 100 + awkward * 10 + length / this.limit;
    const { worst } = this;
    if (worst.length === WORST && score <= this.least) return;
    worst.push({ at, score, inserted: { keyword, text, problems: found.map(({ rule }) => rule) } });
    worst.sort((a, b) => b.score - a.score || a.at - b.at);
    worst.length = Math.min(WORST, worst.length);
    this.least = worst.at(-1)?.score ?? this.least;
  }

  check(keywords: number): InsertionCheck {
    const { field, shown, fits, objections, banned, worst } = this;
    const fallsBack = keywords - fits;
    return {
      field,
      shown,
      fits,
      fallsBack,
      objections,
      banned,
      worst: worst.map(({ inserted }) => inserted),
    };
  }
}

/** How unlike a phrase one would write a keyword is: many words, a loose function word at an end, a repeated word. */
function awkwardness(keyword: string, functionWords: ReadonlySet<string>): number {
  const words = keyword.split(' ');
  const first = stringAt(words, 0);
  let awkward = Math.max(0, words.length - 4);
  if (functionWords.has(first) || first.length === 1) awkward++;
  if (words.length > 1 && functionWords.has(words.at(-1) as string)) awkward += 2;
  for (let at = 1; at < words.length; at++) if (words.indexOf(stringAt(words, at)) < at) return awkward + 3;
  return awkward;
}
