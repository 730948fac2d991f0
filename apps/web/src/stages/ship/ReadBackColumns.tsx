import type { ReadBack } from '@sprig/contracts';
import { type CellValue, cellValues } from '@sprig/core/outlets';
import { useMemo } from 'react';
import { counted } from '../../kit/format.ts';
import { valueWords } from './ship-words.ts';

type Props = {
  readBack: ReadBack;
  busy: boolean;
  onColumns: (columns: Record<string, CellValue | null>) => void;
};

/** Columns of which nothing is taken, since the outlet's profile does not name them. */
export function UnknownColumns({ readBack }: { readBack: ReadBack }) {
  const unknown = readBack.files.flatMap(({ name, columns }) => {
    const headings = columns.flatMap(({ heading, value }) =>
      value === null ? [heading || '(no heading)'] : [],
    );
    return headings.length > 0 ? [{ name, headings }] : [];
  });
  if (unknown.length === 0) return null;
  const many = unknown.reduce((sum, { headings }) => sum + headings.length, 0);
  return (
    <section aria-label="Columns that are not read" className="mt-4 text-[12.5px]">
      <h3 className="font-semibold text-warning">{counted(many, 'column')} not read</h3>
      <ul className="mt-1">
        {unknown.map(({ name, headings }) => (
          <li key={name} className="py-0.5">
            <span className="text-faint">{name}:</span> {headings.join(', ')}
          </li>
        ))}
      </ul>
      <p className="text-faint">
        The outlet’s profile has no such columns. Add them there, or read the sheets by their columns.
      </p>
    </section>
  );
}

/** What each column was taken for; another choice reads the sheets anew. */
export function ReadBackColumns({ readBack, busy, onColumns }: Props) {
  const columns = useMemo(() => {
    const all = new Map<string, CellValue | null>();
    for (const { columns: own } of readBack.files)
      for (const { heading, value } of own) if (!all.has(heading)) all.set(heading, value);
    return all;
  }, [readBack]);
  return (
    <section aria-label="Columns" className="mt-4 text-[12.5px]">
      <h3 className="font-semibold">What the columns are taken for</h3>
      <ul className="mt-1 flex flex-col gap-0.5">
        {[...columns].map(([heading, value]) => (
          <li key={heading} className="flex items-center gap-2">
            <span className="w-36 truncate" title={heading}>
              {heading || '(no heading)'}
            </span>
            <select
              className={`plain-field chip min-w-0 flex-1 cursor-pointer ${value === null ? 'text-faint' : ''}`}
              aria-label={`Column ${heading}`}
              disabled={busy}
              value={value ?? ''}
              onChange={({ target }) =>
                onColumns({
                  ...Object.fromEntries(columns),
                  [heading]: target.value === '' ? null : (target.value as CellValue),
                })
              }
            >
              <option value="">nothing that a plan has</option>
              {cellValues
                .filter((one) => one !== 'fixed')
                .map((one) => (
                  <option key={one} value={one}>
                    {valueWords(one)}
                  </option>
                ))}
            </select>
          </li>
        ))}
      </ul>
    </section>
  );
}
