import { Plus } from 'lucide-react';
import { count, counted, short } from '../../kit/format.ts';
import type { SiftAnswer } from '../../pool/sorting.ts';

const whyWords: Record<SiftAnswer['forms'][number]['why'], string> = {
  slip: 'Likely a slip',
  joined: 'Written together or apart',
  number: 'Another number',
};

type Props = {
  answer: SiftAnswer;
  where: string;
  /** Keywords that are out can be looked at and selected, but are in no theme. */
  canSave: boolean;
  /** Adds a condition with this word. */
  onNarrow: (word: string) => void;
  /** Adds a form beside the term that is being typed, or was typed last. */
  onForm: (term: string) => void;
  onSave: () => void;
  onSelect: () => void;
  onClear: () => void;
};

/** What the sentence picks, as one types: how much, the next words to narrow by, other forms of what is typed. */
export function SiftAnswerLine({
  answer,
  where,
  canSave,
  onNarrow,
  onForm,
  onSave,
  onSelect,
  onClear,
}: Props) {
  const { keywords, searches, others, forms } = answer;
  const offered = forms.filter(({ included }) => !included);
  return (
    <div className="flex min-h-[30px] flex-wrap items-center gap-x-2 gap-y-1 text-[12.5px]">
      <span role="status" data-sift-count>
        <b>{counted(keywords, 'keyword')}</b>{' '}
        <span className="text-faint">
          of {where}, {short(searches)} searches
        </span>
      </span>
      {offered.length > 0 && (
        <span className="inline-flex flex-wrap items-center gap-1">
          <span className="text-faint">also in the pool:</span>
          {offered.map(({ term, why, keywords: more }) => (
            <button
              key={term}
              type="button"
              className="rounded border border-hair border-dashed px-1.5 hover:bg-wash"
              title={`${whyWords[why]}: ${counted(more, 'keyword')}`}
              onClick={() => onForm(term)}
            >
              {term} <span className="text-faint">{count(more)}</span>
            </button>
          ))}
        </span>
      )}
      {others.length > 0 && (
        <span className="inline-flex min-w-0 flex-wrap items-center gap-1">
          <span className="text-faint">beside:</span>
          {others.map(({ text, keywords: more }) => (
            <button
              key={text}
              type="button"
              className="inline-flex items-center gap-0.5 rounded bg-base-200 px-1.5 hover:bg-wash"
              title={`and has ${text}: ${counted(more, 'keyword')}`}
              onClick={() => onNarrow(text)}
            >
              <Plus size={11} aria-hidden className="text-faint" />
              {text} <span className="text-faint">{count(more)}</span>
            </button>
          ))}
        </span>
      )}
      <span className="ml-auto flex items-center gap-1.5">
        <button type="button" className="btn btn-ghost btn-xs" onClick={onClear}>
          Clear
        </button>
        <button type="button" className="btn btn-xs" disabled={keywords === 0} onClick={onSelect}>
          Select
        </button>
        <button
          type="button"
          className="btn btn-primary btn-xs"
          disabled={keywords === 0 || !canSave}
          onClick={onSave}
        >
          Save as theme
        </button>
      </span>
    </div>
  );
}
