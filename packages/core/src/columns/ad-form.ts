import { column } from './column.ts';

export const adForm = column({
  value: 'ad-form',
  words: 'Form of the ad',
  heading: 'Ad form',
  known: ['adtype'],
  kinds: ['ad'],
  merge: 'name',
  write:
    ({ rules }) =>
    (row) =>
      rules.words.adForms[row.form],
  read:
    ({ rules }) =>
    (row, cell) => {
      const word = cell.text.trim().toLowerCase();
      const form = (['plain', 'assembled'] as const).find(
        (one) => word === rules.words.adForms[one].toLowerCase(),
      );
      if (word === '') row.form = rules.ad.plain ? 'plain' : 'assembled';
      else if (form) row.form = form;
      else cell.say('ad-form', word);
    },
});
