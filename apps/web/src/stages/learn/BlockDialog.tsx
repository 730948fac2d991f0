import { previewBlock, type TermJudgement } from '@sprig/contracts';
import { type NegativeType, negativeTypes } from '@sprig/core/match';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { wordsOf } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { useSettled } from '../../kit/use-settled.ts';
import { figureText } from '../../plan/results/result-words.ts';

type Props = {
  plan: number;
  /** The terms that are blocked; of several each is blocked as it is. */
  terms: readonly string[];
  /** A word or two that is blocked instead. */
  text?: string;
  currency: string;
  onBlock: (judgement: TermJudgement) => void;
  onClose: () => void;
};

const whereChoices = [
  { value: 'plan' as const, words: 'in the whole plan' },
  { value: 'group' as const, words: 'in the ad group that answered' },
];

/** As what, and where, terms are blocked, with what else that keeps out. */
export function BlockDialog({ plan, terms, text: given, currency, onBlock, onClose }: Props) {
  const [type, setType] = useState<NegativeType>(given === undefined ? 'exact' : 'phrase');
  const [where, setWhere] = useState<'plan' | 'group'>('plan');
  const [text, setText] = useState(given ?? terms[0] ?? '');
  const isOne = given !== undefined || terms.length === 1;
  const settled = useSettled(text.trim());
  const { data, error } = useQuery({
    ...question(previewBlock, { params: { plan }, body: { text: settled, type } }),
    enabled: isOne && settled !== '',
    placeholderData: keepPreviousData,
  });
  const what = isOne ? `“${text.trim()}”` : counted(terms.length, 'search term');
  return (
    <Dialog title={`Block ${what}`} onClose={onClose}>
      <form
        className="flex flex-col gap-3 text-[14px]"
        onSubmit={(event) => {
          event.preventDefault();
          if (isOne && text.trim() === '') return;
          onBlock({ kind: 'block', type, where, ...(isOne ? { text: text.trim() } : {}) });
        }}
      >
        {isOne && (
          <label className="flex items-center gap-2">
            Words
            <input
              autoFocus
              className="input input-sm flex-1"
              aria-label="Words to block"
              value={text}
              onChange={({ target }) => setText(target.value)}
            />
          </label>
        )}
        <p>
          as{' '}
          <ChoiceChip
            label="Match type of the negative"
            value={type}
            choices={negativeTypes.map((one) => ({ value: one, words: `a negative ${matchWords[one]}` }))}
            onChoose={setType}
          />{' '}
          <ChoiceChip label="Where it is blocked" value={where} choices={whereChoices} onChoose={setWhere} />
        </p>
        {isOne && data && (
          <div className="rounded-md bg-base-200/60 p-2 text-[13px] leading-5">
            {data.keywords.count > 0 && (
              <p className="text-error">
                It blocks {counted(data.keywords.count, 'keyword')} of the plan itself:{' '}
                {data.keywords.shown.join(', ')}
                {data.keywords.count > data.keywords.shown.length ? ' …' : '.'}
              </p>
            )}
            <p>
              {counted(data.terms.count, 'search term')} would have been kept out:{' '}
              {counted(data.terms.clicks, 'click')}, {figureText('cost', data.terms.cost, currency)}, with{' '}
              {counted(Math.round(data.terms.conversions), 'conversion')}.{' '}
              <span className="text-faint">{data.terms.shown.join(', ')}</span>
            </p>
          </div>
        )}
        {error && (
          <p role="alert" className="text-error text-xs">
            {wordsOf(error)}
          </p>
        )}
        <div className="flex gap-2">
          <button type="submit" className="btn btn-primary btn-sm" disabled={isOne && text.trim() === ''}>
            Block {what}
          </button>
          <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
            Leave it
          </button>
        </div>
      </form>
    </Dialog>
  );
}
