/** Words that helps and empty fields speak of. */
export type Examples = {
  /** One keyword, and another one. */
  keyword: string;
  second: string;
  /** Two words of theirs. */
  word: string;
  other: string;
};

/** Where a plan has no words of its own yet. */
export const neutralExamples: Examples = {
  keyword: 'red mug',
  second: 'cheap teapot',
  word: 'mug',
  other: 'teapot',
};

/** Longer ones do not fit in an empty field. */
const LONGEST = 24;

/** Examples of a plan's own keywords, the most searched first: short ones of two words or more, and words that can be told apart. */
export function examplesOf(keywords: readonly string[]): Examples {
  const fitting = keywords.filter((text) => text.length <= LONGEST);
  const [keyword, second = keyword] = [...fitting.filter((text) => text.includes(' ')), ...fitting];
  if (!keyword || !second) return neutralExamples;
  const words = [...new Set(fitting.flatMap((text) => text.split(' ')))].filter((word) =>
    /^\p{L}{4,}$/u.test(word),
  );
  const [word, other] = words;
  if (!word || !other) return neutralExamples;
  return { keyword, second, word, other };
}
