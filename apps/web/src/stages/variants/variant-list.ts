import { type Reading, readList } from '@sprig/core/gather';
import { type MatchType, matchTypes } from '@sprig/core/match';
import { type Variant, type VariantOptions, type VariantSource, variantsOf } from '@sprig/core/mix';
import { decimalFromMicros, type Micros } from '@sprig/core/money';
import { writeField } from '@sprig/core/sheets';
import { english } from '@sprig/core/text';
import { matchWords } from '../../kit/match-words.ts';

export type ListRead = {
  keywords: number;
  negatives: number;
  repeated: number;
  withCpc: number;
  problems: Reading['problems'];
  problemCount: number;
};

export type Made = { rows: number; unmarked: number };
/** One keyword to a line in notation, or columns for a sheet. */
export type Form = 'notation' | 'columns';

const SHOWN_PROBLEMS = 200;
const DECIMALS = 2;

/** A list as it was pasted, and its variants. A list of any length is read once, and made again as options change. */
export class VariantList {
  private sources: VariantSource[] = [];
  private rows: Variant[] = [];
  private written: { form: Form; text: string } | null = null;

  read(text: string): ListRead {
    const { keywords, negatives, problems, counts } = readList(text);
    this.sources = [
      ...keywords.map(({ text: keyword, cpc }) => ({
        text: keyword,
        negative: false,
        cpc: cpc ? (cpc.value as Micros) : null,
      })),
      ...onlyOnce(negatives.map(({ text: negative }) => negative)).map((negative) => ({
        text: negative,
        negative: true,
        cpc: null,
      })),
    ];
    return {
      keywords: keywords.length,
      negatives: this.sources.length - keywords.length,
      repeated: counts.repeated + counts.askedAgain,
      withCpc: this.sources.filter(({ cpc }) => cpc !== null).length,
      problems: problems.slice(0, SHOWN_PROBLEMS),
      problemCount: problems.length,
    };
  }

  make(options: VariantOptions): Made {
    const { rows, unmarked } = variantsOf(this.sources, options, english);
    this.rows = rows;
    this.written = null;
    return { rows: rows.length, unmarked };
  }

  page(places: readonly number[]): (Variant & { at: number })[] {
    return places.flatMap((at) => {
      const row = this.rows[at];
      return row ? [{ ...row, at }] : [];
    });
  }

  /** The cells to be copied or written: with headings where they are columns. */
  cells(form: Form): string[][] {
    if (form === 'notation') return this.rows.map(({ notation }) => [notation]);
    const amount = this.rows.some(({ bid }) => bid !== null) ? writerOfAmounts() : null;
    const heading = ['Keyword', 'Match type', ...(amount ? ['Max CPC'] : [])];
    return [heading, ...this.rows.map((row) => cellsOf(row, amount))];
  }

  /**
   * The variants as tab-separated text, by the writer of all sheets. It is written once for what was made last.
   */
  text(form: Form): string {
    if (this.written?.form !== form) this.written = { form, text: this.write(form) };
    return this.written.text;
  }

  /** Writes the text ahead of its being asked for, so that a copy need not wait for it. */
  prepare(form: Form): void {
    this.text(form);
  }

  private write(form: Form): string {
    if (form === 'notation') return this.rows.map(({ notation }) => notation).join('\n');
    return this.cells(form)
      .map((row) => row.map((cell) => writeField(cell, '\t')).join('\t'))
      .join('\n');
  }
}

/** Amounts come again and again: each is written once. */
function writerOfAmounts(): (amount: Micros) => string {
  const written = new Map<number, string>();
  return (amount) => {
    const known = written.get(amount) ?? decimalFromMicros(amount, DECIMALS);
    written.set(amount, known);
    return known;
  };
}

function cellsOf({ text, type, negative, bid }: Variant, amount: ((bid: Micros) => string) | null): string[] {
  const words = (negative ? NEGATIVES : TYPES)[type];
  return amount ? [text, words, bid === null ? '' : amount(bid)] : [text, words];
}

const headed = (before: string) =>
  Object.fromEntries(
    matchTypes.map((type) => {
      const words = before + matchWords[type];
      return [type, words.charAt(0).toUpperCase() + words.slice(1)];
    }),
  ) as Record<MatchType, string>;
const TYPES = headed('');
const NEGATIVES = headed('negative ');
const onlyOnce = (list: readonly string[]) => [...new Set(list)];
