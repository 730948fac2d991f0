import { actOnVerdicts, type JudgedBy, type VerdictAct } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call, wordsOf } from '../../data/call.ts';
import { computed } from '../../data/question.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted } from '../../kit/format.ts';
import { BeforeAfter } from './BeforeAfter.tsx';
import { LookAgainOn, usualLookAgain } from './LookAgainOn.tsx';
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
const USUAL_RAISE = 20;

/** What would be done about verdicts, before and after, and when they are looked at again. */
export function ActDialog({ plan, by, keys, kind, currency, onClose }: Props) {
  const [percent, setPercent] = useState(String(USUAL_RAISE));
  const [until, setUntil] = useState(usualLookAgain());
  const raise = Number(percent);
  const isSound = kind !== 'raise' || (Number.isInteger(raise) && raise >= 1 && raise <= 900);
  const act: VerdictAct = kind === 'raise' ? { kind, by: isSound ? raise : USUAL_RAISE } : { kind };
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
        <LookAgainOn until={until} onUntil={setUntil} />
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
        {would && <BeforeAfter samples={would.samples} currency={currency} />}
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
