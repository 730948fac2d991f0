import { asTold, type Commands, type ToldKeys, viewCommands } from '../../kit/commands.ts';
import { toldTableKeys } from '../../kit/table/table-keys.ts';

export const writeViews = [
  ['', 'Lines', 'l'],
  ['searcher', 'As a searcher reads', 's'],
  ['ads', 'All ads', 'a'],
  ['desk', 'The desk', 'd'],
  ['addresses', 'Final URLs', 'u'],
  ['extras', 'Extras', 'e'],
] as const;

export const writeCommands: Commands = {
  ...viewCommands(writeViews),
  next: { keys: ['j', 'ArrowRight'], told: 'j or →', words: 'Next ad', byKey: true },
  back: { keys: ['k', 'ArrowLeft'], told: 'k or ←', words: 'Previous ad', byKey: true },
  misfit: { keys: 'n', words: 'Next ad that does not fit' },
  front: { keys: 'm', words: 'Those that do not fit to the front' },
  mend: { keys: 'f', words: 'Write the ad in view by hand, where it does not fit' },
  cure: {
    keys: ['1', '2', '3'],
    told: '1 2 3',
    words: 'Add a line that fits most misfits',
    byKey: true,
  },
  version: { keys: 'v', words: 'The other version of a split test' },
};

export const deskCommands = {
  next: { keys: ['j', 'ArrowDown'], told: 'j or ↓', words: 'Next ad group', byKey: true },
  back: { keys: ['k', 'ArrowUp'], told: 'k or ↑', words: 'Previous ad group', byKey: true },
  edit: { keys: 'f', words: 'Write in the first field that nothing fits, or the first' },
  over: { keys: 'o', words: 'Hand the ads in view over for a look' },
  accept: { keys: 'y', words: 'Accept the ads in view' },
  sendBack: { keys: 'x', words: 'Send the ads in view back' },
} satisfies Commands;

export const writeKeys: ToldKeys = [
  ...asTold(writeCommands),
  ...toldTableKeys,
  ...asTold(deskCommands).map(([keys, what]) => [keys, `at the desk: ${what}`] as const),
  ['b r h', 'in all ads: change texts, keep a review, let go of what is written by hand'],
];
