import { type ClipboardEvent, useState } from 'react';
import { Refused } from '../../kit/Refused.tsx';
import { useEntry } from '../../kit/use-entry.ts';

/** One more entry: Enter adds it, and a paste of many lines adds each. */
export type AddProps = {
  name: string;
  onAdd: (words: string[]) => Promise<string | null>;
  /** Words that would fit the list, asked for when one is about to add. */
  fitting: () => Promise<string[]>;
};

export function AddWord({ name, onAdd, fitting }: AddProps) {
  const [fits, setFits] = useState<string[]>([]);
  const entry = useEntry(async (text) => (await onAdd(linesIn(text))) === null);
  const onPaste = (event: ClipboardEvent) => {
    const pasted = event.clipboardData.getData('text/plain');
    if (linesIn(pasted).length < 2) return;
    event.preventDefault();
    void entry.send(pasted);
  };
  return (
    <>
      <input
        aria-label={`Add to ${name}`}
        className="plain-field w-20 min-w-16 flex-1 rounded px-1 leading-[20px] placeholder:text-faint focus:bg-base-100"
        placeholder="+ word"
        onFocus={() => void fitting().then(setFits, () => setFits([]))}
        value={entry.typed}
        onPaste={onPaste}
        onChange={(event) => entry.type(event.target.value)}
        onKeyDown={(event) => {
          event.stopPropagation();
          if (event.key === 'Enter' && entry.typed.trim() !== '') void entry.send(entry.typed);
          if (event.key === 'Escape') event.currentTarget.blur();
        }}
      />
      <Refused entry={entry} />
      {fits.length > 0 && (
        <span className="flex w-full flex-wrap items-center gap-1">
          <span className="text-faint">would fit:</span>
          {fits.slice(0, 8).map((word) => (
            <button
              key={word}
              type="button"
              className="rounded border border-hair border-dashed px-1 leading-[18px] hover:bg-wash"
              aria-label={`Add ${word} to ${name}`}
              onMouseDown={(event) => event.preventDefault()}
              onClick={() => {
                setFits((all) => all.filter((one) => one !== word));
                void onAdd([word]);
              }}
            >
              + {word}
            </button>
          ))}
        </span>
      )}
    </>
  );
}

const linesIn = (text: string): string[] =>
  text
    .split(/\r?\n/)
    .map((line) => line.trim())
    .filter(Boolean);
