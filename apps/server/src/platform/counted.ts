/** `1 keyword`, `2,000 keywords`. */
export const counted = (count: number, word: string): string =>
  `${count.toLocaleString('en')} ${word}${count === 1 ? '' : 's'}`;
