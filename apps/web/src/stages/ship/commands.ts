import { asTold, type Commands, type ToldKeys, viewCommands } from '../../kit/commands.ts';

export const shipViews = [
  ['', 'Ship', 's'],
  ['rows', 'Every row', 'e'],
  ['outlets', 'Outlets', 'o'],
  ['account', 'Accounts', 'a'],
  ['back', 'Read back', 'r'],
] as const;

export const shipCommands: Commands = viewCommands(shipViews);
export const shipKeys: ToldKeys = asTold(shipCommands);
