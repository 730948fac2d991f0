import type { Layout } from '@sprig/core/build';
import { type MatchType, matchTypes } from '@sprig/core/match';
import { type CaseStyle, parseLine } from '@sprig/core/text';
import type { ReactNode } from 'react';
import { toast } from 'sonner';
import type { Document } from '../../api/document.ts';
import { ChoiceChip, MoneyChip, PercentChip, TextChip } from '../../kit/chips.tsx';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';

export const caseChoices: { value: CaseStyle; words: string }[] = [
  { value: 'as-is', words: 'as typed' },
  { value: 'lower', words: 'lower case' },
  { value: 'sentence', words: 'Sentence case' },
  { value: 'title', words: 'Title Case' },
];

const why: Record<MatchType, string> = {
  broad: 'Broad: searches with these words or their like, in any order. Reaches furthest, fits least.',
  modified: 'Modified broad: searches with the marked words, in any order.',
  phrase: 'Phrase: searches that hold the keyword in its order, with words before or after.',
  exact: 'Exact: searches that are the keyword. Fits best, so it bids most.',
};

/** The build rules, read and written as sentences. */
export function LayoutSentences({ layout, currency }: { layout: Document<Layout>; currency: string }) {
  const { value, draft, undraft, edit } = layout;
  if (!value) return null;
  const field = (at: string) => ({
    onDraft: (typed: unknown) => draft(at, typed),
    onUndraft: undraft,
    onKeep: (typed: unknown) => edit(at, typed),
  });
  const choose = async (at: string, chosen: unknown) => {
    const words = await edit(at, chosen);
    if (words) toast.error(words);
  };
  const { ladder } = value;
  return (
    <div className="flex flex-col gap-1.5 leading-8">
      <Sentence>
        One ad group per keyword, named{' '}
        <TextChip
          label="Name pattern"
          value={value.groupName.pattern}
          read={(typed) => {
            const read = parseLine(typed);
            if (typed.trim() === '')
              return { words: 'An ad group needs a name. @keyword stands for the keyword.' };
            return 'problem' in read
              ? { words: `${read.problem.token} is no token. @keyword stands for the keyword.` }
              : { value: typed };
          }}
          {...field('groupName.pattern')}
        />{' '}
        in{' '}
        <ChoiceChip
          label="Case of names"
          value={value.groupName.style}
          choices={caseChoices}
          onChoose={(style) => void choose('groupName.style', style)}
        />
        , in the campaign{' '}
        <TextChip
          label="Campaign name"
          value={value.campaignName}
          read={(typed) => (typed.trim() === '' ? { words: 'A campaign needs a name.' } : { value: typed })}
          {...field('campaignName')}
          width={18}
        />{' '}
        with{' '}
        <MoneyChip
          label="Daily budget"
          value={value.dailyBudget}
          currency={currency}
          {...field('dailyBudget')}
        />{' '}
        a day.
      </Sentence>
      <Sentence>
        <ChoiceChip
          label="Match types"
          value={value.asAsked ? 'asked' : 'chosen'}
          choices={[
            { value: 'asked', words: 'As asked by its notation, else' },
            { value: 'chosen', words: 'Every keyword' },
          ]}
          onChoose={(chosen) => void choose('asAsked', chosen === 'asked')}
        />{' '}
        in{' '}
        {matchTypes.map((type, at) => {
          const on = (value.types & (1 << at)) !== 0;
          return (
            <button
              key={type}
              type="button"
              aria-pressed={on}
              title={why[type]}
              className={`chip mr-1.5 ${on ? '' : 'chip-off'}`}
              onClick={() => {
                const next = value.types ^ (1 << at);
                if (next === 0) toast.error('At least one match type is needed. Switch another on first.');
                else void choose('types', next);
              }}
            >
              <ReachBars type={type} /> {matchWords[type]}
            </button>
          );
        })}
      </Sentence>
      <Sentence>
        Bid the CPC estimate, or{' '}
        <MoneyChip
          label="Base without an estimate"
          value={ladder.defaultBase}
          currency={currency}
          {...field('ladder.defaultBase')}
        />{' '}
        without one:{' '}
        {matchTypes.map((type, at) => (
          <span key={type} className="whitespace-nowrap">
            <PercentChip
              label={`Step for ${matchWords[type]}`}
              value={ladder.steps[type]}
              {...field(`ladder.steps.${type}`)}
            />{' '}
            on {matchWords[type]}
            {at < matchTypes.length - 1 ? ', ' : ''}
          </span>
        ))}
        , between{' '}
        <MoneyChip label="Least bid" value={ladder.floor} currency={currency} {...field('ladder.floor')} />{' '}
        and{' '}
        <MoneyChip
          label="Greatest bid"
          value={ladder.ceiling}
          currency={currency}
          {...field('ladder.ceiling')}
        />
        .
      </Sentence>
    </div>
  );
}

const Sentence = ({ children }: { children: ReactNode }) => <p className="text-[14px]">{children}</p>;
