import type { PlacedNegativeRow } from '@sprig/contracts';
import { negativeTypeOf, readNotation, writeNegative } from '@sprig/core/match';
import { linesOf } from '@sprig/core/text';
import { X } from 'lucide-react';
import { useState } from 'react';
import { counted } from '../../kit/format.ts';
import { Refused } from '../../kit/Refused.tsx';
import { useEntry } from '../../kit/use-entry.ts';
import { useExamples } from '../../pool/use-examples.ts';
import type { BuildActions } from './use-build.ts';

type Props = {
  /** The key of the campaign or ad group that they are of. */
  place: string;
  negatives: readonly PlacedNegativeRow[];
  /** How many more hold from above. */
  above: string;
  actions: BuildActions;
};

/** The negatives of one campaign or ad group: typed or pasted in notation, taken away one by one. */
export function NegativesPart({ place, negatives, above, actions }: Props) {
  const examples = useExamples();
  const [words, setWords] = useState<string | null>(null);
  const entry = useEntry(async (text) => {
    const read = readNegatives(text);
    return 'negatives' in read && Boolean(await actions.addNegatives([place], read.negatives));
  });
  const { typed } = entry;
  const add = async () => {
    const read = readNegatives(typed);
    if ('words' in read) return setWords(read.words);
    if (read.negatives.length > 0) await entry.send(typed);
  };
  return (
    <section aria-label="Negatives">
      <h3 className="font-semibold text-[13px]">
        Negatives <span className="font-normal text-faint">{above}</span>
      </h3>
      <p className="flex flex-wrap gap-1 py-1">
        {negatives.map(({ id, text, type }) => (
          <span key={id} className="inline-flex items-center rounded bg-base-200 pl-1.5 text-[12.5px]">
            {writeNegative(text, type)}
            <button
              type="button"
              className="btn btn-ghost btn-square btn-xs"
              aria-label={`Remove the negative ${text}`}
              onClick={() => void actions.removeNegatives([id])}
            >
              <X size={12} />
            </button>
          </span>
        ))}
      </p>
      <form
        className="flex gap-1"
        onSubmit={(event) => {
          event.preventDefault();
          void add();
        }}
      >
        <textarea
          rows={1}
          aria-label="Add negatives"
          aria-invalid={words !== null}
          className={`textarea textarea-xs min-h-7 flex-1 resize-y text-[12.5px] ${words ? 'textarea-error' : ''}`}
          placeholder={`free, "how to make", [used ${examples.word}]`}
          value={typed}
          onChange={({ target }) => {
            entry.type(target.value);
            setWords(null);
          }}
          onKeyDown={(event) => {
            event.stopPropagation();
            if (event.key !== 'Enter' || event.shiftKey) return;
            event.preventDefault();
            void add();
          }}
        />
        <button type="submit" className="btn btn-xs h-7" disabled={typed.trim() === ''}>
          Add
        </button>
      </form>
      <Refused entry={entry} />
      {words && (
        <p role="alert" className="text-[12px] text-error">
          {words}
        </p>
      )}
    </section>
  );
}

type Read = { negatives: { text: string; type: 'broad' | 'phrase' | 'exact' }[] } | { words: string };

/** Negatives in notation, one to a line or with commas between; with or without a leading hyphen. */
export function readNegatives(typed: string): Read {
  const entries = linesOf(typed)
    .flatMap((line) => line.split(','))
    .map((entry) => entry.trim())
    .filter((entry) => entry !== '');
  const negatives: { text: string; type: 'broad' | 'phrase' | 'exact' }[] = [];
  for (const entry of entries) {
    const read = readNotation(entry);
    if (read.status === 'problem')
      return {
        words: `“${entry}” can’t be read as a keyword (column ${read.at}). Write it like "free plans" or [jobs].`,
      };
    negatives.push({ text: read.text, type: negativeTypeOf(read.type) });
  }
  return { negatives };
}

export const aboveWords = (campaign: number, plan: number): string => {
  const parts = [
    campaign > 0 ? `${counted(campaign, 'more').replace(' mores', ' more')} of the campaign` : '',
    plan > 0 ? `${plan.toLocaleString('en')} of the plan and its lists` : '',
  ].filter((part) => part !== '');
  return parts.length === 0 ? '' : `and ${parts.join(', ')}`;
};
