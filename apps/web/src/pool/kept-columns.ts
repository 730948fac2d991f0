import { columnMark, filterWords, readNumber } from '@sprig/core/gather';

/** What a column that a sheet was said to keep is sifted by: its numbers where most of it are some, else its words. */
export type KeptSift = { heading: string; from: number | null; to: number | null; words: string };
export type KeptKind = 'numbers' | 'words';

type KeptColumn = {
  texts: ReadonlyMap<number, string>;
  numbers: ReadonlyMap<number, number>;
  kind: KeptKind;
};

const NO_EXTRAS: Readonly<Record<string, string>> = {};

/** Columns that sheets were said to keep as they are: what stands in each, by keyword. */
export class KeptColumns {
  private readonly columns = new Map<string, KeptColumn>();

  take(heading: string, ids: readonly number[], texts: readonly string[]): void {
    const decimal = columnMark(texts, false)?.decimal ?? '.';
    const numbers = new Map<number, number>();
    ids.forEach((id, at) => {
      const read = readNumber(texts[at] as string, decimal);
      if (read.status === 'figure') numbers.set(id, read.figure.value);
    });
    this.columns.set(heading, {
      texts: new Map(ids.map((id, at) => [id, texts[at] as string])),
      numbers,
      kind: numbers.size * 2 > ids.length ? 'numbers' : 'words',
    });
  }

  /** A column of numbers, by what they are sifted and ordered by and by what stands in their cells. */
  takeNumbers(
    heading: string,
    ids: readonly number[],
    numbers: readonly number[],
    texts: readonly string[],
  ): void {
    this.columns.set(heading, {
      texts: new Map(ids.map((id, at) => [id, texts[at] as string])),
      numbers: new Map(ids.map((id, at) => [id, numbers[at] as number])),
      kind: 'numbers',
    });
  }

  kindOf = (heading: string): KeptKind => this.columns.get(heading)?.kind ?? 'words';

  /** What each column has of a keyword, by headings. */
  of(id: number): Readonly<Record<string, string>> {
    if (this.columns.size === 0) return NO_EXTRAS;
    return Object.fromEntries(
      [...this.columns].flatMap(([heading, { texts }]) => {
        const text = texts.get(id);
        return text === undefined ? [] : [[heading, text]];
      }),
    );
  }

  /** What keywords are ordered by; null for one that has nothing there. */
  keyOf(heading: string): (id: number) => number | string | null {
    const column = this.columns.get(heading);
    const keys = column?.kind === 'numbers' ? column.numbers : column?.texts;
    return (id) => keys?.get(id) ?? null;
  }

  /** Whether a keyword passes all of the sifts. */
  sift(sifts: readonly KeptSift[]): (id: number) => boolean {
    const tests = sifts.map(({ heading, from, to, words }) => {
      const column = this.columns.get(heading);
      const { wanted, unwanted } = filterWords(words);
      const isOpen = from === null && to === null;
      return (id: number): boolean => {
        const number = column?.numbers.get(id);
        if (!isOpen && number === undefined) return false;
        if (number !== undefined && ((from !== null && number < from) || (to !== null && number > to)))
          return false;
        const text = column?.texts.get(id)?.toLowerCase() ?? '';
        return wanted.every((word) => text.includes(word)) && !unwanted.some((word) => text.includes(word));
      };
    });
    return (id) => tests.every((passes) => passes(id));
  }
}
