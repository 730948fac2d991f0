import type { ThemeRow } from '@sprig/contracts';
import { type BranchRule, type Grouping, themed } from '@sprig/core/build';
import { bitOf, matchTypes } from '@sprig/core/match';
import { X } from 'lucide-react';
import { useState } from 'react';
import { toast } from 'sonner';
import { ChoiceChip, PercentChip } from '../../kit/chips.tsx';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { groupingChoices } from '../../plan/rule-choices.ts';
import { TopConditions } from './TopConditions.tsx';

type Props = {
  branches: readonly BranchRule[];
  themes: readonly ThemeRow[];
  currency: string;
  onKeep: (branches: BranchRule[]) => Promise<string | null>;
};

/** What themes have of their own, each with all that is below it. */
export function Branches({ branches, themes, currency, onKeep }: Props) {
  const [adding, setAdding] = useState(false);
  const nameOf = (id: number) => themes.find((theme) => theme.id === id)?.name ?? 'a theme that is gone';
  const keep = async (next: BranchRule[]) => {
    const words = await onKeep(next);
    if (words) toast.error(words);
    return words;
  };
  const set = (theme: number, patch: Partial<BranchRule>) =>
    keep(branches.map((one) => (one.theme === theme ? { ...one, ...patch } : one)));
  const free = themes.filter(({ id }) => !branches.some(({ theme }) => theme === id));
  if (themes.length === 0) return null;
  return (
    <div className="text-[14px]">
      {branches.map(({ theme, grouping, step, types = 0 }) => (
        <p key={theme}>
          In <b>{nameOf(theme)}</b> make{' '}
          <ChoiceChip
            label={`How ${nameOf(theme)} is laid out`}
            value={grouping?.kind ?? 'as'}
            choices={[{ value: 'as', words: 'ad groups as above' }, ...groupingChoices]}
            onChoose={(kind) => void set(theme, { grouping: groupingOf(kind) })}
          />
          {grouping?.kind === 'top' && (
            <>
              {' '}
              <TopConditions
                grouping={grouping}
                currency={currency}
                onKeep={(next) => set(theme, { grouping: next })}
              />
            </>
          )}
          , in{' '}
          {matchTypes.map((type) => {
            const isOn = (types & bitOf(type)) !== 0;
            return (
              <button
                key={type}
                type="button"
                aria-pressed={isOn}
                aria-label={`${matchWords[type]} in ${nameOf(theme)}`}
                title={`${matchWords[type]}: ${isOn ? 'take it away' : 'build the keywords of this branch in it'}`}
                className={`chip mr-1 ${isOn ? '' : 'chip-off'}`}
                onClick={() => void set(theme, { types: types ^ bitOf(type) })}
              >
                <ReachBars type={type} />
              </button>
            );
          })}
          {types === 0 && <span className="text-faint">(match types as below) </span>}
          and bid{' '}
          <PercentChip
            label={`Bid step of ${nameOf(theme)}`}
            value={step}
            onDraft={() => {}}
            onUndraft={() => {}}
            onKeep={(value) => set(theme, { step: value as number })}
          />
          .
          <button
            type="button"
            className="btn btn-ghost btn-square btn-xs ml-1"
            aria-label={`Take away what ${nameOf(theme)} has of its own`}
            onClick={() => void keep(branches.filter((one) => one.theme !== theme))}
          >
            <X size={13} />
          </button>
        </p>
      ))}
      {adding ? (
        <select
          // biome-ignore lint/a11y/noAutofocus: opened by the user's own click or key
          autoFocus
          className="plain-field chip"
          aria-label="Theme to lay out in its own way"
          defaultValue=""
          onBlur={() => setAdding(false)}
          onChange={({ target }) => {
            setAdding(false);
            if (target.value)
              void keep([...branches, { theme: Number(target.value), grouping: null, step: 10_000 }]);
          }}
        >
          <option value="">which theme?</option>
          {free.map(({ id, name, parent }) => (
            <option key={id} value={id}>
              {parent === null ? name : `${nameOf(parent)} › ${name}`}
            </option>
          ))}
        </select>
      ) : (
        <button
          type="button"
          className="btn btn-ghost btn-xs font-normal text-faint"
          disabled={free.length === 0}
          onClick={() => setAdding(true)}
        >
          Lay a theme out in its own way
        </button>
      )}
    </div>
  );
}

const groupingOf = (kind: Grouping['kind'] | 'as'): Grouping | null =>
  kind === 'as' ? null : { ...themed(), kind, first: kind === 'top' ? 5 : null };
