import { column } from './column.ts';

/** How all keywords of a campaign match, where the outlet decides it so, and those of an ad group where it may differ. */
export const matchSetting = column({
  value: 'match-setting',
  words: 'Matching, close or wide',
  known: ['matching', 'campaignmatching'],
  kinds: ['campaign', 'group'],
  merge: 'silent',
  write:
    ({ rules }) =>
    (row) =>
      row.matchSetting ? rules.words.matchSettings[row.matchSetting] : '',
  read:
    ({ rules }) =>
    (row, cell) => {
      const word = cell.text.trim().toLowerCase();
      const { close, wide } = rules.words.matchSettings;
      if (word === '') row.matchSetting = null;
      else if (word === close.toLowerCase()) row.matchSetting = 'close';
      else if (word === wide.toLowerCase()) row.matchSetting = 'wide';
      else cell.say('match-setting', word);
    },
  loss: {
    rule: 'setting',
    of: (row) => (row.kind === 'group' && row.matchSetting ? `${row.group}: ${row.matchSetting}` : null),
    without: (row) => ({ ...row, matchSetting: null }),
  },
});
