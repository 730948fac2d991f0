import type { Receipt } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { readStart } from './read-file.ts';

const SAMPLE_ROWS = 40;

/** The beginning of a written sheet, cell by cell, as the engine will read it. */
export function SheetSample({
  urlOfFile,
  receipt,
}: {
  urlOfFile: (file: string) => string;
  receipt: Receipt;
}) {
  const names = receipt.files.filter(({ rows }) => rows > 0).map(({ name }) => name);
  const [chosen, setChosen] = useState<string | null>(null);
  const usual =
    receipt.files.find(({ kind, rows }) => kind === 'keywords' && rows > 0)?.name ?? names[0] ?? '';
  const name = chosen !== null && names.includes(chosen) ? chosen : usual;
  const { data: rows, error } = useQuery({
    queryKey: ['sheet-sample', receipt.id, name],
    queryFn: () => readStart(urlOfFile(name), name, SAMPLE_ROWS),
    enabled: name !== '' && receipt.format !== 'xlsx',
    retry: false,
  });
  if (receipt.format === 'xlsx' || names.length === 0) return null;
  return (
    <section aria-label="The sheet as it will be read">
      <h4 className="mb-1 flex items-center gap-2 font-semibold">
        As it will be read:
        <select
          className="plain-field chip cursor-pointer"
          aria-label="Sheet to look at"
          value={name}
          onChange={(event) => setChosen(event.target.value)}
        >
          {names.map((one) => (
            <option key={one}>{one}</option>
          ))}
        </select>
      </h4>
      {error && <p className="text-[12.5px] text-faint">The sheets of this receipt are not kept any more.</p>}
      <CellTable rows={rows ?? []} />
    </section>
  );
}

/** Cells under their headings; a wide sheet scrolls inside. */
export function CellTable({ rows }: { rows: readonly (readonly string[])[] }) {
  return (
    <div className="max-h-[380px] overflow-auto border-hair border-y" tabIndex={0}>
      <table className="text-[12.5px]">
        <thead className="sticky top-0 bg-base-100 text-faint">
          <tr>
            {rows[0]?.map((heading) => (
              <th key={heading} className="whitespace-nowrap py-1 pr-4 text-left font-normal">
                {heading}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.slice(1).map((row, at) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: a row is its place in the sheet
            <tr key={at} className="border-base-200 border-t">
              {row.map((cell, place) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: a cell is its place
                <td key={place} className="max-w-64 truncate py-0.5 pr-4">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
