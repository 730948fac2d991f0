import { actOnVerdicts, type JudgedBy, type VerdictAct } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../data/call.ts';
import { computed } from '../../data/question.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted } from '../../kit/format.ts';
import { ActFoot } from './ActFoot.tsx';
import { BeforeAfter } from './BeforeAfter.tsx';
import { LookAgainOn, usualLookAgain } from './LookAgainOn.tsx';
import { useActing } from './use-verdicts.ts';

type Props = {
  plan: number;
  by: JudgedBy;
  keys: readonly string[];
  kind: ActKind;
  currency: string;
  onClose: (done: boolean) => void;
};

const THINGS: Record<JudgedBy, string> = { keyword: 'keyword row', group: 'ad group', ad: 'ad' };
/** What is chosen in the list; how far bids are raised is said here. */
export type ActKind = 'pause' | 'raise' | 'seen';
const titleOf = (kind: ActKind, what: string): string =>
  ({ pause: `Pause ${what}`, raise: `Raise the bids of ${what}`, seen: `See to ${what}` })[kind];
const USUAL = { percent: 20, position: 2 };

/** What is typed as an act; null where that is none. */
function actOf(kind: ActKind, how: 'percent' | 'position', typed: string): VerdictAct | null {
  if (kind !== 'raise') return { kind };
  const value = Number(typed.replace(',', '.'));
  if (typed.trim() === '' || !Number.isFinite(value)) return null;
  if (how === 'position') return value >= 1 && value <= 8 ? { kind: 'aim', position: value } : null;
  return Number.isInteger(value) && value >= 1 && value <= 900 ? { kind, by: value } : null;
}

/** What would be done about verdicts, before and after, and when they are looked at again. */
export function ActDialog({ plan, by, keys, kind, currency, onClose }: Props) {
  const [how, setHow] = useState<'percent' | 'position'>('percent');
  const [typed, setTyped] = useState(String(USUAL.percent));
  const [until, setUntil] = useState(usualLookAgain());
  const read = actOf(kind, how, typed);
  const isSound = read !== null;
  const act: VerdictAct = read ?? { kind: 'seen' };
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
          <span className="flex items-center gap-2">
            Raise each bid
            <ChoiceChip
              label="How far"
              value={how}
              choices={[
                { value: 'percent', words: 'by percent' },
                { value: 'position', words: 'to position' },
              ]}
              onChoose={(next) => {
                setHow(next);
                setTyped(String(USUAL[next]));
              }}
            />
            <input
              className="input input-sm w-20 text-right"
              inputMode="decimal"
              aria-label={how === 'percent' ? 'Percent' : 'Position'}
              aria-invalid={!isSound}
              value={typed}
              onChange={({ target }) => setTyped(target.value)}
            />
            {how === 'percent' && '%'}
          </span>
        )}
        {!isSound && (
          <p role="alert" className="text-error text-xs">
            {how === 'percent'
              ? `“${typed}” is no percentage from 1 to 900.`
              : `“${typed}” is no position from 1 to 8.`}
          </p>
        )}
        {kind === 'raise' && how === 'position' && (
          <p className="text-[12.5px] text-faint">
            By what forecasts assume of positions, or was measured (Watch: forecast against what came).
          </p>
        )}
        <LookAgainOn until={until} onUntil={setUntil} />
        {would && kind !== 'seen' && (
          <p className="text-faint">
            {would.changed === 0
              ? 'Nothing would change: they are paused, gone from the plan, or were changed just now.'
              : `${counted(would.changed, kind === 'raise' ? 'bid' : 'row')} would change; the next difference ships ${would.changed === 1 ? 'it' : 'them'}.`}
          </p>
        )}
        {would && would.tooSoon > 0 && (
          <p className="text-warning">
            {counted(would.tooSoon, THINGS[by])} left as {would.tooSoon === 1 ? 'it is' : 'they are'}: too few
            clicks have come since the last change.
          </p>
        )}
        {would && would.outOfReach > 0 && (
          <p className="text-warning">
            {counted(would.outOfReach, 'keyword')} left as {would.outOfReach === 1 ? 'it is' : 'they are'}: no
            bid within the ceiling is known to reach it.
          </p>
        )}
        {would && <BeforeAfter samples={would.samples} currency={currency} />}
        <ActFoot
          words={titleOf(kind, what)}
          isReady={!isBusy && isSound && !!would && would.changed > 0}
          error={error}
          refusal={refusal}
          onLeave={() => onClose(false)}
        />
      </form>
    </Dialog>
  );
}
