import { column } from './column.ts';
import { titleOf } from './rows.ts';

export const labels = column({
  value: 'labels',
  words: 'Labels',
  known: ['label', 'tags'],
  kinds: ['campaign', 'group', 'keyword', 'ad'],
  merge: 'said',
  write: () => (row) => row.labels.join(', '),
  read: () => (row, cell) => {
    row.labels = cell.text
      .split(',')
      .map((label) => label.trim())
      .filter((label) => label !== '');
  },
  loss: {
    rule: 'labels',
    of: (row) => (row.labels.length > 0 ? `${titleOf(row)}: ${row.labels.join(', ')}` : null),
    without: (row) => ({ ...row, labels: [] }),
  },
});
