import { microsFromDecimal } from '../money/index.ts';
import {
  DELIVERY,
  PRESENCE,
  ROTATION,
  type SettingValue,
  STRATEGY,
  settingValues,
} from './campaign-settings.ts';
import { type ColumnType, column } from './column.ts';
import type { RowOf } from './rows.ts';
import { unitsOf } from './units-of.ts';

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
  'target-cost': 'Target cost per conversion',
  'target-return': 'Target return',
  conversions: 'Counted conversions',
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
  'target-cost': ['targetcost', 'targetcostperconversion'],
  'target-return': ['targetreturn'],
  conversions: ['conversionactions', 'countedconversions'],
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

type CellOf = Pick<ColumnType<SettingValue, RowOf<'campaign'>>, 'write' | 'read'>;
const ofText = (value: SettingValue): CellOf => ({
  write: () => (row) => row.settings[value],
  read: () => (row, cell) => {
    row.settings[value] = cell.text;
  },
});

/** An amount, written as the outlet writes amounts. */
const ofAmount = (value: SettingValue): CellOf => ({
  write:
    ({ money }) =>
    (row) =>
      money(microsFromDecimal(row.settings[value]) ?? null),
  read: () => (row, cell) => {
    row.settings[value] = unitsOf(cell.amount());
  },
});

/** The campaign settings but for the rotation: each is one cell of a campaign. */
const ofCampaigns: readonly ColumnType<SettingValue>[] = settingValues
  .filter((value) => value !== 'rotation')
  .map((value) =>
    column({
      value,
      words: WORDS[value],
      known: KNOWN[value] ?? [],
      kinds: ['campaign'],
      merge: 'silent',
      ...(value === 'target-cost' ? ofAmount(value) : ofText(value)),
      loss: {
        rule: 'setting',
        of: ({ settings: said }) =>
          said[value] === '' || said[value] === USUAL[value] ? null : `${value}: ${said[value]}`,
        without: (row) => ({ ...row, settings: { ...row.settings, [value]: '' } }),
      },
    }),
  );

/** How the ads of a campaign take turns, and those of an ad group where it differs. */
const rotation = column({
  value: 'rotation',
  words: WORDS.rotation,
  known: KNOWN.rotation ?? [],
  kinds: ['campaign', 'group'],
  merge: 'silent',
  write: () => (row) => (row.kind === 'group' ? row.rotation : row.settings.rotation),
  read: () => (row, cell) => {
    if (row.kind === 'group') row.rotation = cell.text.trim();
    else row.settings.rotation = cell.text;
  },
  loss: {
    rule: 'setting',
    of: (row) => {
      if (row.kind === 'group') return row.rotation === '' ? null : `${row.group}: ${row.rotation}`;
      const said = row.settings.rotation;
      return said === '' || said === USUAL.rotation ? null : `rotation: ${said}`;
    },
    without: (row) =>
      row.kind === 'group'
        ? { ...row, rotation: '' }
        : { ...row, settings: { ...row.settings, rotation: '' } },
  },
});

export const settings: readonly ColumnType<SettingValue>[] = settingValues.map(
  (value) => ofCampaigns.find((one) => one.value === value) ?? rotation,
);
