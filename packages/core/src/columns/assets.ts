import { type AssetBody, type AssetKind, assetKinds } from '../write/index.ts';
import { column } from './column.ts';

const emptyAsset = (kind: AssetKind): AssetBody => {
  if (kind === 'callout') return { kind, text: '' };
  return kind === 'phone' ? { kind, number: '' } : { kind, text: '', line1: '', line2: '', address: '' };
};

/** It is read before the asset's other columns: what they mean hangs on it. */
export const assetKind = column({
  value: 'asset-kind',
  words: 'Kind of asset',
  heading: 'Asset',
  kinds: ['asset'],
  merge: 'name',
  write:
    ({ rules }) =>
    (row) =>
      rules.words.assetKinds[row.asset.kind],
  read:
    ({ rules }) =>
    (row, cell) => {
      const word = cell.text.trim();
      const own = rules.words.assetKinds;
      const kind = assetKinds.find((one) => own[one].toLowerCase() === word.toLowerCase());
      if (!kind) cell.say('asset-kind', word);
      row.asset = emptyAsset(kind ?? 'callout');
    },
});

/** A text of assets that have it. */
const assetText = <const Value extends string>(
  value: Value,
  field: 'text' | 'line1' | 'line2' | 'number',
  words: string,
  heading: string,
) =>
  column({
    value,
    words,
    heading,
    kinds: ['asset'],
    merge: 'said',
    write:
      () =>
      ({ asset }) =>
        field in asset ? String(asset[field as keyof AssetBody]) : '',
    read: () => (row, cell) => {
      if (field in row.asset) row.asset = { ...row.asset, [field]: cell.text };
    },
  });
export const assetLine = assetText('asset-text', 'text', 'Text of the asset', 'Text');
export const assetLine1 = assetText('asset-line1', 'line1', 'First line of the asset', 'Line 1');
export const assetLine2 = assetText('asset-line2', 'line2', 'Second line of the asset', 'Line 2');
export const assetNumber = assetText('asset-number', 'number', 'Phone number', 'Phone number');
