import { useMemo } from 'react';
import { counted } from '../../kit/format.ts';

/** From here on a text field takes too long to lay out: 10,000 lines cost a second at every change. */
const LONG_LINES = 1_500;
const SHOWN_LINES = 300;

export function isLong(text: string): boolean {
  let lines = 1;
  for (let at = text.indexOf('\n'); at >= 0; at = text.indexOf('\n', at + 1))
    if (++lines > LONG_LINES) return true;
  return false;
}

/** A pasted list too long to be edited as text: its beginning to read. Lines with errors are mended in the source. */
export function LongList({ text, onClear }: { text: string; onClear: () => void }) {
  const { shown, total } = useMemo(() => {
    const lines = text.split('\n');
    return { shown: lines.slice(0, SHOWN_LINES).join('\n'), total: lines.length };
  }, [text]);
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <p className="flex items-center justify-between border-hair border-b px-4 py-2">
        <span>
          {counted(total, 'line')} pasted; the first {SHOWN_LINES} of them
        </span>
        <button type="button" className="btn btn-ghost btn-xs" onClick={onClear}>
          Start over
        </button>
      </p>
      {/* A list that scrolls has to be reachable by keyboard. */}
      <section
        className="min-h-0 flex-1 overflow-auto p-4"
        tabIndex={0}
        aria-label="The beginning of the list"
      >
        <pre className="font-sans leading-[22px] [tab-size:20]">{shown}</pre>
      </section>
    </div>
  );
}
