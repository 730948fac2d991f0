import { writeNotation } from '../match/index.ts';
import { column } from './column.ts';
import { areNoted } from './notation.ts';

/** A keyword's or a negative's text. Modified broad carries its marks in it, since no other column can. */
export const keyword = column({
  value: 'keyword',
  words: 'Keyword',
  known: ['keywordtext', 'searchkeyword', 'searchterm', 'phrase'],
  kinds: ['keyword', 'negative'],
  merge: 'name',
  write: () => (row) =>
    row.type === 'modified'
      ? writeNotation(row.text, 'modified', row.kind === 'keyword' ? row.marks : [])
      : row.text,
  read: () => (row, cell) => {
    if (areNoted(cell)) return;
    row.text = cell.text;
    if (cell.text.trim() === '') cell.say('no-keyword', '');
  },
});
