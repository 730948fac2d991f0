import { column } from './column.ts';

/** How many words a keyword has; what a sheet says of it is not read, since it follows from the keyword. */
export const keywordWords = column({
  value: 'keyword-words',
  words: 'Words of the keyword',
  heading: 'Words',
  known: ['wordcount'],
  kinds: ['keyword', 'negative'],
  merge: 'silent',
  write: () => (row) => String(row.text.split(' ').length),
  read: () => () => {},
});
