import type { SettingSet } from '@sprig/contracts';
import { labelsOf } from '@sprig/core/build';
import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { ArrowUpRight } from 'lucide-react';
import { count, estimate, money } from '../../../kit/format.ts';
import { InlineEdit } from '../../../kit/InlineEdit.tsx';
import { readHeld } from '../../../kit/read-held.ts';
import { Tie } from '../../../kit/Tie.tsx';
import type { Put, ReadCell, TableColumn } from '../../../kit/table/column.ts';
import { readStatus } from '../read-cells.ts';
import { SelectCell } from '../SelectCell.tsx';
import type { BuildActions } from '../use-build.ts';
import {
  BRIEF,
  choicesOf,
  readAmount,
  readSet,
  readSetting,
  type SettingColumn,
  settingColumns,
  writeSetting,
} from './campaign-cells.ts';
import type { ShownCampaign } from './shown-campaigns.ts';
import type { CampaignChange } from './use-campaign-change.ts';

type Column = TableColumn<ShownCampaign>;
const heldColumns = ['name', 'budget', 'bid', 'status', 'labels', 'path', 'matching'] as const;
type HeldField = (typeof heldColumns)[number];
const isHeld = (column: string): column is HeldField => heldColumns.some((one) => one === column);

export type CampaignCells = {
  currency: string;
  sets: readonly SettingSet[];
  change: (asked: CampaignChange) => Promise<string | null>;
  letGo: BuildActions['letGo'];
  onOpen: (key: string) => void;
  onSettings: (set: number) => void;
};

const MATCHINGS = [
  { value: '', words: 'as its keywords' },
  { value: 'close', words: 'close' },
  { value: 'wide', words: 'wide' },
];

const HEADINGS: Record<SettingColumn, [heading: string, width: number]> = {
  networks: ['Networks', 150],
  locations: ['Places', 150],
  languages: ['Languages', 110],
  strategy: ['Bidding', 150],
  rotation: ['Rotation', 150],
  delivery: ['Delivery', 130],
};

/** What is put into cells, as one change; each was read by its column. */
export function changeOf(puts: readonly Put<ShownCampaign>[], sets: readonly SettingSet[]): CampaignChange {
  const asked: CampaignChange = { values: [], settings: [] };
  for (const { row, column, value, typed } of puts) {
    if (isHeld(column)) asked.values.push([row.key, column, (value ?? '') as never]);
    else if (column === 'set') {
      const read = readSet(typed, sets);
      if ('value' in read) asked.settings.push({ campaigns: [row.key], set: read.value });
    } else {
      const read = readSetting(column as SettingColumn, typed);
      if ('value' in read) asked.settings.push({ campaigns: [row.key], values: read.value });
    }
  }
  return asked;
}

