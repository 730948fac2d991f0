import { type ExtraBody, type ExtraKind, extraKinds } from '../write/index.ts';
import { column } from './column.ts';

const emptyExtra = (kind: ExtraKind): ExtraBody => {
  if (kind === 'callout') return { kind, text: '' };
  return kind === 'phone' ? { kind, number: '' } : { kind, text: '', line1: '', line2: '', address: '' };
};

/** It is read before the extra's other columns: what they mean hangs on it. */
export const extraKind = column({
  value: 'extra-kind',
  words: 'Kind of extra',
  heading: 'Extra',
  former: 'Asset',
  known: ['asset'],
  kinds: ['extra'],
  merge: 'name',
  write:
    ({ rules }) =>
    (row) =>
      rules.words.extraKinds[row.extra.kind],
  read:
    ({ rules }) =>
    (row, cell) => {
      const word = cell.text.trim();
      const own = rules.words.extraKinds;
      const kind = extraKinds.find((one) => own[one].toLowerCase() === word.toLowerCase());
      if (!kind) cell.say('extra-kind', word);
      row.extra = emptyExtra(kind ?? 'callout');
    },
});

/** A text of extras that have it. */
const extraText = <const Value extends string>(
  value: Value,
  field: 'text' | 'line1' | 'line2' | 'number',
  words: string,
  heading: string,
) =>
  column({
    value,
    words,
    heading,
    kinds: ['extra'],
    merge: 'said',
    write:
      () =>
      ({ extra }) =>
        field in extra ? String(extra[field as keyof ExtraBody]) : '',
    read: () => (row, cell) => {
      if (field in row.extra) row.extra = { ...row.extra, [field]: cell.text };
    },
  });
export const extraLine = extraText('extra-text', 'text', 'Text of the extra', 'Text');
export const extraLine1 = extraText('extra-line1', 'line1', 'First line of the extra', 'Line 1');
export const extraLine2 = extraText('extra-line2', 'line2', 'Second line of the extra', 'Line 2');
export const extraNumber = extraText('extra-number', 'number', 'Phone number', 'Phone number');
