import { isAdField } from '../write/index.ts';
import { column } from './column.ts';

/** Which lines of an ad are kept in which place: `headline1: 1; description2: 1`. */
export const kept = column({
  value: 'kept',
  words: 'Kept in place',
  kinds: ['ad'],
  merge: 'silent',
  write: () => (row) =>
    Object.entries(row.kept)
      .map(([field, place]) => `${field}: ${place}`)
      .join('; '),
  read: () => (row, cell) => {
    for (const part of cell.text.split(';')) {
      if (part.trim() === '') continue;
      const [, field = '', place = ''] = /^\s*(\w+)\s*:\s*(\d)\s*$/.exec(part) ?? [];
      if (isAdField(field)) row.kept[field] = Number(place);
      else cell.say('kept', part);
    }
  },
  loss: {
    rule: 'kept-places',
    of: (row) => (Object.keys(row.kept).length > 0 ? (row.texts.headline1 ?? '') : null),
    without: (row) => ({ ...row, kept: {} }),
  },
});
