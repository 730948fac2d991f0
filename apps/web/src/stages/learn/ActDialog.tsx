import { actOnVerdicts, type JudgedBy, type VerdictAct } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { computed } from '../../data/question.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted } from '../../kit/format.ts';
import { figureText } from '../../plan/results/result-words.ts';
import { useActing } from './use-verdicts.ts';

type Props = {
  plan: number;
  by: JudgedBy;
  keys: readonly string[];
  kind: VerdictAct['kind'];
  currency: string;
  onClose: (done: boolean) => void;
};

const THINGS: Record<JudgedBy, string> = { keyword: 'keyword row', group: 'ad group', ad: 'ad' };
const titleOf = (kind: VerdictAct['kind'], what: string): string =>
  ({ pause: `Pause ${what}`, raise: `Raise the bids of ${what}`, seen: `See to ${what}` })[kind];
const DAY_MS = 86_400_000;
const isoIn = (days: number): string => new Date(Date.now() + days * DAY_MS).toISOString().slice(0, 10);
const USUAL = { raise: 20, days: 14 };

/** What would be done about verdicts, before and after, and when they are looked at again. */
export function ActDialog({ plan, by, keys, kind, currency, onClose }: Props) {
  const [percent, setPercent] = useState(String(USUAL.raise));
  const [until, setUntil] = useState(isoIn(USUAL.days));
  const raise = Number(percent);
  const isSound = kind !== 'raise' || (Number.isInteger(raise) && raise >= 1 && raise <= 900);
  const act: VerdictAct = kind === 'raise' ? { kind, by: isSound ? raise : USUAL.raise } : { kind };
  const body = { by, keys: [...keys], act, until };
  const { data: would, error } = useQuery({
    ...computed(plan, ['verdict act', body], () =>
      call(actOnVerdicts, { params: { plan }, body: { ...body, dry: true } }),
    ),
    enabled: isSound && until !== '',
  });
  const { write, isBusy, refusal } = useActing();
  const what = counted(keys.length, THINGS[by]);
  const go = async () => {
    if (await write({ params: { plan }, body: { ...body, dry: false } })) onClose(true);
  };
  return (
    <Dialog title={titleOf(kind, what)} onClose={() => onClose(false)}>
      <form
        className="flex flex-col gap-3 text-[14px]"
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        {kind === 'raise' && (
          <label className="flex items-center gap-2">
            Raise each bid by
            <input
              className="input input-sm w-20 text-right"
              inputMode="numeric"
              aria-label="Percent"
              aria-invalid={!isSound}
              value={percent}
              onChange={({ target }) => setPercent(target.value)}
            />
            %
          </label>
        )}
        {!isSound && (
          <p role="alert" className="text-error text-xs">
            “{percent}” is no percentage from 1 to 900.
          </p>
        )}
        <label className="flex items-center gap-2">
          They rest, and are looked at again on
          <input
            type="date"
            className="input input-sm w-40"
            aria-label="Look again on"
            min={isoIn(1)}
            value={until}
            onChange={({ target }) => setUntil(target.value)}
          />
        </label>
        {would && kind !== 'seen' && (
          <p className="text-faint">
            {would.changed === 0
              ? 'Nothing would change: they are paused, gone from the plan, or were raised just now.'
              : `${counted(would.changed, kind === 'raise' ? 'bid' : 'row')} would change; the next difference ships ${would.changed === 1 ? 'it' : 'them'}.`}
          </p>
        )}
        {would && would.tooSoon > 0 && (
          <p className="text-warning">
            {counted(would.tooSoon, THINGS[by])} left as {would.tooSoon === 1 ? 'it is' : 'they are'}: too few
            clicks have come since the last raise.
          </p>
        )}
        {would && would.samples.length > 0 && (
          <ul className="rounded-md bg-base-200/60 p-2 text-[13px]" aria-label="Before and after">
            {would.samples.map(({ text, before, after }) => (
              <li key={`${text} ${before}`} className="flex justify-between gap-4">
                <span className="truncate">{text}</span>
                <span className="shrink-0">
                  <span className="text-faint">{figureText('cpc', before, currency)} →</span>{' '}
                  {figureText('cpc', after, currency)}
                </span>
              </li>
            ))}
          </ul>
        )}
        {(error || refusal) && (
          <p role="alert" className="text-error text-xs">
            {refusal ?? wordsOf(error)}
          </p>
        )}
        <div className="flex gap-2">
          <button
            type="submit"
            className="btn btn-primary btn-sm"
            disabled={isBusy || !isSound || !would || would.changed === 0}
          >
            {titleOf(kind, what)}
          </button>
          <button type="button" className="btn btn-ghost btn-sm" onClick={() => onClose(false)}>
            Leave them
          </button>
        </div>
      </form>
    </Dialog>
  );
}
