import { asTold, type Commands, type ToldKeys } from '../../kit/commands.ts';
import { toldTableKeys } from '../../kit/table/table-keys.ts';

export const takeInCommands = {
  take: { keys: '$mod+Enter', words: 'Take in the list that is open', always: true },
} satisfies Commands;

export const gatherKeys: ToldKeys = [
  ...toldTableKeys,
  ['c', 'cut the selection'],
  ['b', 'put it back, or unfold it'],
  ['r', 'change its text: find and replace, prefix, suffix, case'],
  ['m', 'its match types: set, add, take away'],
  ['v', 'match variants of the selection'],
  ['Ctrl V, no cell marked', 'bring in what is on the clipboard'],
  ...asTold(takeInCommands),
];
