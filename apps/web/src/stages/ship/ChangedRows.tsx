import type { ChangedRow } from '@sprig/contracts';
import { useState } from 'react';
import { count } from '../../kit/format.ts';
import { changeWords, kindWords, valueWords } from './ship-words.ts';

const SHOWN = 6;
const changeClass: Record<ChangedRow['change'], string> = {
  removed: 'text-error',
  added: 'text-primary',
  changed: 'text-info',
};

/** The first of what changed, by row and field. */
export function ChangedRows({ rows, total }: { rows: readonly ChangedRow[]; total: number }) {
  const [all, setAll] = useState(false);
  if (rows.length === 0) return null;
  const shown = all ? rows : rows.slice(0, SHOWN);
  const more =
    rows.length < total ? `The first ${count(rows.length)} of ${count(total)}` : `All ${count(total)}`;
  return (
    <div>
      <ul className="max-h-60 overflow-auto text-[12.5px]" aria-label="What differs">
        {shown.map((row) => (
          <li
            key={`${row.kind}${row.campaign}${row.group}${row.text}${row.change}`}
            className="flex min-w-0 items-baseline gap-1.5 py-px"
          >
            <span className={`w-14 shrink-0 ${changeClass[row.change]}`}>{changeWords[row.change]}</span>
            <span className="min-w-0 flex-1 truncate" title={`${row.campaign} › ${row.group} › ${row.text}`}>
              {row.text} <span className="text-faint">{kindWords[row.kind]}</span>
            </span>
            {row.fields.slice(0, 1).map(({ value, before, after }) => (
              <span key={value} className="max-w-32 shrink-0 truncate" title={valueWords(value)}>
                <s className="text-faint">{before === '' ? 'none' : before}</s>{' '}
                {after === '' ? 'none' : after}
              </span>
            ))}
          </li>
        ))}
      </ul>
      {total > SHOWN && (
        <button
          type="button"
          className="btn btn-ghost btn-xs font-normal text-faint"
          aria-expanded={all}
          onClick={() => setAll(!all)}
        >
          {all ? 'Fewer' : more}
        </button>
      )}
    </div>
  );
}
