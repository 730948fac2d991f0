import { editBrief, type PlanState } from '@sprig/contracts';
import { currencies } from '@sprig/core/money';
import { useState } from 'react';
import { call, wordsOf } from '../api/call.ts';
import { planKey } from '../api/plan.ts';
import { queryClient } from '../api/query-client.ts';
import { Sheet } from '../kit/Sheet.tsx';

type Field = 'name' | 'currency' | 'site';

/** The plan's facts, kept as they are left. */
export function PlanFacts({ plan, onClose }: { plan: PlanState; onClose: () => void }) {
  return (
    <Sheet title="Plan facts" onClose={onClose}>
      <div className="grid grid-cols-[110px_1fr] items-start gap-x-4 gap-y-3">
        <Fact
          plan={plan}
          field="name"
          label="Name"
          help="As your client is called; campaigns start with it."
        />
        <Fact
          plan={plan}
          field="site"
          label="Site"
          help="Where ads lead: @site in a final URL. For example shop.example."
        />
        <Fact
          plan={plan}
          field="currency"
          label="Currency"
          help="Amounts keep their numbers when it changes."
          choices={Object.keys(currencies)}
        />
        <span className="pt-1.5 text-faint">Language</span>
        <span className="pt-1.5">English</span>
      </div>
    </Sheet>
  );
}

function Fact({
  plan,
  field,
  label,
  help,
  choices,
}: {
  plan: PlanState;
  field: Field;
  label: string;
  help: string;
  choices?: string[];
}) {
  const kept = plan.brief[field];
  const [typed, setTyped] = useState(kept);
  const [words, setWords] = useState<string | null>(null);
  const keep = async (value: string) => {
    if (value === kept) return setWords(null);
    try {
      await call(editBrief, {
        params: { plan: plan.id },
        body: { edits: [{ at: field, before: kept, after: value }] },
      });
      setWords(null);
      await queryClient.invalidateQueries({ queryKey: planKey(plan.id) });
    } catch (error) {
      setWords(wordsOf(error));
    }
  };
  const id = `fact-${field}`;
  return (
    <>
      <label htmlFor={id} className="pt-1.5 text-faint">
        {label}
      </label>
      <div>
        {choices ? (
          <select
            id={id}
            className="select select-sm w-40"
            value={typed}
            onChange={(event) => {
              setTyped(event.target.value);
              void keep(event.target.value);
            }}
          >
            {choices.map((choice) => (
              <option key={choice}>{choice}</option>
            ))}
          </select>
        ) : (
          <input
            id={id}
            className={`input input-sm w-full ${words ? 'input-error' : ''}`}
            value={typed}
            aria-invalid={words !== null}
            onChange={(event) => setTyped(event.target.value)}
            onBlur={() => void keep(typed)}
            onKeyDown={(event) => event.key === 'Enter' && void keep(typed)}
          />
        )}
        <p
          className={`mt-0.5 text-[12px] ${words ? 'text-error' : 'text-faint'}`}
          role={words ? 'alert' : undefined}
        >
          {words ?? help}
        </p>
      </div>
    </>
  );
}
