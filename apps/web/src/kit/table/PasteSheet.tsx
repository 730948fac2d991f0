import { useState } from 'react';
import { Dialog } from '../Dialog.tsx';
import { counted } from '../format.ts';
import type { Placed } from './cells.ts';

const MOST_SHOWN = 100;
const SAMPLES = 8;

/** What of a paste can be put in, and each cell that can't be, before anything is. */
export function PasteSheet<Row>({
  placed,
  into,
  nameOf,
  onPut,
  onClose,
}: {
  placed: Placed<Row>;
  /** The table's name. */
  into: string;
  nameOf: (row: Row) => string;
  /** Puts in what can be; answers when it is done. */
  onPut: () => Promise<boolean>;
  onClose: () => void;
}) {
  const [isBusy, setBusy] = useState(false);
  const { puts, same, refused } = placed;
  const put = async () => {
    setBusy(true);
    if (await onPut()) onClose();
    else setBusy(false);
  };
  return (
    <Dialog title={`Paste into ${into}`} onClose={onClose}>
      <p>
        {puts.length > 0
          ? `${counted(puts.length, 'value')} will be put in.`
          : 'Nothing of this can be put in.'}
        {same > 0 && ` ${counted(same, 'cell')} ${same === 1 ? 'says' : 'say'} what is there already.`}
      </p>
      {puts.length > 0 && (
        <ul className="mt-1 mb-2 text-[13px]" aria-label="Before and after">
          {puts.slice(0, SAMPLES).map(({ row, column, heading, before, typed }) => (
            <li
              key={`${nameOf(row)} ${column} ${typed}`}
              className="flex justify-between gap-3 border-base-200 border-t py-0.5"
            >
              <span className="truncate">
                {nameOf(row)} <span className="text-faint">{heading}</span>
              </span>
              <span className="max-w-[50%] shrink-0 truncate">
                {before === '' ? 'none' : before} → {typed === '' ? 'none' : typed}
              </span>
            </li>
          ))}
          {puts.length > SAMPLES && (
            <li className="border-base-200 border-t py-0.5 text-faint">
              and {counted(puts.length - SAMPLES, 'more value')}
            </li>
          )}
        </ul>
      )}
      {refused.length > 0 && (
        <>
          <p className="mt-3 mb-1 text-error">{counted(refused.length, 'cell')} can’t be put in:</p>
          <table className="w-full text-[13px]">
            <thead className="text-faint">
              <tr>
                <th className="pr-3 text-left font-normal">Line</th>
                <th className="pr-3 text-left font-normal">Column</th>
                <th className="pr-3 text-left font-normal">Pasted</th>
                <th className="text-left font-normal">Why not</th>
              </tr>
            </thead>
            <tbody>
              {refused.slice(0, MOST_SHOWN).map(({ line, heading, typed, words }) => (
                <tr key={`${line} ${heading} ${typed}`} className="border-base-200 border-t align-top">
                  <td className="pr-3 py-0.5">{line}</td>
                  <td className="pr-3 py-0.5">{heading}</td>
                  <td className="max-w-40 truncate pr-3 py-0.5" title={typed}>
                    {typed}
                  </td>
                  <td className="py-0.5">{words}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {refused.length > MOST_SHOWN && (
            <p className="mt-1 text-faint">and {counted(refused.length - MOST_SHOWN, 'more cell')}.</p>
          )}
        </>
      )}
      <div className="mt-4 flex justify-end gap-2">
        <button type="button" className="btn btn-sm" onClick={onClose}>
          {puts.length > 0 ? 'Cancel' : 'Close'}
        </button>
        {puts.length > 0 && (
          <button
            type="button"
            // biome-ignore lint/a11y/noAutofocus: what the paste was for
            autoFocus
            className="btn btn-primary btn-sm"
            disabled={isBusy}
            onClick={() => void put()}
          >
            Put {counted(puts.length, 'value')} in
          </button>
        )}
      </div>
    </Dialog>
  );
}
