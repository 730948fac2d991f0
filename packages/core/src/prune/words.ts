import { stringAt } from '../access/index.ts';
/** Distinct words with a number each, in the order they were met. */
export class Words {
  readonly texts: string[] = [];
  /** Two characters that stand for each word alone, for making keys of runs of words. */
  readonly codes: string[] = [];
  private readonly numbers = new Map<string, number>();

  numberOf(word: string): number {
    const known = this.numbers.get(word);
    if (known !== undefined) return known;
    const number = this.texts.push(word) - 1;
    this.numbers.set(word, number);
    this.codes.push(String.fromCharCode(number & 0x7fff, number >>> 15));
    return number;
  }

  /** The words of a text, split at single spaces. */
  numbersOf(text: string): Uint32Array {
    const words = text.split(' ');
    const numbers = new Uint32Array(words.length);
    for (let at = 0; at < words.length; at++) numbers[at] = this.numberOf(stringAt(words, at));
    return numbers;
  }
}
