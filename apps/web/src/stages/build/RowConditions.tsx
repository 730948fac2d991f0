import { readSort } from '@sprig/contracts';
import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { funnelStages } from '@sprig/core/text';
import { useQuery } from '@tanstack/react-query';
import { type FormEvent, useState } from 'react';
import { question } from '../../data/question.ts';
import { money } from '../../kit/format.ts';
import { themesFound } from './MoveKeywords.tsx';
import { type RowConditions as Conditions, readBounds, rowConditions } from './row-conditions.ts';

type Props = {
  plan: number;
  currency: string;
  labels: readonly string[];
  now: Conditions;
  onAddress: (change: Record<string, string>) => void;
};

/** Which keyword rows are listed, by their bids, searches, position reached, label, funnel stage and theme. */
export function RowConditions({ plan, currency, labels, now, onAddress }: Props) {
  const [words, setWords] = useState<string | null>(null);
  // A plan may have thousands of themes to choose from.
  const [isOpen, setOpen] = useState(false);
  const { data } = useQuery(question(readSort, { params: { plan } }));
  const themes = themesFound(data?.themes ?? [], '');
  const amount = (micros: string) =>
    micros === '' ? '' : decimalFromMicros(asMicros(Number(micros)), decimalsOf(currency));
  const shown = (micros: string) => money(Number(micros), currency);
  const on = [
    (now.bidFrom !== '' || now.bidTo !== '') &&
      `bid ${shown(now.bidFrom || '0')} to ${now.bidTo === '' ? 'any' : shown(now.bidTo)}`,
    (now.searchesFrom !== '' || now.searchesTo !== '') &&
      `${now.searchesFrom || '0'} to ${now.searchesTo || 'any'} searches`,
    (now.positionFrom !== '' || now.positionTo !== '') &&
      `position ${now.positionFrom || '1'} to ${now.positionTo || 'the last'}`,
    now.label !== '' && `labelled ${now.label}`,
    now.stage !== '' && now.stage,
    now.theme !== '' &&
      (now.theme === '0'
        ? 'of no theme'
        : `of ${themes.find(({ id }) => String(id) === now.theme)?.path ?? 'a theme that is gone'}`),
  ].filter(Boolean);
  const apply = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const read = readBounds((name) => String(form.get(name) ?? '').trim());
    if ('words' in read) return setWords(read.words);
    setWords(null);
    onAddress(read.conditions);
    event.currentTarget.closest('details')?.removeAttribute('open');
  };
  const field = (name: keyof Conditions, label: string, value: string) => (
    <input name={name} aria-label={label} className="input input-xs w-20 text-right" defaultValue={value} />
  );
  const choice = (
    name: keyof Conditions,
    label: string,
    any: string,
    choices: readonly (readonly [string, string])[],
  ) => (
    <p className="flex items-center justify-between gap-2">
      {label}
      <select name={name} aria-label={label} className="select select-xs w-52" defaultValue={now[name]}>
        <option value="">{any}</option>
        {choices.map(([value, said]) => (
          <option key={value} value={value}>
            {said}
          </option>
        ))}
      </select>
    </p>
  );
  return (
    <>
      {on.length > 0 && (
        <button
          type="button"
          className="chip max-w-80 shrink-0 truncate"
          aria-label={`Show rows whatever their ${on.join(', ')}`}
          onClick={() => onAddress(Object.fromEntries(rowConditions.map((name) => [name, ''])))}
        >
          {on.join(', ')} ×
        </button>
      )}
      <details
        name="row-conditions"
        className="dropdown"
        onToggle={({ currentTarget }) => setOpen(currentTarget.open)}
      >
        <summary className="btn btn-ghost btn-sm font-normal text-faint">Conditions</summary>
        {isOpen && (
          <form
            key={JSON.stringify(now)}
            className="dropdown-content z-30 flex w-80 flex-col gap-2 rounded-md border border-hair bg-base-100 p-3 text-[13px]"
            onSubmit={apply}
          >
            <p className="flex items-center justify-between gap-1">
              Bid from {field('bidFrom', 'Bid from', amount(now.bidFrom))} to{' '}
              {field('bidTo', 'Bid to', amount(now.bidTo))}
            </p>
            <p className="flex items-center justify-between gap-1">
              Searches from {field('searchesFrom', 'Searches from', now.searchesFrom)} to{' '}
              {field('searchesTo', 'Searches to', now.searchesTo)}
            </p>
            <p className="flex items-center justify-between gap-1" title="By the forecast; 1 is the top">
              Position from {field('positionFrom', 'Position from', now.positionFrom)} to{' '}
              {field('positionTo', 'Position to', now.positionTo)}
            </p>
            {choice(
              'label',
              'Label',
              'any',
              labels.map((label) => [label, label]),
            )}
            {choice(
              'stage',
              'Stage',
              'any',
              funnelStages.map((stage) => [stage, stage]),
            )}
            {choice('theme', 'Theme', 'any', [
              ['0', 'of no theme'],
              ...themes.map(({ id, path }) => [String(id), path] as const),
            ])}
            {words && (
              <p role="alert" className="text-[12px] text-error">
                {words}
              </p>
            )}
            <button type="submit" className="btn btn-primary btn-xs self-end">
              Show those
            </button>
          </form>
        )}
      </details>
    </>
  );
}
