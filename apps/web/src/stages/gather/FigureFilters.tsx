import { asMicros, decimalFromMicros, decimalsOf } from '@sprig/core/money';
import { type FormEvent, useState } from 'react';
import { money } from '../../kit/format.ts';
import { readMoneyOrNone } from '../../kit/read-typed.ts';
import { figureWords, isShare } from '../../plan/results/result-words.ts';
import type { KeptKind, KeptSift } from '../../pool/kept-columns.ts';
import { type OriginKind, originKinds, type PoolQuery } from '../../pool/pool-store.ts';
import { figureOfHeading } from '../../pool/result-headings.ts';

type Props = {
  query: PoolQuery;
  setQuery: (change: Partial<PoolQuery>) => void;
  currency: string;
  /** Of columns that were kept as they are, those that are shown or sifted by. */
  kinds: Readonly<Record<string, KeptKind>>;
};

const ORIGINS: Record<OriginKind | 'all', string> = {
  all: 'Any origin',
  told: 'Told or by hand',
  estimated: 'Estimated',
  'made-up': 'Made up',
  none: 'No figure',
};

/** Ranges of CPC, competition and kept columns, beside the histogram's range of searches, and where searches are from. */
export function FigureFilters({ query, setQuery, currency, kinds }: Props) {
  const [words, setWords] = useState<string | null>(null);
  const amount = (micros: number | null) =>
    micros === null ? '' : decimalFromMicros(asMicros(micros), decimalsOf(currency));
  const on = [
    (query.cpcFrom !== null || query.cpcTo !== null) &&
      `CPC ${money(query.cpcFrom ?? 0, currency)} to ${query.cpcTo === null ? 'any' : money(query.cpcTo, currency)}`,
    (query.competitionFrom !== null || query.competitionTo !== null) &&
      `competition ${query.competitionFrom ?? 0} to ${query.competitionTo ?? 100}`,
    ...query.kept.map(keptWords),
  ].filter(Boolean);
  const apply = (event: FormEvent<HTMLFormElement>) => {
    event.preventDefault();
    const form = new FormData(event.currentTarget);
    const typed = (name: string) => String(form.get(name) ?? '').trim();
    const change: Partial<PoolQuery> = {};
    for (const name of ['cpcFrom', 'cpcTo'] as const) {
      const read = readMoneyOrNone(typed(name));
      if ('words' in read) return setWords(read.words);
      change[name] = read.value;
    }
    for (const name of ['competitionFrom', 'competitionTo'] as const) {
      if (!/^(\d{1,2}|100)?$/.test(typed(name))) return setWords('Competition goes from 0 to 100.');
      change[name] = typed(name) === '' ? null : Number(typed(name));
    }
    const kept: KeptSift[] = [];
    for (const [at, [heading, kind]] of Object.entries(kinds).entries()) {
      const [from, to] = (['from', 'to'] as const).map((end) => readBound(typed(`${at}${end}`)));
      if (from === undefined || to === undefined)
        return setWords(`${nameOf(heading)} is sifted by numbers. Type them like 1300 or 4.2.`);
      const sift = { heading, from, to, words: kind === 'words' ? typed(`${at}words`) : '' };
      if (from !== null || to !== null || sift.words !== '') kept.push(sift);
    }
    setWords(null);
    setQuery({ ...change, kept });
    event.currentTarget.closest('details')?.removeAttribute('open');
  };
  const field = (name: string, label: string, value: string) => (
    <input name={name} aria-label={label} className="input input-xs w-20 text-right" defaultValue={value} />
  );
  return (
    <>
      {on.length > 0 && (
        <button
          type="button"
          className="chip shrink-0"
          onClick={() =>
            setQuery({ cpcFrom: null, cpcTo: null, competitionFrom: null, competitionTo: null, kept: [] })
          }
        >
          {on.join(', ')} ×
        </button>
      )}
      <select
        aria-label="Where searches are from"
        title="Told ones stand plain; ≈ in lighter ink is estimated; ≈ with dots is made up"
        className="select select-sm w-36 shrink-0"
        value={query.origin}
        onChange={({ target }) => setQuery({ origin: target.value as PoolQuery['origin'] })}
      >
        {(['all', ...originKinds] as const).map((kind) => (
          <option key={kind} value={kind}>
            {ORIGINS[kind]}
          </option>
        ))}
      </select>
      <details name="pool-menu" className="dropdown">
        <summary className="btn btn-ghost btn-sm font-normal text-faint">Figures</summary>
        <form
          key={JSON.stringify([
            query.cpcFrom,
            query.cpcTo,
            query.competitionFrom,
            query.competitionTo,
            query.kept,
            Object.keys(kinds),
          ])}
          className="dropdown-content z-30 flex w-88 flex-col gap-2 rounded-md border border-hair bg-base-100 p-3"
          onSubmit={apply}
        >
          <p className="flex items-center justify-between gap-1">
            CPC from {field('cpcFrom', 'CPC from', amount(query.cpcFrom))} to{' '}
            {field('cpcTo', 'CPC to', amount(query.cpcTo))}
          </p>
          <p className="flex items-center justify-between gap-1">
            Competition {field('competitionFrom', 'Competition from', String(query.competitionFrom ?? ''))} to{' '}
            {field('competitionTo', 'Competition to', String(query.competitionTo ?? ''))}
          </p>
          {Object.entries(kinds).map(([heading, kind], at) => {
            const now = query.kept.find((one) => one.heading === heading);
            return (
              <p key={heading} className="flex items-center justify-between gap-1">
                <span className="min-w-0 truncate" title={nameOf(heading)}>
                  {nameOf(heading)}
                </span>
                {kind === 'words' ? (
                  <input
                    name={`${at}words`}
                    aria-label={`${nameOf(heading)} holds`}
                    placeholder="Holds"
                    className="input input-xs w-44"
                    defaultValue={now?.words}
                  />
                ) : (
                  <span className="shrink-0">
                    from {field(`${at}from`, `${nameOf(heading)} from`, String(now?.from ?? ''))} to{' '}
                    {field(`${at}to`, `${nameOf(heading)} to`, String(now?.to ?? ''))}
                  </span>
                )}
              </p>
            );
          })}
          {words && (
            <p role="alert" className="text-[12px] text-error">
              {words}
            </p>
          )}
          <button type="submit" className="btn btn-primary btn-xs self-end">
            Show those
          </button>
        </form>
      </details>
    </>
  );
}

/** A column as it is called: a figure of results in the unit in which it is typed. */
function nameOf(heading: string): string {
  const figure = figureOfHeading(heading);
  if (figure === null) return heading;
  return `results: ${figureWords[figure]}${isShare(figure) ? ' in %' : ''}`;
}

function keptWords({ heading, from, to, words }: KeptSift): string {
  if (words !== '') return `${nameOf(heading)} holds ${words}`;
  return `${nameOf(heading)} ${from ?? 'any'} to ${to ?? 'any'}`;
}

/** null: open; undefined: no number. */
function readBound(typed: string): number | null | undefined {
  if (typed === '') return null;
  const plain = typed.replace(',', '.');
  return /^-?\d+(?:\.\d+)?$/.test(plain) ? Number(plain) : undefined;
}
