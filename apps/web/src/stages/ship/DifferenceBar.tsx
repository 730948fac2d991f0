import type { OutletCheck } from '@sprig/contracts';
import { count } from '../../kit/format.ts';

const PARTS = [
  ['added', 'new', 'bg-primary'],
  ['changed', 'changed', 'bg-info'],
  ['removed', 'gone', 'bg-error'],
  ['same', 'the same', 'bg-base-300'],
] as const;

/** What differs from what the outlet has, as shares of one bar, each with its word and its count. */
export function DifferenceBar({ difference }: { difference: OutletCheck['difference'] }) {
  const total = PARTS.reduce((sum, [part]) => sum + difference[part], 0);
  return (
    <div>
      <div className="flex h-2 overflow-hidden rounded-full bg-base-300" aria-hidden>
        {PARTS.map(([part, , tone]) =>
          difference[part] > 0 ? (
            <span
              key={part}
              className={tone}
              style={{ width: `max(3px, ${(difference[part] / total) * 100}%)` }}
            />
          ) : null,
        )}
      </div>
      <p className="mt-1 flex flex-wrap gap-x-3 text-[12.5px]" role="group" aria-label="Difference">
        {PARTS.map(([part, words, tone]) => (
          <span key={part} className="flex items-center gap-1">
            <span className={`size-2 rounded-full ${tone}`} aria-hidden />
            <b className="font-semibold">{count(difference[part])}</b>{' '}
            <span className="text-faint">{words}</span>
          </span>
        ))}
      </p>
      {difference.waiting > 0 && (
        <p className="text-[12.5px] text-warning">
          {count(difference.waiting)} of the budgets wait for tomorrow
        </p>
      )}
    </div>
  );
}
