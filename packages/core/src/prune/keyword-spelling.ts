import { itemAt, numberAt, stringAt } from '../access/index.ts';
import { type LanguagePack, rememberingFold, splitWord } from '../text/index.ts';
import { Joins } from './joins.ts';
import type { LookAlikeClass, LookAlikePool } from './look-alike-classes.ts';
import { misspellings, type VocabularyWord } from './misspellings.ts';
import { Words } from './words.ts';

/** How a keyword is written under a set of classes; equal keys are alike. */
export type Rewrite = (at: number) => string;

/**
 * Writes keywords under sets of classes, in this order: words split at hyphens, folded, corrected, joined words
 * taken apart as they stand elsewhere, function words left out, the rest put in order. What stands joined and what
 * is misspelt is found once, under all `chosen` classes; smaller sets use the same. All of it over word numbers:
 * strings are touched once a distinct word. O(total words).
 */
export class KeywordSpelling {
  /** Every distinct word of the pool, and every part that one is written as. */
  private readonly parts = new Words();
  private readonly words: string[] = [];
  private readonly keywords: Uint32Array[] = [];
  private readonly fold: (word: string) => string;
  private readonly tables = new Map<string, number[][]>();
  private readonly joins: Joins | null;

  constructor(
    private readonly pool: LookAlikePool,
    chosen: ReadonlySet<LookAlikeClass>,
    private readonly pack: LanguagePack,
    private readonly isOrdinary: (word: string) => boolean,
  ) {
    this.fold = rememberingFold(pack.numberFold);
    const words = new Words();
    for (let at = 0; at < pool.length; at++) this.keywords.push(words.numbersOf(pool.normOf(at)));
    this.words = words.texts;
    this.joins = chosen.has('joined') ? this.findJoins(chosen) : null;
  }

  under(classes: ReadonlySet<LookAlikeClass>): Rewrite {
    const table = this.tableUnder(classes);
    const joins = classes.has('joined') ? this.joins : null;
    const [drops, orders] = [classes.has('function'), classes.has('order')];
    const list: number[] = [];
    return (at) => {
      this.fill(list, at, table);
      joins?.takeApart(list);
      if (drops) this.dropFunctionWords(list);
      if (orders) this.order(list);
      let key = '';
      for (const part of list) key += this.parts.codes[part];
      return key;
    };
  }

  private fill(list: number[], at: number, table: readonly number[][]) {
    list.length = 0;
    for (const word of itemAt(this.keywords, at)) for (const part of itemAt(table, word)) list.push(part);
  }

  /** Each word of the pool as it is written: split at hyphens, folded, corrected, as the classes say. */
  private tableUnder(classes: ReadonlySet<LookAlikeClass>): number[][] {
    const name = (['joined', 'number', 'spelling'] as const).filter((one) => classes.has(one)).join();
    const known = this.tables.get(name);
    if (known) return known;
    const table = this.makeTable(classes).map((list) => list.map((part) => this.parts.numberOf(part)));
    this.tables.set(name, table);
    return table;
  }

  private makeTable(classes: ReadonlySet<LookAlikeClass>): string[][] {
    const split = this.words.map((word) => (classes.has('joined') ? splitWord(word) : [word]));
    const parts = classes.has('number') ? split.map((list) => list.map(this.fold)) : split;
    if (!classes.has('spelling')) return parts;
    const right = misspellings(this.vocabularyOf(parts), this.ordinaryUnder(split, parts));
    // A plural of a word is no misspelling of it, though it may look like one where plurals are not folded.
    return parts.map((list) =>
      list.map((part) => {
        const meant = right.get(part);
        return meant === undefined || this.fold(meant) === this.fold(part) ? part : meant;
      }),
    );
  }

  /** A folded word is ordinary when it, or any word that it was folded from, is. */
  private ordinaryUnder(split: string[][], parts: string[][]): (word: string) => boolean {
    const ordinary = new Set<string>();
    parts.forEach((list, id) => {
      list.forEach((part, place) => {
        if (this.isOrdinary(part) || this.isOrdinary(stringAt(itemAt(split, id), place))) ordinary.add(part);
      });
    });
    return (word) => ordinary.has(word);
  }

  private vocabularyOf(parts: string[][]): VocabularyWord[] {
    const vocabulary = new Map<string, VocabularyWord>();
    const entries = parts.map((list) =>
      list.map((word) => {
        const entry = vocabulary.get(word) ?? { word, keywords: 0, searches: -1 };
        vocabulary.set(word, entry);
        return entry;
      }),
    );
    for (let at = 0; at < this.keywords.length; at++) {
      const searches = this.pool.searchesOf(at);
      for (const id of itemAt(this.keywords, at))
        for (const entry of itemAt(entries, id)) {
          entry.keywords++;
          if (searches >= 0) entry.searches = Math.max(0, entry.searches) + searches;
        }
    }
    return [...vocabulary.values()];
  }

  private findJoins(chosen: ReadonlySet<LookAlikeClass>): Joins {
    const table = this.tableUnder(chosen);
    const joins = new Joins(this.words, table, this.parts);
    const list: number[] = [];
    for (let at = 0; at < this.keywords.length; at++) {
      this.fill(list, at, table);
      joins.read(list);
    }
    return joins;
  }

  /** A keyword of nothing but function words keeps them; directional words always stay. */
  private dropFunctionWords(list: number[]) {
    const { functionWords, directionalWords } = this.pack;
    const drops = (part: number) => {
      const word = stringAt(this.parts.texts, part);
      return functionWords.has(word) && !directionalWords.has(word);
    };
    if (list.every(drops)) return;
    let kept = 0;
    for (const part of list) if (!drops(part)) list[kept++] = part;
    list.length = kept;
  }

  /** Puts words in one order; none passes a directional word. */
  private order(list: number[]) {
    const { directionalWords } = this.pack;
    let from = 0;
    for (let at = 0; at <= list.length; at++) {
      const ends = at === list.length || directionalWords.has(stringAt(this.parts.texts, numberAt(list, at)));
      if (!ends) continue;
      sortRange(list, from, at);
      from = at + 1;
    }
  }
}

/** Insertion sort of a few numbers in their place. */
function sortRange(list: number[], from: number, to: number) {
  for (let at = from + 1; at < to; at++) {
    const value = numberAt(list, at);
    let place = at;
    for (; place > from && numberAt(list, place - 1) > value; place--)
      list[place] = numberAt(list, place - 1);
    list[place] = value;
  }
}
