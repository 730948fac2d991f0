import type { Commands } from '../../kit/commands.ts';

export const briefCommands = {
  take: { keys: 'o', words: 'Take in an outset' },
  keep: { keys: 'k', words: 'Keep the rules as an outset' },
} satisfies Commands;
