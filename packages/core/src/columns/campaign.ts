import { column } from './column.ts';
import { rowKinds } from './rows.ts';

export const campaign = column({
  value: 'campaign',
  words: 'Campaign',
  known: ['campaignname'],
  kinds: rowKinds,
  merge: 'place',
  write: () => (row) => row.campaign,
  read: () => (row, cell) => {
    row.campaign = cell.text;
    if (cell.text.trim() === '' && row.kind !== 'extra') cell.say('no-campaign', '');
  },
});