/** The columns of the table of campaigns. */
export function campaignColumns({
  currency,
  sets,
  change,
  letGo,
  onOpen,
  onSettings,
}: CampaignCells): Column[] {
  const plain = (amount: number) => decimalFromMicros(asMicros(amount), decimalsOf(currency));
  const hold = (key: string, field: HeldField, value: string | number) =>
    change({ values: [[key, field, value as never]], settings: [] });
  /** Keeps what was typed if it can be read. */
  const kept =
    (key: string, field: HeldField, read: (typed: string) => ReadCell) =>
    async (typed: string): Promise<string | null> => {
      const found = read(typed);
      return 'words' in found ? found.words : hold(key, field, found.value ?? '');
    };
  const tie = ({ key, covered }: ShownCampaign, field: HeldField, shown = (rule: unknown) => `“${rule}”`) =>
    covered?.[field] !== undefined && (
      <Tie rule={shown(covered[field])} onLetGo={() => void letGo([{ rowKey: key, field }])} />
    );
  const amount = (
    id: 'budget' | 'bid',
    heading: string,
    hint: string,
    of: (row: ShownCampaign) => number,
  ): Column => ({
    id,
    heading,
    hint,
    width: 108,
    right: true,
    sortable: id === 'budget',
    text: (row) => plain(of(row)),
    read: (typed) => readAmount(id, typed),
    cell: (row) => (
      <span className="flex items-center justify-end gap-0.5">
        {tie(row, id, (rule) => money(Number(rule), currency))}
        <InlineEdit
          label={`${heading.toLowerCase()} of ${row.name}`}
          right
          shown={money(of(row), currency)}
          text={plain(of(row))}
          onKeep={kept(row.key, id, (typed) => readAmount(id, typed))}
        />
      </span>
    ),
  });
  const setting = (id: SettingColumn): Column => ({
    id,
    heading: HEADINGS[id][0],
    width: HEADINGS[id][1],
    text: ({ is }) => writeSetting(id, is),
    read: (typed) => {
      const read = readSetting(id, typed);
      return 'words' in read ? read : { value: typed };
    },
    cell: ({ key, name, is }) => {
      const text = writeSetting(id, is);
      const keep = async (typed: string) => {
        const read = readSetting(id, typed);
        return 'words' in read
          ? read.words
          : change({ values: [], settings: [{ campaigns: [key], values: read.value }] });
      };
      if (id === 'strategy' || id === 'rotation' || id === 'delivery')
        return (
          <SelectCell
            label={`${HEADINGS[id][0]} of ${name}`}
            value={is[id]}
            choices={choicesOf(id)}
            onChoose={(value) => void keep(value)}
          />
        );
      return (
        <InlineEdit
          label={`${HEADINGS[id][0].toLowerCase()} of ${name}`}
          shown={
            text === '' ? <span className="text-faint">{id === 'languages' ? 'any' : 'anywhere'}</span> : text
          }
          text={text}
          onKeep={keep}
        />
      );
    },
  });
  return [
    {
      id: 'name',
      heading: 'Campaign',
      sortable: true,
      text: ({ name }) => name,
      read: (typed) => readHeld('name', typed),
      cell: (row) => (
        <span className="group/name flex min-w-0 items-center gap-0.5">
          {tie(row, 'name')}
          <InlineEdit
            label={`name of ${row.name}`}
            shown={row.name}
            text={row.name}
            onKeep={kept(row.key, 'name', (typed) => readHeld('name', typed))}
          />
          <button
            type="button"
            tabIndex={-1}
            className="btn btn-ghost btn-square btn-xs opacity-0 group-hover/name:opacity-100"
            aria-label={`Open ${row.name}`}
            onClick={() => onOpen(row.key)}
          >
            <ArrowUpRight size={14} />
          </button>
        </span>
      ),
    },
    {
      id: 'status',
      heading: 'Status',
      width: 84,
      text: ({ status }) => status,
      read: readStatus,
      cell: ({ status }) => (
        <span className={status === 'paused' ? 'text-warning' : 'text-faint'}>{status}</span>
      ),
    },
    amount('budget', 'Budget a day', 'What it may spend a day', ({ dailyBudget }) => dailyBudget),
    {
      id: 'cost',
      heading: 'May cost',
      hint: 'What its keywords may cost a day by the forecast, whatever the budget',
      width: 92,
      right: true,
      sortable: true,
      text: ({ cost }) => (cost === undefined ? '' : plain(Math.round(cost))),
      cell: ({ cost, dailyBudget }) => (
        <span className={cost !== undefined && cost > dailyBudget ? 'text-warning' : 'text-faint'}>
          {cost === undefined ? '–' : estimate(cost, currency)}
        </span>
      ),
    },
    amount(
      'bid',
      'Default bid',
      'What its ad groups bid where there is no estimate to go by',
      ({ defaultBid }) => defaultBid,
    ),
    {
      id: 'set',
      heading: 'Settings',
      width: 130,
      sortable: true,
      text: ({ set }) => set?.name ?? BRIEF,
      read: (typed) => {
        const read = readSet(typed, sets);
        return 'words' in read ? read : { value: read.value ?? BRIEF };
      },
      cell: ({ key, name, set }) => (
        <span className="group/set flex min-w-0 items-center">
          <InlineEdit
            label={`settings of ${name}`}
            shown={set?.name ?? <span className="text-faint">{BRIEF}</span>}
            text={set?.name ?? BRIEF}
            onKeep={async (typed) => {
              const read = readSet(typed, sets);
              return 'words' in read
                ? read.words
                : change({ values: [], settings: [{ campaigns: [key], set: read.value }] });
            }}
          />
          {set && (
            <button
              type="button"
              tabIndex={-1}
              className="btn btn-ghost btn-square btn-xs opacity-0 group-hover/set:opacity-100"
              aria-label={`Open the settings ${set.name}`}
              onClick={() => onSettings(set.id)}
            >
              <ArrowUpRight size={14} />
            </button>
          )}
        </span>
      ),
    },
    ...settingColumns.map(setting),
    {
      id: 'labels',
      heading: 'Labels',
      width: 110,
      text: ({ labels }) => labels.join(', '),
      read: (typed) => readHeld('labels', labelsOf(typed).join(', ')),
      cell: ({ key, name, labels }) => (
        <InlineEdit
          label={`labels of ${name}`}
          shown={labels.length === 0 ? <span className="text-hair">–</span> : labels.join(', ')}
          text={labels.join(', ')}
          onKeep={(typed) => hold(key, 'labels', labelsOf(typed).join(', '))}
        />
      ),
    },
    {
      id: 'matching',
      heading: 'Matching',
      hint: 'At outlets that match by campaign: close or wide',
      width: 130,
      text: ({ matching }) => matching,
      read: (typed) => readHeld('matching', typed.trim().toLowerCase()),
      cell: ({ key, name, matching }) => (
        <SelectCell
          label={`Matching of ${name}`}
          value={matching}
          choices={MATCHINGS}
          onChoose={(value) => void hold(key, 'matching', value)}
        />
      ),
    },
    {
      id: 'path',
      heading: 'Path of final URLs',
      hint: 'Where its ads lead behind the base, if their theme has no path of its own',
      width: 150,
      text: ({ path }) => path,
      read: (typed) => readHeld('path', typed.trim()),
      cell: ({ key, name, path }) => (
        <span className="flex min-w-0 items-center gap-0.5">
          {path !== '' && (
            <Tie rule="the plan’s path" onLetGo={() => void letGo([{ rowKey: key, field: 'path' }])} />
          )}
          <InlineEdit
            label={`path of final URLs of ${name}`}
            shown={path || <span className="text-faint">the plan’s</span>}
            text={path}
            onKeep={kept(key, 'path', (typed) => readHeld('path', typed.trim()))}
          />
        </span>
      ),
    },
    figure('groups', 'Ad groups', ({ groups }) => groups),
    figure('keywords', 'Keywords', ({ keywords }) => keywords),
    figure('searches', 'Searches', ({ searches }) => searches),
  ];
}

const figure = (id: string, heading: string, of: (row: ShownCampaign) => number): Column => ({
  id,
  heading,
  width: 88,
  right: true,
  sortable: true,
  text: (row) => String(of(row)),
  cell: (row) => count(of(row)),
});
