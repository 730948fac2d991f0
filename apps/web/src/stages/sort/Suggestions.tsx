import type { Suggestion } from '@sprig/core/sort';
import { type KeyboardEvent, useEffect, useRef, useState } from 'react';
import { useOpenPlan } from '../../data/plan.ts';
import { count, counted, money, short } from '../../kit/format.ts';
import { share } from './sort-words.ts';

type Props = {
  suggestions: readonly Suggestion[] | undefined;
  busy: boolean;
  /** Where they come from, as words. */
  where: string;
  /** The suggestion whose inside is looked at. */
  inside: string | null;
  onTake: (suggestion: Suggestion, name: string) => void;
  onDismiss: (suggestion: Suggestion) => void;
  onLookInside: (suggestion: Suggestion) => void;
  onBack: () => void;
};

/** Themes that could be made, each with its reasons: taken, renamed, dismissed or looked into by single keys. */
export function Suggestions(props: Props) {
  const { suggestions = [], busy, where, inside, onTake, onDismiss, onLookInside, onBack } = props;
  const [at, setAt] = useState(0);
  const [naming, setNaming] = useState(false);
  const list = useRef<HTMLDivElement>(null);
  const place = Math.min(at, Math.max(0, suggestions.length - 1));
  const chosen = suggestions[place];
  useEffect(() => {
    list.current?.querySelector('[aria-selected=true]')?.scrollIntoView({ block: 'nearest' });
  });
  const onKey = (event: KeyboardEvent) => {
    if (event.target instanceof HTMLInputElement || event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'ArrowDown' || event.key === 'j') setAt(Math.min(place + 1, suggestions.length - 1));
    else if (event.key === 'ArrowUp' || event.key === 'k') setAt(Math.max(0, place - 1));
    else if ((event.key === 'Escape' || event.key === 'ArrowLeft') && inside !== null) onBack();
    else if (!chosen) return;
    else if (event.key === 't' || event.key === 'Enter') onTake(chosen, chosen.name);
    else if (event.key === 'r') setNaming(true);
    else if (event.key === 'd') onDismiss(chosen);
    else if ((event.key === 'i' || event.key === 'ArrowRight') && chosen.inside > 0) {
      setAt(0);
      onLookInside(chosen);
    } else return;
    event.preventDefault();
    event.stopPropagation();
  };
  return (
    <section
      aria-label="Suggestions"
      className="flex min-h-0 w-[360px] shrink-0 flex-col border-hair border-l"
    >
      <h2 className="flex h-9 shrink-0 items-center gap-1.5 px-3 text-[12.5px]">
        {inside === null ? (
          <b>Suggestions</b>
        ) : (
          <button type="button" className="btn btn-ghost btn-xs -ml-1" onClick={onBack}>
            ← {inside}
          </button>
        )}
        <span className="truncate text-faint">{busy ? 'working them out …' : where}</span>
        {chosen && (
          <span className="ml-auto flex shrink-0 gap-1 text-faint">
            <span
              className="key"
              title="t takes it, r takes it under another name, d dismisses it, i looks inside"
            >
              t r d i
            </span>
          </span>
        )}
      </h2>
      {suggestions.length === 0 ? (
        <p className="px-3 text-[12.5px] text-faint">
          {busy
            ? ''
            : 'Nothing here divides well. Sift for a word, or change how many keywords a group needs.'}
        </p>
      ) : (
        <div
          ref={list}
          role="listbox"
          aria-label="Suggested themes"
          aria-activedescendant={chosen ? `suggestion-${chosen.at}` : undefined}
          tabIndex={0}
          data-suggestions
          className="min-h-0 flex-1 overflow-y-auto"
          onKeyDown={onKey}
        >
          {suggestions.slice(0, 200).map((suggestion, index) => (
            <div
              key={suggestion.at}
              id={`suggestion-${suggestion.at}`}
              role="option"
              tabIndex={-1}
              aria-selected={index === place}
              className={`cursor-default border-base-200 border-b px-3 py-1 ${index === place ? 'bg-wash' : ''}`}
              onClick={() => {
                setAt(index);
                list.current?.focus();
              }}
              onDoubleClick={() => onTake(suggestion, suggestion.name)}
              onKeyDown={() => {}}
            >
              {naming && index === place ? (
                <input
                  // biome-ignore lint/a11y/noAutofocus: opened by the user's own key
                  autoFocus
                  aria-label="Name of the theme"
                  className="plain-field w-full rounded bg-base-100 px-1 ring-1 ring-primary"
                  defaultValue={suggestion.name}
                  onFocus={(event) => event.target.select()}
                  onBlur={() => setNaming(false)}
                  onKeyDown={(event) => {
                    event.stopPropagation();
                    if (event.key !== 'Enter' && event.key !== 'Escape') return;
                    if (event.key === 'Enter')
                      onTake(suggestion, event.currentTarget.value.trim() || suggestion.name);
                    setNaming(false);
                    list.current?.focus();
                  }}
                />
              ) : (
                <SuggestionLine suggestion={suggestion} isOpen={index === place} />
              )}
            </div>
          ))}
        </div>
      )}
    </section>
  );
}

function SuggestionLine({ suggestion, isOpen }: { suggestion: Suggestion; isOpen: boolean }) {
  const { name, keywords, searches, tightness, cpc, examples, inside } = suggestion;
  const { currency } = useOpenPlan().brief;
  return (
    <>
      <div className="flex items-baseline gap-2">
        <span className="truncate font-medium">{name}</span>
        {inside > 0 && <span className="shrink-0 text-[12px] text-faint">{count(inside)} inside</span>}
        <span className="ml-auto shrink-0 text-[12px] text-faint">
          {count(keywords)} · {short(searches)}
        </span>
      </div>
      {isOpen && (
        <p className="text-[12px] text-faint">
          {counted(keywords, 'keyword')}, {short(searches)} searches,{' '}
          {cpc === null ? 'no told CPC' : `median CPC ${money(cpc, currency)}`}, {share(tightness)} tight:{' '}
          {examples.join(', ')}
        </p>
      )}
    </>
  );
}
