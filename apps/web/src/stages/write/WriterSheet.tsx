import type { AdText } from '@sprig/contracts';
import { adKeyOf } from '@sprig/core/ads';
import {
  type AdSheetReading,
  fieldsOf,
  limitsOf,
  type SheetAd,
  type SheetField,
  writerSheet,
} from '@sprig/core/write';
import { ClipboardCopy } from 'lucide-react';
import { useMemo, useState } from 'react';
import { toast } from 'sonner';
import { asTsv, copyCells } from '../../kit/clipboard.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';
import { fieldName } from './field-names.ts';
import { formOf, useMeasure } from './measure.tsx';
import type { Patterns, WritingState } from './use-writing.ts';

type Props = {
  writing: WritingState;
  onHold: (texts: [string, AdText, string][]) => Promise<unknown>;
  onClose: () => void;
};

const SHOWN = 12;
/** More rows than this go to the clipboard as plain text alone: a table of them takes the browser too long. */
const MOST_AS_TABLE = 5_000;

/** Groups with empty columns go out to a writer, and the filled sheet comes back as texts written by hand. */
export function WriterSheet({ writing, onHold, onClose }: Props) {
  const { document, pool, chosen } = writing;
  const [pattern, setPattern] = useState(chosen);
  const [reading, setReading] = useState<AdSheetReading | null>(null);
  const [busy, setBusy] = useState(false);
  const value = document.kept;
  const ads = useMemo(() => (value ? sheetAds(value) : []), [value]);
  const usual = ads.find((ad) => ad.pattern === pattern && ad.version === 'a') ?? ads[0];
  const form = value?.patterns[pattern]?.form ?? 'plain';
  const rules = formOf(useMeasure(), form);
  const limits = rules ? limitsOf(rules) : {};
  const fields: SheetField[] = [...fieldsOf(limits).slice(0, 12), 'finalUrl'];
  const copy = async () => {
    const groups = await pool.worker.allGroups();
    const cells = writerSheet(groups, fields);
    if (cells.length <= MOST_AS_TABLE) await copyCells(cells);
    else await navigator.clipboard.writeText(asTsv(cells));
    toast(`Copied ${counted(groups.length, 'ad group')} with empty columns. Paste them into a spreadsheet.`);
  };
  const read = async (text: string) => {
    if (!usual) return;
    setBusy(true);
    setReading(await pool.worker.readAdSheet(text, ads, usual, limits));
    setBusy(false);
  };
  const keep = async () => {
    if (!reading) return;
    setBusy(true);
    const done = await onHold(
      reading.texts.map(({ group, ad, field, text }) => [
        adKeyOf(group, ad.pattern, ad.version),
        field,
        text,
      ]),
    );
    setBusy(false);
    if (done !== null) onClose();
  };
  return (
    <Dialog title="A sheet for a writer, and back" onClose={onClose} wide>
      <p className="flex flex-wrap items-center gap-2">
        <b>1.</b> Every ad group once, with its keyword and empty columns for
        <select
          className="plain-field chip cursor-pointer"
          aria-label="Pattern to be written"
          value={pattern}
          onChange={({ target }) => {
            setPattern(Number(target.value));
            setReading(null);
          }}
        >
          {value?.order.map((id) => (
            <option key={id} value={id}>
              {value.patterns[id]?.name}
            </option>
          ))}
        </select>
        <button type="button" className="btn btn-sm" onClick={() => void copy()}>
          <ClipboardCopy size={14} aria-hidden /> Copy the empty sheet
        </button>
      </p>
      <p className="mt-4">
        <b>2.</b> The filled sheet, with its headings. What it says is written by hand on top of the pattern;
        empty cells change nothing.
      </p>
      <textarea
        aria-label="The filled sheet"
        className="textarea mt-1 h-24 w-full text-[13px]"
        placeholder={`Paste it here: Campaign, Ad group, ${fields.slice(0, 2).map(fieldName).join(', ')} …`}
        value={reading ? `${count(reading.rows)} rows were pasted. Paste again to read another sheet.` : ''}
        onChange={() => {}}
        onPaste={(event) => {
          event.preventDefault();
          void read(event.clipboardData.getData('text/plain'));
        }}
      />
      {busy && <p className="text-faint">Reading …</p>}
      {reading && (
        <div className="mt-2 flex flex-col gap-2" role="status">
          <p>
            <b>{counted(reading.texts.length, 'text')}</b> for{' '}
            {counted(new Set(reading.texts.map(({ group }) => group)).size, 'ad group')}
            {reading.tooLong > 0 && (
              <span className="text-error">
                , {count(reading.tooLong)} of them too long: they come in, and are shown as misfits
              </span>
            )}
            {reading.unknown.length > 0 && (
              <span className="text-faint">; left out: {reading.unknown.slice(0, 6).join(', ')}</span>
            )}
          </p>
          {reading.problems.length > 0 && (
            <ul className="max-h-28 overflow-auto text-[13px] text-error" role="alert">
              {reading.problems.slice(0, 100).map(({ line, words }, at) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a problem is its place
                <li key={at}>
                  Line {count(line)}: {words}
                </li>
              ))}
              {reading.problems.length > 100 && <li>and {count(reading.problems.length - 100)} more</li>}
            </ul>
          )}
          <table className="w-full text-[13px]" aria-label="What comes in">
            <tbody>
              {reading.texts.slice(0, SHOWN).map(({ group, ad, field, text }) => (
                <tr key={`${group}:${ad.name}:${field}`} className="border-base-200 border-t">
                  <td className="py-0.5 pr-2 text-faint">{fieldName(field)}</td>
                  <td>{text}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {reading.texts.length > SHOWN && (
            <p className="text-faint">and {count(reading.texts.length - SHOWN)} more</p>
          )}
        </div>
      )}
      <button
        type="button"
        className="btn btn-primary btn-sm mt-3"
        disabled={busy || !reading || reading.texts.length === 0}
        onClick={() => void keep()}
      >
        Write {counted(reading?.texts.length ?? 0, 'text')} by hand
      </button>
    </Dialog>
  );
}

/** The ads that a sheet may name: each pattern's, and the second version of a split test with `(b)`. */
function sheetAds({ order, patterns }: Patterns): SheetAd[] {
  return order.flatMap((id): SheetAd[] => {
    const body = patterns[id];
    if (!body) return [];
    const first: SheetAd = { pattern: id, version: 'a', name: body.name };
    return body.split.by === 'none'
      ? [first]
      : [first, { pattern: id, version: 'b', name: `${body.name} (b)` }];
  });
}
