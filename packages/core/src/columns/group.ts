import { column } from './column.ts';

/** Negatives and extras without one are the campaign's. */
export const group = column({
  value: 'group',
  words: 'Ad group',
  known: ['adgroupname', 'group', 'groupname'],
  kinds: ['group', 'keyword', 'negative', 'ad', 'extra'],
  merge: 'place',
  write: () => (row) => row.group,
  read: () => (row, cell) => {
    row.group = cell.text;
    if (cell.text.trim() === '' && row.kind !== 'negative' && row.kind !== 'extra') cell.say('no-group', '');
  },
});
