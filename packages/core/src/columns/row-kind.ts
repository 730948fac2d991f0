import { column } from './column.ts';
import { rowKinds } from './rows.ts';

/** What a row is about. It is read before the row is. */
export const rowKind = column({
  value: 'row-kind',
  words: 'What the row is',
  heading: 'Row',
  known: ['row', 'rowtype', 'row kind', 'entity', 'lineis'],
  kinds: rowKinds,
  merge: 'place',
  write:
    ({ rules }) =>
    ({ kind }) =>
      rules.words.rowKinds[kind],
  read: () => () => {},
});
