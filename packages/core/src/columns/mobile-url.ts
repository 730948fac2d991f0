import { column } from './column.ts';

/** Where an ad leads on phones, where that is another page. */
export const mobileUrl = column({
  value: 'mobile-url',
  words: 'Address for phones',
  heading: 'Mobile URL',
  known: ['finalmobileurl', 'mobilefinalurl', 'mobilelandingpage'],
  kinds: ['ad'],
  merge: 'silent',
  write: () => (row) => row.mobileUrl,
  read: () => (row, cell) => {
    row.mobileUrl = cell.text;
  },
  loss: {
    rule: 'address',
    of: (row) => (row.mobileUrl === '' ? null : row.mobileUrl),
    without: (row) => ({ ...row, mobileUrl: '' }),
  },
});
