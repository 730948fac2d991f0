import { asTold, type Commands, type ToldKeys, viewCommands } from '../../kit/commands.ts';
import { toldTableKeys } from '../../kit/table/table-keys.ts';

export const buildViews = [
  ['', 'Picture', 'i'],
  ['rules', 'Rules', 'r'],
  ['campaigns', 'Campaigns', 'c'],
  ['groups', 'Ad groups', 'a'],
  ['rows', 'Keywords', 'w'],
  ['negatives', 'Negatives', 'v'],
  ['fences', 'Fences', 'f'],
] as const;

export const buildCommands: Commands = {
  ...viewCommands(buildViews),
  try: { keys: 't', words: 'Try a search' },
};

export const buildKeys: ToldKeys = [
  ...asTold(buildCommands),
  ['← → ↑ ↓', 'in the picture: to the next block, up to the campaign, down to its ad groups'],
  ['z', 'in the picture: let a campaign fill the width, and back'],
  ['↑ ↓ on a step', 'the ladder, by 1%; with Shift by 10%'],
  ['← → on the curve', 'aim these bids at a position; Esc leaves them'],
  ...toldTableKeys,
  ['b', 'bids of the selection; of campaigns their budgets'],
  ['n', 'names of the selection: find and replace'],
  ['m', 'match types of the selection'],
  ['d u', 'take selected negatives away; move them up to all campaigns'],
  ['s', 'what the selected campaigns are set to'],
  ['p e', 'pause, enable'],
  ['o', 'open the ad group'],
  ['l', 'let go of what is held'],
];
