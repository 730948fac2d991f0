import { asTold, type Commands, type ToldKeys } from '../kit/commands.ts';

/** What can be done on every screen of a plan. */
export const everywhere = {
  stage: {
    keys: ['g 1', 'g 2', 'g 3', 'g 4', 'g 5', 'g 6', 'g 7', 'g 8', 'g 9'],
    told: 'g then 1–9',
    words: 'Go to Brief, Gather, Mix, Prune, Sort, Build, Write, Ship',
    byKey: true,
  },
  next: { keys: 'g n', words: 'Go to what is worth doing next' },
  notes: { keys: 'g o', words: 'Notes of this plan, and away again' },
  find: { keys: '$mod+k', words: 'Find or do anything by name', byKey: true, always: true },
  filter: { keys: ['/', 'Shift+/'], words: 'Filter', byKey: true },
  undo: { keys: '$mod+z', words: 'Undo', byKey: true },
  redo: { keys: '$mod+Shift+z', words: 'Redo', byKey: true },
  help: { keys: ['?', 'Shift+?'], told: '?', words: 'This list', byKey: true },
} satisfies Commands;

export const everywhereTold: ToldKeys = [...asTold(everywhere), ['Esc', 'back out of a field or a panel']];
