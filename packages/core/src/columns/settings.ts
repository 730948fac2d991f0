import {
  DELIVERY,
  PRESENCE,
  ROTATION,
  type SettingValue,
  STRATEGY,
  settingValues,
} from './campaign-settings.ts';
import { type ColumnType, column } from './column.ts';

const WORDS: Record<SettingValue, string> = {
  networks: 'Networks',
  locations: 'Locations',
  'locations-out': 'Excluded locations',
  presence: 'Shown to',
  languages: 'Languages',
  schedule: 'Schedule',
  devices: 'Device bid adjustments',
  delivery: 'Delivery',
  strategy: 'Bid strategy',
  starts: 'Start',
  ends: 'End',
  rotation: 'Ad rotation',
  'sites-out': 'Excluded sites',
  goal: 'Goal',
  'site-kind': 'Kind of site',
  audience: 'Audience',
};

const KNOWN: Partial<Record<SettingValue, readonly string[]>> = {
  networks: ['network'],
  locations: ['location', 'targetlocations', 'region'],
  'locations-out': ['negativelocations'],
  languages: ['language'],
  schedule: ['adschedule'],
  starts: ['startdate', 'starts', 'from'],
  ends: ['enddate', 'ends', 'until'],
  rotation: ['adrotation', 'rotation'],
};

/** What settings are when nobody has chosen: nothing is lost with them. */
const USUAL: Partial<Record<SettingValue, string>> = {
  networks: 'Search',
  presence: PRESENCE.in,
  delivery: DELIVERY.even,
  strategy: STRATEGY['by-hand'],
  rotation: ROTATION.best,
};

/** The campaign settings: each is one cell of a campaign. */
export const settings: readonly ColumnType<SettingValue>[] = settingValues.map((value) =>
  column({
    value,
    words: WORDS[value],
    known: KNOWN[value] ?? [],
    kinds: ['campaign'],
    merge: 'silent',
    write: () => (row) => row.settings[value],
    read: () => (row, cell) => {
      row.settings[value] = cell.text;
    },
    loss: {
      rule: 'setting',
      of: ({ settings: said }) =>
        said[value] === '' || said[value] === USUAL[value] ? null : `${value}: ${said[value]}`,
      without: (row) => ({ ...row, settings: { ...row.settings, [value]: '' } }),
    },
  }),
);
