import { type LanguagePack, rememberingFold } from '../text/index.ts';
import { Joins } from './joins.ts';
import type { LookAlikeClass, LookAlikePool } from './look-alike-classes.ts';
import { misspellings, type VocabularyWord } from './misspellings.ts';

/** How a keyword is written under a set of classes; equal keys are alike. */
export type Rewrite = (at: number) => string;

/**
 * Writes keywords under sets of classes, in this order: words split at hyphens, folded, corrected, joined words
 * taken apart as they stand elsewhere, function words left out, the rest put in order. What stands joined and what
 * is misspelt is found once, under all `chosen` classes; smaller sets use the same. O(total words).
 */
export class Writing {
  private readonly words: string[] = [];
  private readonly keywords: Uint32Array[] = [];
  private readonly fold: (word: string) => string;
  private readonly tables = new Map<string, string[][]>();
  private readonly joins: Joins | null;

  constructor(
    private readonly pool: LookAlikePool,
    chosen: ReadonlySet<LookAlikeClass>,
    private readonly pack: LanguagePack,
    private readonly isOrdinary: (word: string) => boolean,
  ) {
    this.fold = rememberingFold(pack.numberFold);
    const idOf = new Map<string, number>();
    for (let at = 0; at < pool.length; at++) {
      const words = pool.normOf(at).split(' ');
      const ids = new Uint32Array(words.length);
      for (let place = 0; place < words.length; place++) {
        const word = words[place] as string;
        let id = idOf.get(word);
        if (id === undefined) {
          id = this.words.push(word) - 1;
          idOf.set(word, id);
        }
        ids[place] = id;
      }
      this.keywords.push(ids);
    }
    this.joins = chosen.has('joined') ? this.findJoins(chosen) : null;
  }

  under(classes: ReadonlySet<LookAlikeClass>): Rewrite {
    const table = this.tableUnder(classes);
    const joins = classes.has('joined') ? this.joins : null;
    const { functionWords, directionalWords } = this.pack;
    const [drops, orders] = [classes.has('function'), classes.has('order')];
    return (at) => {
      let list = this.partsOf(at, table);
      if (joins) list = joins.takenApart(list);
      if (drops) list = withoutFunctionWords(list, functionWords, directionalWords);
      if (orders) list = inOrder(list, directionalWords);
      return list.join(' ');
    };
  }

  private partsOf(at: number, table: readonly string[][]): string[] {
    const list: string[] = [];
    for (const id of this.keywords[at] as Uint32Array) {
      const parts = table[id] as string[];
      if (parts.length === 1) list.push(parts[0] as string);
      else list.push(...parts);
    }
    return list;
  }

  /** Each word of the pool as it is written: split at hyphens, folded, corrected, as the classes say. */
  private tableUnder(classes: ReadonlySet<LookAlikeClass>): string[][] {
    const name = (['joined', 'number', 'spelling'] as const).filter((one) => classes.has(one)).join();
    const known = this.tables.get(name);
    if (known) return known;
    const table = this.makeTable(classes);
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
        if (this.isOrdinary(part) || this.isOrdinary((split[id] as string[])[place] as string))
          ordinary.add(part);
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
      for (const id of this.keywords[at] as Uint32Array)
        for (const entry of entries[id] as VocabularyWord[]) {
          entry.keywords++;
          if (searches >= 0) entry.searches = Math.max(0, entry.searches) + searches;
        }
    }
    return [...vocabulary.values()];
  }

  private findJoins(chosen: ReadonlySet<LookAlikeClass>): Joins {
    const table = this.tableUnder(chosen);
    const joins = new Joins(this.words, table);
    for (let at = 0; at < this.keywords.length; at++) joins.read(this.partsOf(at, table));
    return joins;
  }
}

/** `sit-on-top` as `sit`, `on`, `top`; `kid's` as `kids`. */
function splitWord(word: string): string[] {
  const plain = word.includes("'") ? word.replaceAll("'", '') || word : word;
  if (!plain.includes('-')) return [plain];
  const parts = plain.split('-').filter((part) => part !== '');
  return parts.length > 0 ? parts : [plain];
}

/** A keyword of nothing but function words keeps them. */
function withoutFunctionWords(
  list: string[],
  functionWords: ReadonlySet<string>,
  directionalWords: ReadonlySet<string>,
): string[] {
  if (!list.some((word) => functionWords.has(word))) return list;
  const content = list.filter((word) => !functionWords.has(word) || directionalWords.has(word));
  return content.length > 0 ? content : list;
}

/** The same words in one order; none passes a directional word. */
function inOrder(list: string[], directionalWords: ReadonlySet<string>): string[] {
  if (!list.some((word) => directionalWords.has(word))) return list.slice().sort();
  const out: string[] = [];
  let run: string[] = [];
  for (const word of list) {
    if (!directionalWords.has(word)) {
      run.push(word);
      continue;
    }
    out.push(...run.sort(), word);
    run = [];
  }
  return [...out, ...run.sort()];
}
