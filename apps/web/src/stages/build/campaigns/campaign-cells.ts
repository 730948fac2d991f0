import type { SettingSet, SettingValues } from '@sprig/contracts';
import { readHeld } from '../../../kit/read-held.ts';
import { readMoney } from '../../../kit/read-typed.ts';
import type { ReadCell } from '../../../kit/table/column.ts';
import { deliveryChoices, rotationChoices, strategyChoices } from '../../../plan/settings/choices.ts';
import { readLines, readLocations, writeLocations } from '../../../plan/settings/read-facts.ts';
import type { Settings } from './shown-campaigns.ts';

/** Columns of what campaigns are set to. A cell has it as one line, as it is copied and pasted. */
export const settingColumns = [
  'networks',
  'locations',
  'languages',
  'strategy',
  'rotation',
  'delivery',
] as const;
export type SettingColumn = (typeof settingColumns)[number];

export const BRIEF = 'the brief’s';

const NETWORKS = { search: 'search', partners: 'search partners', display: 'display' } as const;
type Network = keyof typeof NETWORKS;
const networkNames = Object.keys(NETWORKS) as Network[];

const choices = { strategy: strategyChoices, rotation: rotationChoices, delivery: deliveryChoices };
export const choicesOf = (column: 'strategy' | 'rotation' | 'delivery') => choices[column];

const listed = (words: readonly string[]) => words.map((one) => `“${one}”`).join(', ');

/** What stands in the cell. */
export function writeSetting(column: SettingColumn, is: Settings): string {
  switch (column) {
    case 'networks':
      return networkNames
        .filter((one) => is.networks[one])
        .map((one) => NETWORKS[one])
        .join(', ');
    case 'locations':
      return writeLocations(is.locations).replaceAll('\n', '; ');
    case 'languages':
      return is.languages.join(', ');
    default:
      return choices[column].find(({ value }) => value === is[column])?.words ?? '';
  }
}

/** What is typed or pasted into the cell, as what is to be changed. */
export function readSetting(
  column: SettingColumn,
  typed: string,
): { value: SettingValues } | { words: string } {
  switch (column) {
    case 'networks':
      return readNetworks(typed);
    case 'locations': {
      const read = readLocations(typed.replace(/\s*;\s*/g, '\n'));
      return 'words' in read
        ? { words: read.words.replace(/^Line (\d+)/, 'Place $1') }
        : { value: { locations: read.value } };
    }
    case 'languages': {
      const read = readLines(typed.replace(/\s*[,;]\s*/g, '\n'));
      return 'words' in read ? read : { value: { languages: read.value } };
    }
    default: {
      const wanted = typed.trim().toLowerCase();
      const found = choices[column].find(
        ({ value, words }) => value === wanted || words.toLowerCase() === wanted,
      );
      return found
        ? { value: { [column]: found.value } }
        : { words: `It is one of ${listed(choices[column].map(({ words }) => words))}.` };
    }
  }
}

function readNetworks(typed: string): { value: SettingValues } | { words: string } {
  const networks = { search: false, partners: false, display: false };
  const said = typed
    .toLowerCase()
    .split(/[,;+]/)
    .map((one) => one.trim())
    .filter((one) => one !== '');
  for (const one of said) {
    const found = networkNames.find((name) => one === name || one === NETWORKS[name]);
    if (!found) return { words: `“${one}” is no network. There are ${listed(Object.values(NETWORKS))}.` };
    networks[found] = true;
  }
  return said.length === 0 ? { words: 'At least one network is needed.' } : { value: { networks } };
}

/** The settings that a name means: their number, null for the brief's. */
export function readSet(
  typed: string,
  sets: readonly Pick<SettingSet, 'id' | 'name'>[],
): { value: number | null } | { words: string } {
  const wanted = typed.trim().toLowerCase();
  if (wanted === '' || wanted === BRIEF || wanted === 'the brief') return { value: null };
  const found = sets.find(({ name }) => name.toLowerCase() === wanted);
  return found
    ? { value: found.id }
    : { words: `No settings are called “${typed.trim()}”. ${namesOf(sets)}` };
}

const namesOf = (sets: readonly Pick<SettingSet, 'name'>[]) =>
  sets.length === 0
    ? 'There are only the brief’s: change something of a campaign, and it has its own.'
    : `There are ${listed([BRIEF, ...sets.map(({ name }) => name)])}.`;

/** A default bid or a budget as it is pasted. */
export function readAmount(field: 'bid' | 'budget', typed: string): ReadCell {
  if (typed === '')
    return { words: 'An amount can’t be empty. To have the rule’s back, let the held one go.' };
  const read = readMoney(typed);
  return 'words' in read ? read : readHeld(field, read.value);
}
