import { column } from './column.ts';
import { rowKinds } from './rows.ts';

/** A column that says the same in every row, or nothing at all: the outlet asks for it, and a plan has no say in it. */
export const fixed = column({
  value: 'fixed',
  words: 'The same text in every row, or nothing',
  kinds: [...rowKinds],
  merge: 'silent',
  write: () => () => '',
  read: () => () => {},
});
