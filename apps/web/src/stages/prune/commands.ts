import { asTold, type Commands, type ToldKeys } from '../../kit/commands.ts';

export const balanceCommands = {
  keep: { keys: 'ArrowLeft', told: '←', words: 'Keep the word in the middle' },
  block: { keys: ['ArrowRight', 'Enter'], told: '→ or Enter', words: 'Block the word in the middle' },
  next: { keys: ['ArrowDown', 'j'], told: '↓ or j', words: 'Next word', byKey: true },
  back: { keys: ['ArrowUp', 'k'], told: '↑ or k', words: 'Previous word', byKey: true },
  broad: { keys: 'b', words: 'Block as broad from now on' },
  phrase: { keys: 'p', words: 'Block as phrase from now on' },
  exact: { keys: 'e', words: 'Block as exact from now on' },
  look: { keys: 'l', words: 'Look up what is known of the word' },
} satisfies Commands;

export const pruneKeys: ToldKeys = [
  ...asTold(balanceCommands),
  ['f', 'fold the look-alikes under the cursor'],
  ['a', 'keep them apart'],
];
