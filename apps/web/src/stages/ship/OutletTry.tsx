import { type PlanState, tryOutlet } from '@sprig/contracts';
import type { Outlet } from '@sprig/core/outlets';
import { useQuery } from '@tanstack/react-query';
import { useDeferredValue, useState } from 'react';
import { wordsOf } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { CellTable } from './SheetSample.tsx';
import { lossWords } from './ship-words.ts';

/** The outlet as it stands tried on the plan's first ad groups: its sheets as they would be, and what it can't carry of them. */
export function OutletTry({ plan, outlet, isSound }: { plan: PlanState; outlet: Outlet; isSound: boolean }) {
  const tried = useDeferredValue(outlet);
  const [chosen, setChosen] = useState<string | null>(null);
  const { data, error } = useQuery({
    ...question(tryOutlet, { params: { plan: plan.id }, body: { outlet: tried as never } }),
    enabled: isSound && plan.counts.keywords > 0,
    placeholderData: (before) => before,
    retry: false,
    gcTime: 30_000,
  });
  const files = data?.files ?? [];
  const usual = files.find(({ name }) => name.startsWith('keywords')) ?? files[0];
  const file = files.find(({ name }) => name === chosen) ?? usual;
  return (
    <section aria-label="Tried on the plan" className="min-h-0 min-w-0 overflow-auto px-5 py-3">
      <h2 className="mb-2 flex items-center gap-2 font-semibold text-[15px]">
        Tried on the plan
        {files.length > 0 && (
          <select
            className="plain-field chip cursor-pointer font-normal"
            aria-label="Sheet that is tried"
            value={file?.name ?? ''}
            onChange={({ target }) => setChosen(target.value)}
          >
            {files.map(({ name }) => (
              <option key={name}>{name}</option>
            ))}
          </select>
        )}
      </h2>
      {!isSound && <p className="mb-2 text-error">Mend what is marked on the left first.</p>}
      {error && (
        <p role="alert" className="mb-2 text-error">
          {wordsOf(error)}
        </p>
      )}
      {plan.counts.keywords === 0 && (
        <p className="text-faint">The plan has no keywords yet: there is nothing to try it on.</p>
      )}
      {file && <CellTable rows={file.rows} />}
      {data && data.losses.length > 0 && (
        <ul
          className="mt-3 flex flex-col gap-0.5 text-[12.5px] text-warning"
          aria-label="What it can’t carry"
        >
          {data.losses.map(({ rule, count }) => (
            <li key={rule}>{lossWords(rule, count)}</li>
          ))}
        </ul>
      )}
      {data && (
        <p className="mt-2 text-[12.5px] text-faint">
          {data.groups === 1 ? 'The first ad group' : `The first ${data.groups} ad groups`} of the plan,
          exactly as they would ship.
        </p>
      )}
    </section>
  );
}
