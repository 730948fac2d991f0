import { Copy, Download } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { wordsOf } from '../../data/call.ts';
import { asTsv, copyCells } from '../../kit/clipboard.ts';
import { saveText } from '../../kit/save-text.ts';

type Props = {
  /** What its file is called, without its ending. */
  name: string;
  isEmpty: boolean;
  /** Its headings, and below them its rows. */
  cells: () => Promise<string[][]>;
};

/** A table as it stands, to be copied or downloaded. */
export function TableOut({ name, isEmpty, cells }: Props) {
  const [busy, setBusy] = useState(false);
  const run = async (out: (cells: string[][]) => Promise<void> | void) => {
    setBusy(true);
    try {
      await out(await cells());
    } catch (error) {
      toast.error(wordsOf(error));
    } finally {
      setBusy(false);
    }
  };
  return (
    <>
      <button
        type="button"
        className="btn btn-ghost btn-sm font-normal"
        disabled={busy || isEmpty}
        onClick={() => void run(async (own) => void (await copyCells(own)))}
      >
        <Copy size={14} aria-hidden /> Copy table
      </button>
      <button
        type="button"
        className="btn btn-ghost btn-sm font-normal"
        disabled={busy || isEmpty}
        onClick={() => void run((own) => saveText(`${name}.tsv`, asTsv(own), 'text/tab-separated-values'))}
      >
        <Download size={14} aria-hidden /> Download
      </button>
    </>
  );
}
