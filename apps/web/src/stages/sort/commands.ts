import { asTold, type Commands, type ToldKeys } from '../../kit/commands.ts';

export const sortCommands = {
  map: { keys: 'a', words: 'Map of themes' },
  outline: { keys: 'o', words: 'Outline of themes' },
  stages: { keys: 's', words: 'Stages of the decision' },
  up: { keys: 'u', words: 'Up, out of what is open' },
  suggestions: { keys: 'q', words: 'To the suggestions' },
  whole: { keys: 'p', words: 'The whole plan at once' },
  names: { keys: 'n', words: 'A theme for each pasted name' },
} satisfies Commands;

export const sortKeys: ToldKeys = [
  ['/', 'sift: type a term, Enter adds it, Tab goes on; Enter in an empty field saves the theme'],
  ...asTold(sortCommands),
  ['t r d i', 'at the suggestions: take it, take it under another name, dismiss it, look inside'],
  ['Enter on the map', 'open the theme; arrows go from patch to patch'],
  ['c i Delete', 'colour the theme, make it an idea only, remove it'],
  ['e v r w', 'early, comparing, ready, what words tell: of the theme, or of the selected keywords'],
  ['m l', 'in the table: move the selection to a theme, let it go'],
  ['[ ] < >', 'in the outline: up, down, out, into the one above'],
  ['m', 'in the outline: merge the selected themes'],
];
