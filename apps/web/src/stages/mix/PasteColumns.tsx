import { type PastedList, readPastedColumns } from '@sprig/core/mix';
import { useMemo, useState } from 'react';
import { Help } from '../../frame/Help.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';

type Props = { onTake: (lists: PastedList[]) => void; onClose: () => void };

/** Columns of a spreadsheet, each a list of its own, shown before they are taken. */
export function PasteColumns({ onTake, onClose }: Props) {
  const [typed, setTyped] = useState('');
  const [hasHeaders, setHasHeaders] = useState(true);
  const lists = useMemo(
    () => (typed.trim() === '' ? [] : readPastedColumns(typed, hasHeaders)),
    [typed, hasHeaders],
  );
  return (
    <Dialog title="Paste columns of a spreadsheet" onClose={onClose} wide>
      <div className="flex flex-col gap-3">
        <textarea
          autoFocus
          aria-label="Columns of a spreadsheet"
          rows={7}
          className="textarea w-full leading-5"
          placeholder={'Goods\tColours\nmug\tred\nteapot\tblue'}
          spellCheck={false}
          value={typed}
          onChange={(event) => setTyped(event.target.value)}
        />
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="checkbox checkbox-xs"
            checked={hasHeaders}
            onChange={(event) => setHasHeaders(event.target.checked)}
          />
          The first line has the names of the lists
        </label>
        {lists.length > 0 ? (
          <ul className="grid grid-cols-4 gap-2" aria-label="Lists that it makes">
            {lists.map(({ name, text, lines }) => (
              <li key={name} className="rounded-md bg-base-200 p-2">
                <p className="flex justify-between gap-2 font-semibold">
                  <span className="truncate">{name}</span>
                  <span>{count(lines)}</span>
                </p>
                <p className="line-clamp-3 text-[12.5px] text-faint">
                  {text.split('\n').slice(0, 8).join(', ')}
                </p>
              </li>
            ))}
          </ul>
        ) : (
          <Help>
            Copy one or more columns, with their headings, and paste them here. Each becomes a list.
          </Help>
        )}
        <button
          type="button"
          className="btn btn-primary btn-sm self-start"
          disabled={lists.length === 0}
          onClick={() => onTake(lists)}
        >
          Make {counted(lists.length, 'list')}
        </button>
      </div>
    </Dialog>
  );
}
