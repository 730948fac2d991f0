import type { SheetFile, ShipResult } from '@sprig/contracts';
import { readRecords } from '@sprig/core/gather';
import type { SheetKind } from '@sprig/core/ship';
import { linesOf } from '@sprig/core/text';
import { Copy, Download, FolderDown } from 'lucide-react';
import { toast } from 'sonner';
import { send, wordsOf } from '../../api/call.ts';
import { copyCells } from '../../kit/clipboard.ts';
import { bytes, count, counted, time } from '../../kit/format.ts';

export type Shipped = ShipResult & { at: string };

/** More than this is no longer something one pastes. */
const MOST_COPIED_BYTES = 30_000_000;

/** The sheets that were written: fetched one by one, all in a zip, or copied. */
export function SheetSet({
  plan,
  shipped,
  sheetWords,
  stale,
}: {
  plan: number;
  shipped: Shipped;
  sheetWords: Record<SheetKind, string>;
  stale: boolean;
}) {
  const base = `/api/plans/${plan}/sheet-sets/${shipped.sheetSet}`;
  const copy = async ({ name, rows }: SheetFile) => {
    try {
      const answer = await send(`${base}/files/${encodeURIComponent(name)}`);
      const { records } = readRecords(linesOf(await answer.text()), name.endsWith('.tsv') ? '\t' : ',', 0);
      await copyCells(records.map(({ fields }) => fields));
      toast(`Copied ${counted(rows, 'row')} with headings.`);
    } catch (error) {
      toast.error(wordsOf(error));
    }
  };
  return (
    <div className="mt-5">
      <div className="mb-1 flex items-center justify-between">
        <h3 className="font-semibold">Written {time(shipped.at)}</h3>
        <a className="btn btn-sm" href={`${base}/zip`} download>
          <FolderDown size={15} aria-hidden /> Download all as a zip
        </a>
      </div>
      {stale && (
        <p className="mb-1 text-warning">
          The plan has changed since. Write the sheets again to ship what stands now.
        </p>
      )}
      <ul className="divide-y divide-base-300 border-hair border-y">
        {shipped.files.map((file) => (
          <li key={file.name} className="grid grid-cols-[1fr_90px_70px_auto] items-center gap-2 py-1">
            <span className="truncate" title={sheetWords[file.kind]}>
              {file.name}
            </span>
            <span className="text-right">{counted(file.rows, 'row')}</span>
            <span className="text-right text-faint">{bytes(file.bytes)}</span>
            <span className="flex gap-1">
              <button
                type="button"
                className="btn btn-ghost btn-xs"
                disabled={file.bytes > MOST_COPIED_BYTES}
                title={
                  file.bytes > MOST_COPIED_BYTES
                    ? `Over ${bytes(MOST_COPIED_BYTES)}: download it instead`
                    : 'Copy for a spreadsheet'
                }
                aria-label={`Copy ${file.name}`}
                onClick={() => void copy(file)}
              >
                <Copy size={13} aria-hidden /> Copy
              </button>
              <a
                className="btn btn-ghost btn-xs"
                href={`${base}/files/${encodeURIComponent(file.name)}`}
                download
                aria-label={`Download ${file.name}`}
              >
                <Download size={13} aria-hidden /> Download
              </a>
            </span>
          </li>
        ))}
      </ul>
      <p className="sr-only" role="status">
        {count(shipped.files.length)} sheets are ready
      </p>
    </div>
  );
}
