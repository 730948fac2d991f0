import type { aimBids } from '@sprig/contracts';
import type { z } from 'zod';
import { count, counted, estimate, money } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { clicksWords } from '../../plan/forecast-words.ts';

type Props = {
  would: z.output<typeof aimBids.answer>;
  currency: string;
  day: string;
  onAim: () => void;
  onLeave: () => void;
};

/** What aiming the bids would do, before it is done. */
export function Would({ would, currency, day, onAim, onLeave }: Props) {
  return (
    <div className="rounded-md bg-base-200 px-2.5 py-1.5 text-[12.5px]" role="status">
      <p>
        {counted(would.changed, 'bid')} of {count(would.rows)} would change:{' '}
        {clicksWords(would.before.clicks)} → <b>{clicksWords(would.after.clicks)}</b>,{' '}
        {estimate(would.before.cost, currency)} → <b>{estimate(would.after.cost, currency)}</b> {day}.
      </p>
      <CantBeAimed unreachable={would.unreachable} />
      <ul className="mt-1 max-h-20 overflow-auto">
        {would.samples.slice(0, 12).map(({ key, text, type, before, after }) => (
          <li key={key} className="flex justify-between gap-2">
            <span className="truncate">
              {text} <span className="text-faint">{matchWords[type]}</span>
            </span>
            <span className="shrink-0">
              {money(before, currency)} → {money(after, currency)}
            </span>
          </li>
        ))}
      </ul>
      <div className="mt-1.5 flex gap-2">
        <button
          type="button"
          className="btn btn-primary btn-xs"
          disabled={would.changed === 0}
          onClick={onAim}
        >
          Aim {counted(would.changed, 'bid')}
        </button>
        <button type="button" className="btn btn-ghost btn-xs" onClick={onLeave}>
          Leave them
        </button>
      </div>
    </div>
  );
}

const REASONS = {
  'no-estimate': 'their searches or their CPC are not known',
  'out-of-reach': 'no bid gets there',
  'above-ceiling': 'it would take more than the greatest bid',
};

/** How many keywords can’t be aimed, and why. */
export function CantBeAimed({ unreachable }: { unreachable: Record<keyof typeof REASONS, number> }) {
  const all = Object.values(unreachable).reduce((sum, one) => sum + one, 0);
  if (all === 0) return null;
  const reasons = (Object.keys(REASONS) as (keyof typeof REASONS)[])
    .filter((why) => unreachable[why] > 0)
    .map((why) => `${count(unreachable[why])} since ${REASONS[why]}`);
  return (
    <p className="text-[12.5px] text-warning">
      {counted(all, 'keyword')} can’t be aimed and would stay as they are: {reasons.join(', ')}.
    </p>
  );
}
