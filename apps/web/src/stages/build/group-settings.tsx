import type { GroupRow } from '@sprig/contracts';
import { readHeld } from '../../kit/read-held.ts';
import type { TableColumn } from '../../kit/table/column.ts';
import type { useHolds } from '../../plan/use-holds.ts';
import { SelectCell } from './SelectCell.tsx';

export const groupSettings = ['matching', 'rotation'] as const;
export type GroupSetting = (typeof groupSettings)[number];

export const MATCHINGS: { value: GroupRow['matching']; words: string }[] = [
  { value: '', words: 'as its campaign' },
  { value: 'close', words: 'close' },
  { value: 'wide', words: 'wide' },
];
export const ROTATIONS: { value: GroupRow['rotation']; words: string }[] = [
  { value: '', words: 'as its campaign' },
  { value: 'best', words: 'best ads more often' },
  { value: 'even', words: 'all ads alike' },
];
const CHOICES: Record<GroupSetting, { value: string; words: string }[]> = {
  matching: MATCHINGS,
  rotation: ROTATIONS,
};
const HEADINGS: Record<GroupSetting, [heading: string, hint: string]> = {
  matching: [
    'Matching',
    'At outlets that match by ad group: close or wide, else as its campaign is set or its keywords ask',
  ],
  rotation: [
    'Rotation',
    'How its ads take turns, where the outlet lets an ad group differ from its campaign',
  ],
};

/** What an ad group differs in from its campaign, as a column; by its code or by its words. */
export const groupSettingColumn = (
  id: GroupSetting,
  hold: ReturnType<typeof useHolds>['hold'],
): TableColumn<GroupRow> => ({
  id,
  heading: HEADINGS[id][0],
  hint: HEADINGS[id][1],
  width: 150,
  text: (row) => row[id],
  read: (typed) => {
    const said = typed.trim().toLowerCase();
    return readHeld(id, CHOICES[id].find(({ words }) => words === said)?.value ?? said);
  },
  cell: (row) => (
    <SelectCell
      label={`${HEADINGS[id][0]} of ${row.name}`}
      value={row[id]}
      choices={CHOICES[id]}
      onChoose={(value) => void hold(row.key, id, value)}
    />
  ),
});
