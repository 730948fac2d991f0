import { asTold, type Commands, type ToldKeys, viewCommands } from '../../kit/commands.ts';

export const learnViews = [
  ['', 'What happened', 'h'],
  ['worth', 'Worth doing', 'n'],
  ['verdicts', 'Verdicts', 'v'],
  ['terms', 'Search terms', 's'],
  ['bids', 'Bids', 'd'],
  ['ads', 'Ads', 'a'],
  ['watch', 'Watch', 'w'],
  ['reports', 'Reports', 'r'],
] as const;

export const learnCommands: Commands = viewCommands(learnViews);
/** Of what happened. */
export const happenedCommands = { picture: { keys: 'p', words: 'Next picture' } } as const satisfies Commands;
export const learnKeys: ToldKeys = asTold({ ...learnCommands, ...happenedCommands });
