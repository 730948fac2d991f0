import type { SharedList } from '@sprig/contracts';
import { type NegativeType, negativeTypes } from '@sprig/core/match';
import { ChoiceChip } from '../../kit/chips.tsx';
import { count, counted, short } from '../../kit/format.ts';

type BarProps = {
  kind: 'words' | 'pairs';
  order: 'searches' | 'keywords';
  undecided: number;
  /** Of searches, from 0 to 1. */
  share: number;
  onAddress: (change: Record<string, string>) => void;
};

/** Which words are judged, in which order, and how far it is. */
export const BalanceBar = ({ kind, order, undecided, share, onAddress }: BarProps) => (
  <div className="flex h-10 shrink-0 items-center gap-2 px-4">
    <fieldset className="join" aria-label="Words or pairs">
      {(['words', 'pairs'] as const).map((one) => (
        <button
          key={one}
          type="button"
          aria-pressed={kind === one}
          className={`btn join-item btn-sm font-normal ${kind === one ? 'btn-active' : ''}`}
          onClick={() => onAddress({ by: one === 'words' ? '' : one })}
        >
          {one === 'words' ? 'Single words' : 'Two-word runs'}
        </button>
      ))}
    </fieldset>
    <span className="text-faint">{counted(undecided, kind === 'words' ? 'word' : 'run')} undecided,</span>
    <ChoiceChip
      label="Which come first"
      value={order}
      choices={[
        { value: 'searches', words: 'the most searched first' },
        { value: 'keywords', words: 'in most keywords first' },
      ]}
      onChoose={(chosen) => onAddress({ first: chosen === 'searches' ? '' : chosen })}
    />
    <span className="ml-auto" role="status">
      <b>{Math.round(share * 100)}%</b> <span className="text-faint">of searches judged, word by word</span>
    </span>
  </div>
);

type BlockProps = {
  type: NegativeType;
  onType: (type: NegativeType) => void;
  /** `plan`, or `list:` and the number of a shared list. */
  place: string;
  onPlace: (place: string) => void;
  lists: readonly SharedList[];
  effect: { keywords: number; searches: number; held: number } | null;
};

/** How a word is blocked and where, and what that takes out. */
export const BlockAs = ({ type, onType, place, onPlace, lists, effect }: BlockProps) => (
  <p className="border-hair border-t px-4 py-1.5 text-[13.5px] leading-8">
    Block it as{' '}
    <ChoiceChip
      label="Match type of the block"
      value={type}
      choices={negativeTypes.map((value) => ({ value, words: value }))}
      onChoose={onType}
    />{' '}
    in{' '}
    <ChoiceChip
      label="Where it blocks"
      value={place}
      choices={[
        { value: 'plan', words: 'this plan' },
        ...lists.map(({ id, name }) => ({
          value: `list:${id}`,
          words: `the shared list ${name}`,
        })),
      ]}
      onChoose={onPlace}
    />
    {effect && (
      <span className="text-faint">
        : takes out {counted(effect.keywords, 'keyword')}, {short(effect.searches)} searches
        {effect.held > 0 && (
          <b className="text-warning">, {count(effect.held)} of them with something held</b>
        )}
      </span>
    )}
  </p>
);

type ContextProps = {
  word: string;
  context: {
    keywords: number;
    sample: readonly { id: number; text: string; searches: number | null }[];
  } | null;
};

/** The keywords that a word stands in. */
export const WordContext = ({ word, context }: ContextProps) => (
  <section
    aria-label={`Keywords with ${word}`}
    className="min-h-0 flex-1 overflow-auto border-hair border-t px-4 py-2"
    tabIndex={0}
  >
    <h3 className="mb-1 text-[12px] text-faint">
      {context ? counted(context.keywords, 'keyword') : '…'} with <b>{word}</b>, most searched first
    </h3>
    <ul className="columns-2 gap-8">
      {context?.sample.map(({ id, text, searches }) => (
        <li key={id} className="flex justify-between gap-3 border-base-200 border-b py-0.5">
          <span className="truncate">
            <InContext text={text} word={word} />
          </span>
          <span className="text-faint">{count(searches)}</span>
        </li>
      ))}
    </ul>
  </section>
);

function InContext({ text, word }: { text: string; word: string }) {
  const at = ` ${text.toLowerCase()} `.indexOf(` ${word} `);
  if (at < 0) return text;
  return (
    <>
      {text.slice(0, at)}
      <b>{text.slice(at, at + word.length)}</b>
      {text.slice(at + word.length)}
    </>
  );
}
