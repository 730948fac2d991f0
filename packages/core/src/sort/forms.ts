import { stringAt, uint32At } from '../access/index.ts';
import { slipsBetween } from '../text/index.ts';
import type { PoolWords } from './pool-words.ts';
import { readTerm, writeTerm } from './sift-term.ts';
import { Sifter } from './sifting.ts';

/** Another form of a term that stands in the pool: its other number, written apart or together, or a likely slip. */
export type TermForm = {
  term: string;
  why: 'number' | 'joined' | 'slip';
  /** The term holds for it already. */
  included: boolean;
  keywords: number;
  searches: number;
};

const LEAST_WITH_SLIPS = 4;
const TWO_SLIPS_FROM = 8;

/** Finds the forms of terms. What stands joined or apart is noted once, when first asked for: O(total words). */
export class Forms {
  /** Words and two-word runs, by their letters without hyphens. */
  private joined: Map<string, Set<string>> | null = null;
  private readonly sifter: Sifter;

  constructor(private readonly words: PoolWords) {
    this.sifter = new Sifter(words);
  }

  /** The forms that the pool has of a term, the most searched first; none of a prefix, which has them all. */
  of(typed: string, most = 12): TermForm[] {
    const term = readTerm(typed);
    if ('problem' in term || term.prefix) return [];
    const own = term.words.join(' ');
    const forms = new Map<string, Pick<TermForm, 'why' | 'included'>>();
    for (const text of this.numbersOf(term.words)) forms.set(text, { why: 'number', included: !term.exact });
    for (const text of this.joinedOf(own))
      if (!forms.has(text)) forms.set(text, { why: 'joined', included: false });
    for (const text of this.slipsOf(term.words))
      if (!forms.has(text)) forms.set(text, { why: 'slip', included: false });
    forms.delete(own);
    return Array.from(forms, ([text, form]) => {
      const written = writeTerm({ words: text.split(' '), exact: form.why === 'number', prefix: false });
      const { rows, searches } = this.sifter.matches({ has: [[written]], not: [] });
      return { term: written, ...form, keywords: rows.length, searches };
    })
      .filter(({ keywords }) => keywords > 0)
      .sort((a, b) => b.searches - a.searches || b.keywords - a.keywords || (a.term < b.term ? -1 : 1))
      .slice(0, most);
  }

  private numbersOf([word = '', ...more]: readonly string[]): string[] {
    const fold = more.length === 0 ? this.words.foldNumber(word) : undefined;
    return fold === undefined
      ? []
      : (this.words.wordsOfFold[fold] ?? []).map((one) => stringAt(this.words.texts, one));
  }

  private joinedOf(text: string): Iterable<string> {
    this.joined ??= this.noteJoined();
    return this.joined.get(lettersOf(text, this.words)) ?? [];
  }

  private noteJoined(): Map<string, Set<string>> {
    const { texts, foldOf, foldTexts, tokens, starts } = this.words;
    const joined = new Map<string, Set<string>>();
    const whole = new Set(texts.map((text) => lettersOf(text, this.words)));
    const note = (letters: string, text: string) => {
      const known = joined.get(letters);
      if (known) known.add(text);
      else joined.set(letters, new Set([text]));
    };
    for (const [word, text] of texts.entries()) {
      // Its number is folded anyway: one form of each is enough.
      if (foldTexts[uint32At(foldOf, word)] === text || text.includes('-'))
        note(lettersOf(text, this.words), text);
    }
    const seen = new Set<number>();
    for (let row = 0; row < starts.length - 1; row++)
      for (let at = uint32At(starts, row); at < uint32At(starts, row + 1) - 1; at++) {
        const first = uint32At(tokens, at);
        const second = uint32At(foldOf, uint32At(tokens, at + 1));
        const pair = first * foldTexts.length + second;
        if (seen.has(pair)) continue;
        seen.add(pair);
        const run = `${texts[first]} ${foldTexts[second]}`;
        const letters = lettersOf(run, this.words);
        if (whole.has(letters)) note(letters, run);
      }
    return joined;
  }

  private slipsOf([word = '', ...more]: readonly string[]): string[] {
    if (more.length > 0 || [...word].length < LEAST_WITH_SLIPS) return [];
    const { words } = this;
    const { texts, foldOf } = words;
    const fold = words.foldNumber(word);
    const found: string[] = [];
    for (const one of words.beginningWith(word.slice(0, 1))) {
      const text = stringAt(texts, one);
      if (foldOf[one] === fold || text.length < LEAST_WITH_SLIPS) continue;
      const most = Math.min(text.length, word.length) >= TWO_SLIPS_FROM ? 2 : 1;
      if (slipsBetween(word, text, most) <= most) found.push(text);
    }
    return found;
  }
}

/** Letters by which forms that are only written apart, joined or with a hyphen are the same. */
function lettersOf(text: string, { pack }: PoolWords): string {
  const words = text.split(/[\s-]+/);
  const last = words.length - 1;
  return words.map((word, at) => (at === last ? pack.numberFold(word) : word)).join('');
}
