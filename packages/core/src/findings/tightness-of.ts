import { numberAt } from '../access/index.ts';
import { type LanguagePack, normalise } from '../text/index.ts';

/**
 * How much keywords speak of the same: the mean over them of the share of a keyword's words that more than half of the
 * others have, too; from 0 to 1. Words that only join others do not count, and one number of a noun is as good as another.
 * One is for going over many groups: it remembers what each word folds to. O(words).
 */
export class Tightness {
  /** By a word as it is written the number of what it folds to; -1 where it only joins others. */
  private readonly words = new Map<string, number>();
  private readonly folded = new Map<string, number>();
  /** By the number of a word: how many keywords of the group have it, the last group and the last keyword that had it. */
  private readonly counts: number[] = [];
  private readonly inGroup: number[] = [];
  private readonly inText: number[] = [];
  private group = 0;
  private text = 0;

  constructor(private readonly pack: LanguagePack) {}

  of(texts: readonly string[]): number {
    if (texts.length < 2) return 1;
    this.group++;
    const all: number[] = [];
    const ends = texts.map((text) => {
      this.count(normalise(text), all);
      return all.length;
    });
    let sum = 0;
    let at = 0;
    for (const end of ends) {
      const size = end - at;
      let shared = 0;
      for (; at < end; at++) if (numberAt(this.counts, numberAt(all, at)) * 2 > texts.length) shared++;
      sum += size === 0 ? 1 : shared / size;
    }
    return sum / texts.length;
  }

  /** Counts each word of a keyword once, and puts its number behind those of the group's other keywords. */
  private count(text: string, all: number[]) {
    this.text++;
    for (let start = 0; start < text.length; ) {
      const gap = text.indexOf(' ', start);
      const end = gap < 0 ? text.length : gap;
      const word = this.numberOf(text.slice(start, end));
      start = end + 1;
      if (word < 0 || this.inText[word] === this.text) continue;
      this.inText[word] = this.text;
      this.counts[word] = this.inGroup[word] === this.group ? numberAt(this.counts, word) + 1 : 1;
      this.inGroup[word] = this.group;
      all.push(word);
    }
  }

  private numberOf(word: string): number {
    const known = this.words.get(word);
    if (known !== undefined) return known;
    let number = -1;
    if (!this.pack.functionWords.has(word)) {
      const folded = this.pack.numberFold(word);
      number = this.folded.get(folded) ?? this.folded.size;
      this.folded.set(folded, number);
    }
    this.words.set(word, number);
    return number;
  }
}
