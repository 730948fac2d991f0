import type { MatchType } from '../match/index.ts';
import { type CellRules, column } from './column.ts';
import { areNoted, marked } from './notation.ts';

const COMMON_TYPES: Record<string, MatchType> = {
  broad: 'broad',
  'broad match': 'broad',
  'modified broad': 'modified',
  phrase: 'phrase',
  'phrase match': 'phrase',
  exact: 'exact',
  'exact match': 'exact',
};

/** `Negative exact`, `Campaign negative broad`: where negatives stand among keywords. */
export const NEGATIVE_TYPE = /^\s*(campaign\s+)?negative\s+/i;

/** Match types by their words: the outlet's own go before those that everybody understands. */
function typesByWords({ words, matchTypes, negativeTypes }: CellRules): Map<string, MatchType> {
  const types = new Map(Object.entries(COMMON_TYPES));
  for (const type of matchTypes.toReversed()) types.set(words.matchTypes[type].toLowerCase(), type);
  for (const type of negativeTypes) {
    const word = words.matchTypes[type].toLowerCase();
    if (!types.has(word)) types.set(word, type);
  }
  return types;
}

export const matchType = column({
  value: 'match-type',
  words: 'Match type',
  known: ['match', 'keywordmatchtype', 'keywordtype', 'matches'],
  kinds: ['keyword', 'negative'],
  merge: 'name',
  write:
    ({ rules }) =>
    (row) =>
      rules.words.matchTypes[row.type],
  read: ({ rules }) => {
    const types = typesByWords(rules);
    return (row, cell) => {
      if (areNoted(cell)) return;
      const word = cell.text.trim();
      if (word !== '') {
        const type =
          types.get(word.toLowerCase()) ?? types.get(word.replace(NEGATIVE_TYPE, '').toLowerCase());
        if (type) row.type = type;
        else cell.say('match-type', word);
      }
      if (row.type !== 'modified') return;
      const { text, marks } = marked(row.text);
      row.text = text;
      if (row.kind === 'keyword') row.marks = marks;
    };
  },
});
