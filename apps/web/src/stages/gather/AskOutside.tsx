import { useState } from 'react';
import { toast } from 'sonner';
import { Help } from '../../frame/Help.tsx';
import { copyCells } from '../../kit/clipboard.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted } from '../../kit/format.ts';
import { saveText } from '../../kit/save-text.ts';
import { type usePool, useWorked } from '../../pool/use-pool.ts';

const SIZES = [100, 500, 700, 1_000, 2_500, 10_000];

/** Keywords that nobody told a figure of, in parts, to be put to whatever tells figures. */
export function AskOutside({ pool, onClose }: { pool: ReturnType<typeof usePool>; onClose: () => void }) {
  const [size, setSize] = useState(700);
  const { data: texts = [] } = useWorked(() => pool.worker.untold(), `untold ${pool.figures}`);
  const parts = Math.ceil(texts.length / size);
  const part = (at: number) => texts.slice(at * size, (at + 1) * size);
  const copy = async (at: number) => {
    try {
      await copyCells(part(at).map((text) => [text]));
      toast(`Copied ${counted(part(at).length, 'keyword')}.`);
    } catch {
      toast.error('The browser did not let it be copied. Save it as a file instead.');
    }
  };
  const save = (at: number) => saveText(`keywords-${at + 1}.txt`, part(at).join('\r\n'));
  return (
    <Dialog title="Ask outside for figures" onClose={onClose}>
      <p>
        {counted(texts.length, 'keyword')} that are in have no searches by hand or told, in parts of{' '}
        <select
          aria-label="Keywords to a part"
          className="select select-sm w-24"
          value={size}
          onChange={({ target }) => setSize(Number(target.value))}
        >
          {SIZES.map((one) => (
            <option key={one} value={one}>
              {count(one)}
            </option>
          ))}
        </select>
        .
      </p>
      <ul className="my-3 flex max-h-72 flex-col gap-1 overflow-auto">
        {Array.from({ length: parts }, (_, at) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: parts are told by their number
          <li key={at} className="flex items-center gap-2">
            <span className="w-40">
              {count(at * size + 1)} to {count(at * size + part(at).length)}
            </span>
            <button type="button" className="btn btn-xs" onClick={() => void copy(at)}>
              Copy {counted(part(at).length, 'keyword')}
            </button>
            <button type="button" className="btn btn-ghost btn-xs" onClick={() => save(at)}>
              Save as a file
            </button>
          </li>
        ))}
      </ul>
      <Help>
        Paste what comes back here, or drop it as a file, and tick “only fill the figures of keywords that are
        here”.
      </Help>
    </Dialog>
  );
}
