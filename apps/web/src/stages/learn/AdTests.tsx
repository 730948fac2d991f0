import type { AdsBy, AdTest } from '@sprig/contracts';
import type { AdTestRules } from '@sprig/core/judge';
import { useAddress } from '../../kit/address.ts';
import { counted } from '../../kit/format.ts';
import { isDecided, testText } from './ad-test-words.ts';
import { DifferenceBar } from './DifferenceBar.tsx';
import { useKeepingBetter } from './use-ad-tests.ts';

type TestsProps = {
  plan: number;
  by: AdsBy;
  tests: readonly AdTest[];
  others: number;
  open: AdTest;
  rules: AdTestRules;
};

/** Tests side by side: the difference, what it tells, and which ad is kept. */
export function AdTests({ plan, by, tests, others, open, rules }: TestsProps) {
  const [, set] = useAddress();
  return (
    <ul aria-label="Tests" className="w-[25rem] shrink-0 overflow-y-auto border-hair border-r p-3">
      {tests.map((test) => (
        <li
          key={test.id}
          className={`mb-2 rounded-md p-3 ${test.id === open.id ? 'bg-wash ring-1 ring-primary' : 'ring-1 ring-hair'}`}
        >
          <button
            type="button"
            aria-pressed={test.id === open.id}
            className="block w-full text-left"
            onClick={() => set({ test: test.id })}
          >
            <span className="flex items-center gap-2">
              <b className="truncate">
                {test.names[0]} <span className="font-normal text-faint">against</span> {test.names[1]}
              </b>
              <span className="ml-auto shrink-0 text-[12.5px] text-faint">
                {counted(test.groups, 'ad group')}
              </span>
            </span>
            {test.pattern && <span className="block truncate text-[12.5px] text-faint">{test.pattern}</span>}
            <span className="mt-1 block">
              <DifferenceBar
                difference={test.difference}
                width={350}
                isDecided={isDecided(test)}
                label={testText(test, test.names, rules)}
              />
            </span>
            <span className="mt-1 block text-[13px]">{testText(test, test.names, rules)}</span>
            {(test.verdict === 'open' || test.verdict === 'few') && (
              <progress
                className="progress mt-1 h-1.5 w-full"
                max={1}
                value={test.told}
                aria-label="Told so far of what the difference needs"
              />
            )}
          </button>
          <Keep plan={plan} by={by} test={test} />
        </li>
      ))}
      {others > 0 && <li className="text-faint">{counted(others, 'test')} more with less to tell.</li>}
    </ul>
  );
}

function Keep({ plan, by, test }: { plan: number; by: AdsBy; test: AdTest }) {
  const { write, isBusy } = useKeepingBetter();
  const keep = (side: 'a' | 'b' | 'both') =>
    void write({ params: { plan }, body: { by, test: test.id, keep: side, dry: false } });
  const [first, second] = test.names;
  if (test.paused !== null)
    return (
      <p className="mt-2 flex items-center gap-2 text-[13px]">
        Only {test.paused === 'a' ? second : first} runs.
        <button type="button" className="btn btn-ghost btn-xs" disabled={isBusy} onClick={() => keep('both')}>
          Run both again
        </button>
      </p>
    );
  const better = isDecided(test) ? (test.verdict as 'a' | 'b') : null;
  return (
    <p className="mt-2 flex gap-1.5">
      {(['a', 'b'] as const).map((side) => (
        <button
          key={side}
          type="button"
          className={`btn btn-xs ${side === better ? 'btn-primary' : 'btn-ghost font-normal'}`}
          disabled={isBusy}
          title={`Pauses ${side === 'a' ? second : first} in all its ad groups`}
          onClick={() => keep(side)}
        >
          Keep {side === 'a' ? first : second}
        </button>
      ))}
    </p>
  );
}
