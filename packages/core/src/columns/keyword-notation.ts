import { column } from './column.ts';
import { areNoted, notationReader, rowNotation } from './notation.ts';

/** A keyword or a negative whose match type its text tells. Where a column of plain keywords stands beside it, that one is read. */
export const keywordNotation = column({
  value: 'keyword-notation',
  words: 'Keyword in notation',
  kinds: ['keyword', 'negative'],
  merge: 'name',
  write:
    ({ rules }) =>
    (row) =>
      rowNotation(row, rules),
  read: ({ rules }) => {
    const noted = notationReader(rules);
    return (row, cell) => {
      if (!areNoted(cell)) return;
      if (cell.text.trim() === '') cell.say('no-keyword', '');
      const { text, type, marks } = noted(cell.text, row.kind === 'negative');
      row.text = text;
      row.type = type;
      if (row.kind === 'keyword') row.marks = marks;
    };
  },
});
