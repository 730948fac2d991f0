import { daysOn } from '@sprig/core/learn';

const isoIn = (days: number): string => daysOn(new Date().toISOString().slice(0, 10), days);
const USUAL_DAYS = 14;

export const usualLookAgain = (): string => isoIn(USUAL_DAYS);

/** The day until which what was done rests. */
export function LookAgainOn({ until, onUntil }: { until: string; onUntil: (until: string) => void }) {
  return (
    <label className="flex items-center gap-2">
      They rest, and are looked at again on
      <input
        type="date"
        className="input input-sm w-40"
        aria-label="Look again on"
        min={isoIn(1)}
        value={until}
        onChange={({ target }) => onUntil(target.value)}
      />
    </label>
  );
}
