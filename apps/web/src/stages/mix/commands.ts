import { asTold, type Commands, type ToldKeys } from '../../kit/commands.ts';

export const mixCommands = {
  matrix: { keys: 'm', words: 'Matrix of what is made' },
  list: { keys: 'l', words: 'List of what is made' },
  room: { keys: 'w', words: 'More room for the matrix or the list, and back' },
} satisfies Commands;

export const mixKeys: ToldKeys = [
  ['Enter in + list or word', 'add a slot to the pattern'],
  ['← →', 'move along the slots, or the cells of the matrix'],
  ['Alt ← →', 'move the slot, or the recipe'],
  ['Alt ↑ ↓', 'move the pattern'],
  ['o', 'the slot may be left out, or not'],
  ['f', 'flip: the pattern in reverse order as well'],
  ['Delete', 'take the slot out'],
  ...asTold(mixCommands),
  ['c or Space', 'cut the cell or the selection, or put the cell back'],
  ['r v', 'cut or put back the row, the column'],
  ['b', 'put the selection of the list back'],
  ['v in the list', 'match variants of the selection'],
];
