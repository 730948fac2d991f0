import { readRecords } from '@sprig/core/gather';
import { linesOf } from '@sprig/core/text';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { send } from '../../api/call.ts';
import type { Shipped } from './SheetSet.tsx';

/** Enough of a sheet to read its beginning. */
const SAMPLE_BYTES = 24_000;
const SAMPLE_ROWS = 40;

/** The beginning of a written sheet, cell by cell, as the engine will read it. */
export function SheetSample({ plan, shipped }: { plan: number; shipped: Shipped }) {
  const names = shipped.files.map(({ name }) => name);
  const [chosen, setChosen] = useState<string | null>(null);
  const name =
    chosen !== null && names.includes(chosen)
      ? chosen
      : (names.find((one) => one.startsWith('keywords')) ?? names[0] ?? '');
  const { data: rows } = useQuery({
    queryKey: ['sheet-sample', shipped.sheetSet, name],
    queryFn: () =>
      readStart(`/api/plans/${plan}/sheet-sets/${shipped.sheetSet}/files/${encodeURIComponent(name)}`, name),
    enabled: name !== '',
  });
  return (
    <section aria-label="The sheet as it will be read" className="mt-5">
      <h2 className="mb-1 flex items-center gap-2 font-semibold">
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
      </h2>
      {/* A wide sheet scrolls inside, so that the findings stay where they are. */}
      <div className="max-h-[440px] overflow-auto border-hair border-y" tabIndex={0}>
        <table className="text-[12.5px]">
          <thead className="sticky top-0 bg-base-100 text-faint">
            <tr>
              {rows?.[0]?.map((heading) => (
                <th key={heading} className="whitespace-nowrap py-1 pr-4 text-left font-normal">
                  {heading}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {rows?.slice(1).map((row, at) => (
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
    </section>
  );
}

async function readStart(address: string, name: string): Promise<string[][]> {
  const answer = await send(address);
  const reader = answer.body?.getReader();
  const decoder = new TextDecoder();
  let text = '';
  let whole = false;
  while (reader && !whole && text.length < SAMPLE_BYTES) {
    const { done, value } = await reader.read();
    whole = done;
    text += decoder.decode(value, { stream: !done });
  }
  if (!whole) await reader?.cancel();
  const lines = linesOf(text);
  // The last line may be cut short.
  const { records } = readRecords(whole ? lines : lines.slice(0, -1), name.endsWith('.tsv') ? '\t' : ',', 0);
  return records.slice(0, SAMPLE_ROWS + 1).map(({ fields }) => fields);
}
