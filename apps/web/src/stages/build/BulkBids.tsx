import * as api from '@sprig/contracts';
import type { NetworkName } from '@sprig/core/outlets';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { Help } from '../../frame/Help.tsx';
import { ChoiceChip } from '../../kit/chips.tsx';
import { Dialog } from '../../kit/Dialog.tsx';
import { DialogFoot } from '../../kit/DialogFoot.tsx';
import { count, counted, estimate, money } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { useDayWords } from '../../plan/day-words.ts';
import { clicksWords } from '../../plan/forecast-words.ts';
import { useBidNetworks } from '../../plan/use-outlets.ts';
import { AimFields } from './AimFields.tsx';
import {
  type AimKind,
  type AimTyped,
  aimKinds,
  bidKinds,
  type Kind,
  type ReadAim,
  readAim,
  readChange,
} from './bid-change.ts';
import { CantBeAimed } from './Would.tsx';

type Props = {
  plan: number;
  currency: string;
  scope: api.BidScope;
  what: string;
  onClose: () => void;
};

/** One change to many bids: before and after, the count and the estimated spend stand there before anything is done. */
export function BulkBids({ plan, currency, scope, what, onClose }: Props) {
  const [kind, setKind] = useState<Kind | AimKind>('raise');
  const [network, setNetwork] = useState<NetworkName>('search');
  const networks = useBidNetworks(plan);
  const day = useDayWords(plan);
  const [first, setFirst] = useState('10');
  const [second, setSecond] = useState('');
  const [aimed, setAimed] = useState<Omit<AimTyped, 'kind'>>({
    at: '3',
    beyond: '0',
    by: 'of-bid',
    ceiling: '',
  });
  const said = {
    said: ({ changed }: api.BidsAnswer) => `Changed ${counted(changed, 'bid')}. They are held from now on.`,
  };
  const { write: changeAll, isBusy } = useWrite(api.changeBids, said);
  const { write: aimAll, isBusy: isAiming } = useWrite(api.aimBids, said);
  const isAim = kind === 'position' || kind === 'share';
  const read = isAim ? readAim({ kind, ...aimed }) : readChange(kind, first, second);
  const change = 'change' in read ? read.change : null;
  const aim = 'aim' in read ? read : null;
  const isReady = change !== null || aim !== null;
  const params = { plan };
  const changing = useQuery({
    ...question(api.changeBids, { params, body: { scope, change: change as never, network, dry: true } }),
    enabled: change !== null,
    placeholderData: keepPreviousData,
  });
  const aiming = useQuery({
    ...question(api.aimBids, { params, body: { scope, ...(aim as ReadAim), network, dry: true } }),
    enabled: aim !== null,
    placeholderData: keepPreviousData,
  });
  const would = isAim ? aiming.data : changing.data;
  const apply = async () => {
    const done = change
      ? await changeAll({ params, body: { scope, change: change as never, network, dry: false } })
      : aim && (await aimAll({ params, body: { scope, ...aim, network, dry: false } }));
    if (done) onClose();
  };
  const isPercent = kind === 'raise' || kind === 'lower';
  const amountWord = isPercent ? 'Percent' : 'Amount';
  return (
    <Dialog title={`Bids of ${what}`} onClose={onClose} wide>
      <p className="text-[14px] leading-9">
        Take the bids{' '}
        {networks.length > 1 && (
          <>
            <ChoiceChip
              label="On which network"
              value={network}
              choices={networks}
              onChoose={setNetwork}
            />{' '}
          </>
        )}
        of {what} and{' '}
        <ChoiceChip
          label="What to do with the bids"
          value={kind}
          choices={[...bidKinds, ...aimKinds]}
          onChoose={setKind}
        />{' '}
        {isAim ? (
          <AimFields kind={kind} aimed={aimed} onAim={setAimed} onEnter={() => void apply()} />
        ) : (
          <input
            autoFocus
            aria-label={kind === 'between' ? 'Least bid' : amountWord}
            className={`plain-field chip w-20 text-right ${'words' in read ? 'chip-bad' : ''}`}
            value={first}
            onChange={({ target }) => setFirst(target.value)}
            onKeyDown={(event) => event.key === 'Enter' && void apply()}
          />
        )}
        {isPercent && ' %'}
        {kind === 'between' && (
          <>
            {' '}
            and{' '}
            <input
              aria-label="Greatest bid"
              className={`plain-field chip w-20 text-right ${'words' in read ? 'chip-bad' : ''}`}
              value={second}
              onChange={({ target }) => setSecond(target.value)}
            />
          </>
        )}
        .
      </p>
      {'words' in read && (
        <p role="alert" className="text-[12.5px] text-error">
          {read.words}
        </p>
      )}
      {would && isReady && (
        <>
          <p role="status" className="mt-1 text-[13px]">
            {counted(would.changed, 'bid')} of {count(would.rows)} would change.{' '}
            {network === 'search' ? (
              <>
                By the forecast: {clicksWords(would.before.clicks)} for{' '}
                {estimate(would.before.cost, currency)} →{' '}
                <b>
                  {clicksWords(would.after.clicks)} for {estimate(would.after.cost, currency)}
                </b>{' '}
                {day}.
              </>
            ) : (
              <span className="text-faint">
                The forecast speaks of search alone.
                {isAim && ' A place there is taken to cost the share of a bid in search that is set in Ship.'}
              </span>
            )}
          </p>
          <CantBeAimed unreachable={would.unreachable} />
          <table className="mt-2 w-full text-[13px]">
            <thead className="text-[12px] text-faint">
              <tr>
                <th className="text-left font-normal">Keyword</th>
                <th className="w-32 text-left font-normal">Match type</th>
                <th className="w-20 text-right font-normal">Before</th>
                <th className="w-20 text-right font-normal">After</th>
              </tr>
            </thead>
            <tbody>
              {would.samples.slice(0, 14).map(({ key, text, type, before, after }) => (
                <tr key={key} className="h-6">
                  <td className="max-w-0 truncate">{text}</td>
                  <td>
                    <ReachBars type={type} /> {matchWords[type]}
                  </td>
                  <td className="text-right text-faint">{money(before, currency)}</td>
                  <td className="text-right font-semibold">{money(after, currency)}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {would.changed > 14 && (
            <p className="text-[12px] text-faint">
              and {count(would.changed - 14)} more; those that change most come first
            </p>
          )}
        </>
      )}
      <DialogFoot
        words={`Change ${counted(would?.changed ?? 0, 'bid')}`}
        isOff={!isReady || !would || would.changed === 0 || isBusy || isAiming}
        onDo={() => void apply()}
        onLeave={onClose}
      />
      <Help>
        Changed bids are held: they stay when the ladder moves, until they are let go. One step of undo takes
        all of it back.
      </Help>
    </Dialog>
  );
}
