import type { Sift } from '@sprig/core/sort';
import { X } from 'lucide-react';
import { type KeyboardEvent, type ReactNode, useId } from 'react';
import { useExamples } from '../../pool/use-examples.ts';
import { addTerm, removeTerm, type Slot, type Typing, termsIn, typingProblem } from './sift-edits.ts';
import { siftProblemWords } from './sort-words.ts';

type Props = {
  sift: Sift;
  typing: Typing;
  onSift: (sift: Sift) => void;
  onTyping: (typing: Typing) => void;
  /** Enter in an empty field: the sentence is done. */
  onDone: () => void;
  /** What narrows it besides words. */
  more: ReactNode;
};

/** The sift as a sentence: each *has* and *but not* holds terms as chips, and a place to type the next. */
export function SiftSentence({ sift, typing, onSift, onTyping, onDone, more }: Props) {
  const examples = useExamples();
  const slots: Slot[] = [...sift.has.keys(), sift.has.length, 'not'];
  const problem = typingProblem(typing);
  const id = useId();
  const commit = () => {
    if (!typing || problem || typing.text.trim() === '') return;
    onSift(addTerm(sift, typing.slot, typing.text));
    onTyping({ slot: typing.slot, text: '' });
  };
  const onKey = (event: KeyboardEvent<HTMLInputElement>, slot: Slot) => {
    const text = typing?.slot === slot ? typing.text : '';
    if (event.key === 'Enter' && text.trim() === '') onDone();
    else if (event.key === 'Enter' || event.key === ',') commit();
    else if (event.key === 'Tab' && text.trim() !== '') commit();
    else if (event.key === 'Backspace' && text === '') {
      const last = termsIn(sift, slot).at(-1);
      if (last !== undefined) onSift(removeTerm(sift, slot, last));
    } else if (event.key === 'Escape') {
      onTyping(null);
      event.currentTarget.blur();
    } else return;
    if (event.key !== 'Tab') event.preventDefault();
    event.stopPropagation();
  };
  return (
    <div className="flex min-w-0 flex-wrap items-center gap-x-1.5 gap-y-1" role="group" aria-label="Sift">
      {slots.map((slot) => {
        const terms = termsIn(sift, slot);
        const isTyping = typing?.slot === slot;
        const has = slot === 0 ? 'has' : 'and has';
        const lead = slot === 'not' ? 'but not' : has;
        return (
          <span key={slot} className="inline-flex flex-wrap items-center gap-1">
            <span className={terms.length > 0 || slot === 0 ? '' : 'text-faint'}>{lead}</span>
            <span
              className={`inline-flex flex-wrap items-center gap-1 rounded-md px-1 ${terms.length > 0 || isTyping ? 'bg-wash' : 'bg-base-200'}`}
            >
              {terms.map((term, at) => (
                <span key={term} className="inline-flex items-center font-medium">
                  {at > 0 && <span className="px-1 font-normal text-faint">/</span>}
                  {term}
                  <button
                    type="button"
                    tabIndex={-1}
                    className="ml-0.5 rounded text-faint hover:text-error"
                    aria-label={`Take ${term} out`}
                    onClick={() => onSift(removeTerm(sift, slot, term))}
                  >
                    <X size={12} />
                  </button>
                </span>
              ))}
              <input
                aria-label={`${lead}: another term`}
                aria-invalid={isTyping && problem !== null}
                aria-describedby={isTyping && problem ? id : undefined}
                data-filter={slot === 0 || undefined}
                data-sift={slot}
                className="plain-field h-[26px] px-1 placeholder:text-faint"
                style={{
                  width: `${Math.max(slot === 0 && terms.length === 0 ? 26 : 7, (isTyping ? typing.text.length : 0) + 2)}ch`,
                }}
                placeholder={
                  slot === 0 && terms.length === 0
                    ? `${examples.word}, "${examples.keyword}", ${examples.other.slice(0, 4)}*`
                    : '+ term'
                }
                value={isTyping ? typing.text : ''}
                onFocus={() => typing?.slot !== slot && onTyping({ slot, text: '' })}
                onBlur={commit}
                onChange={(event) => onTyping({ slot, text: event.target.value })}
                onKeyDown={(event) => onKey(event, slot)}
              />
            </span>
          </span>
        );
      })}
      {more}
      {problem && (
        <span id={id} role="alert" className="text-[12.5px] text-error">
          {siftProblemWords(problem)}
        </span>
      )}
    </div>
  );
}
