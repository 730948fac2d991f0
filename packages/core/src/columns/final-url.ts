import { column } from './column.ts';

/** Where an ad, a keyword or a sitelink leads. */
export const finalUrl = column({
  value: 'final-url',
  words: 'Final URL',
  known: ['url', 'landingpage', 'destination', 'destinationurl', 'link', 'address'],
  kinds: ['keyword', 'ad', 'extra'],
  merge: 'said',
  write: () => (row) => {
    if (row.kind !== 'extra') return row.finalUrl;
    return row.extra.kind === 'sitelink' ? row.extra.address : '';
  },
  read: () => (row, cell) => {
    if (row.kind !== 'extra') row.finalUrl = cell.text;
    else if (row.extra.kind === 'sitelink') row.extra.address = cell.text;
  },
  loss: {
    rule: 'address',
    // A sitelink without it is lost as a whole.
    of: (row) => (row.kind !== 'extra' && row.finalUrl !== '' ? row.finalUrl : null),
    without: (row) => (row.kind === 'extra' ? row : { ...row, finalUrl: '' }),
  },
});
