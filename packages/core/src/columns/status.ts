import { column, commonStates } from './column.ts';
import { rowKinds, titleOf } from './rows.ts';

export const status = column({
  value: 'status',
  words: 'Status',
  known: ['state', 'keywordstatus', 'enabled'],
  kinds: rowKinds,
  merge: 'said',
  write:
    ({ rules }) =>
    (row) =>
      rules.words[row.status],
  read: ({ rules: { words } }) => {
    const states = new Map(Object.entries(commonStates));
    for (const state of ['removed', 'paused', 'enabled'] as const)
      states.set(words[state].toLowerCase(), state);
    return (row, cell) => {
      const word = cell.text.trim();
      const state = word === '' ? 'enabled' : states.get(word.toLowerCase());
      if (state) row.status = state;
      else cell.say('status', word);
    };
  },
  loss: {
    rule: 'paused',
    // Nothing runs by a negative or an extra alone.
    of: (row) => (row.status === 'paused' && row.kind !== 'negative' ? titleOf(row) : null),
    without: (row) => ({ ...row, status: 'enabled' }),
  },
});
