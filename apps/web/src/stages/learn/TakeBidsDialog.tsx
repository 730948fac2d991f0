import { takeResultBids } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { call } from '../../data/call.ts';
import { computed } from '../../data/question.ts';
import { Dialog } from '../../kit/Dialog.tsx';
import { counted } from '../../kit/format.ts';
import { figureText } from '../../plan/results/result-words.ts';
import { ActFoot } from './ActFoot.tsx';
import { BeforeAfter } from './BeforeAfter.tsx';
import { LookAgainOn, usualLookAgain } from './LookAgainOn.tsx';
import { useTakingBids } from './use-bids.ts';

type Props = {
  plan: number;
  from: 'aim' | 'bands';
  /** null: all that change. */
  keys: readonly string[] | null;
  stamp: string;
  currency: string;
  onClose: (done: boolean) => void;
};

const SHOWN = 8;

/** What setting these bids would do, and when they are looked at again. */
export function TakeBidsDialog({ plan, from, keys, stamp, currency, onClose }: Props) {
  const [until, setUntil] = useState(usualLookAgain());
  const body = { from, keys: keys && [...keys], stamp, until };
  const { data: would, error } = useQuery({
    ...computed(plan, ['result bids', body], () =>
      call(takeResultBids, { params: { plan }, body: { ...body, dry: true } }),
    ),
    enabled: until !== '',
  });
  const { write, isBusy, refusal } = useTakingBids();
  const go = async () => {
    if (await write({ params: { plan }, body: { ...body, dry: false } })) onClose(true);
  };
  const title = would ? `Set ${counted(would.changed, 'bid')}` : 'Set bids';
  return (
    <Dialog title={title} onClose={() => onClose(false)}>
      <form
        className="flex flex-col gap-3 text-[14px]"
        onSubmit={(event) => {
          event.preventDefault();
          void go();
        }}
      >
        <LookAgainOn until={until} onUntil={setUntil} />
        {would && (
          <p className="text-faint">
            {would.before.cost === 0 && would.after.cost === 0
              ? 'Nothing can be forecast of these: their searches or their CPC are not known.'
              : `Forecast of a day: ${figureText('cost', would.before.cost, currency)} → ${figureText('cost', would.after.cost, currency)}, ${figureText('clicks', Math.round(would.before.clicks), currency)} → ${figureText('clicks', Math.round(would.after.clicks), currency)} clicks.`}
          </p>
        )}
        {would && <BeforeAfter samples={would.samples.slice(0, SHOWN)} currency={currency} />}
        <p className="text-[12.5px] text-faint">They are held from then on, and can be let go in Build.</p>
        <ActFoot
          words={title}
          isReady={!isBusy && !!would && would.changed > 0}
          error={error}
          refusal={refusal}
          onLeave={() => onClose(false)}
        />
      </form>
    </Dialog>
  );
}
