import * as api from '@sprig/contracts';
import type { BidChange } from '@sprig/core/build';
import { asMicros } from '@sprig/core/money';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { Help } from '../../frame/Help.tsx';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { count, counted, estimate, money } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { readMoney, readPercent } from '../../kit/read-typed.ts';
import { useDayWords } from '../../plan/day-words.ts';
import { clicksWords } from '../../plan/forecast-words.ts';

export type Kind = 'set' | 'raise' | 'lower' | 'raise-by' | 'lower-by' | 'round' | 'between';
export const bidKinds: { value: Kind; words: string }[] = [
  { value: 'raise', words: 'raise them by' },
  { value: 'lower', words: 'lower them by' },
  { value: 'raise-by', words: 'add' },
  { value: 'lower-by', words: 'take off' },
  { value: 'set', words: 'set them to' },
  { value: 'round', words: 'round them to' },
  { value: 'between', words: 'keep them between' },
];

/** Reads what was typed as a change of bids. */
export function readChange(
  kind: Kind,
  first: string,
  second: string,
): { change: BidChange } | { words: string } {
  if (kind === 'raise' || kind === 'lower') {
    const read = readPercent(first);
    if ('words' in read) return read;
    return { change: { kind: 'percent', by: kind === 'raise' ? read.value : -read.value } };
  }
  const read = readMoney(first);
  if ('words' in read) return read;
  if (kind === 'raise-by') return { change: { kind: 'amount', by: read.value } };
  if (kind === 'lower-by') return { change: { kind: 'amount', by: -read.value } };
  if (kind !== 'between' && read.value === 0) return { words: 'It has to be more than nothing.' };
  if (kind === 'set' || kind === 'round') return { change: { kind, to: read.value } };
  const most = readMoney(second);
  if ('words' in most) return most;
  if (most.value === 0 || most.value < read.value)
    return { words: 'The least is above the greatest. Lower the one or raise the other.' };
  return { change: { kind: 'between', from: read.value, to: asMicros(most.value) } };
}

type Props = {
  plan: number;
  currency: string;
  scope: api.BidScope;
  what: string;
  onClose: () => void;
};

/** One change to many bids: before and after, the count and the estimated spend stand there before anything is done. */
export function BulkBids({ plan, currency, scope, what, onClose }: Props) {
  const [kind, setKind] = useState<Kind>('raise');
  const day = useDayWords(plan);
  const [first, setFirst] = useState('10');
  const [second, setSecond] = useState('');
  const { write: changeAll, isBusy } = useWrite(api.changeBids, {
    said: ({ changed }) => `Changed ${counted(changed, 'bid')}. They are held from now on.`,
  });
  const read = readChange(kind, first, second);
  const change = 'change' in read ? read.change : null;
  const { data: would } = useQuery({
    ...question(api.changeBids, { params: { plan }, body: { scope, change: change as never, dry: true } }),
    enabled: change !== null,
    placeholderData: keepPreviousData,
  });
  const apply = async () => {
    if (!change) return;
    const changed = await changeAll({
      params: { plan },
      body: { scope, change: change as never, dry: false },
    });
    if (changed) onClose();
  };
  const isPercent = kind === 'raise' || kind === 'lower';
  const amountWord = isPercent ? 'Percent' : 'Amount';
  return (
    <Dialog title={`Bids of ${what}`} onClose={onClose} wide>
      <p className="text-[14px] leading-9">
        Take the bids of {what} and{' '}
        <ChoiceChip label="What to do with the bids" value={kind} choices={bidKinds} onChoose={setKind} />{' '}
        <input
          autoFocus
          aria-label={kind === 'between' ? 'Least bid' : amountWord}
          className={`plain-field chip w-20 text-right ${'words' in read ? 'chip-bad' : ''}`}
          value={first}
          onChange={({ target }) => setFirst(target.value)}
          onKeyDown={(event) => event.key === 'Enter' && void apply()}
        />
        {isPercent && ' %'}
        {kind === 'between' && (
          <>
            {' '}
            and{' '}
            <input
              aria-label="Greatest bid"
              className={`plain-field chip w-20 text-right ${'words' in read ? 'chip-bad' : ''}`}
              value={second}
              onChange={({ target }) => setSecond(target.value)}
            />
          </>
        )}
        .
      </p>
      {'words' in read && (
        <p role="alert" className="text-[12.5px] text-error">
          {read.words}
        </p>
      )}
      {would && change && (
        <>
          <p role="status" className="mt-1 text-[13px]">
            {counted(would.changed, 'bid')} of {count(would.rows)} would change. By the forecast:{' '}
            {clicksWords(would.before.clicks)} for {estimate(would.before.cost, currency)} →{' '}
            <b>
              {clicksWords(would.after.clicks)} for {estimate(would.after.cost, currency)}
            </b>{' '}
            {day}.
          </p>
          <table className="mt-2 w-full text-[13px]">
            <thead className="text-[12px] text-faint">
              <tr>
                <th className="text-left font-normal">Keyword</th>
                <th className="w-32 text-left font-normal">Match type</th>
                <th className="w-20 text-right font-normal">Before</th>
                <th className="w-20 text-right font-normal">After</th>
              </tr>
            </thead>
            <tbody>
              {would.samples.slice(0, 14).map(({ key, text, type, before, after }) => (
                <tr key={key} className="h-6">
                  <td className="max-w-0 truncate">{text}</td>
                  <td>
                    <ReachBars type={type} /> {matchWords[type]}
                  </td>
                  <td className="text-right text-faint">{money(before, currency)}</td>
                  <td className="text-right font-semibold">{money(after, currency)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {would.changed > 14 && (
            <p className="text-[12px] text-faint">
              and {count(would.changed - 14)} more; those that change most come first
            </p>
          )}
        </>
      )}
      <div className="mt-3 flex gap-2">
        <button
          type="button"
          className="btn btn-primary btn-sm"
          disabled={!change || !would || would.changed === 0 || isBusy}
          onClick={() => void apply()}
        >
          Change {counted(would?.changed ?? 0, 'bid')}
        </button>
        <button type="button" className="btn btn-ghost btn-sm" onClick={onClose}>
          Leave them
        </button>
      </div>
      <Help>
        Changed bids are held: they stay when the ladder moves, until they are let go. One step of undo takes
        all of it back.
      </Help>
    </Dialog>
  );
}
