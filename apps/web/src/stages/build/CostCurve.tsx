import * as api from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { Help } from '../../frame/Help.tsx';
import { counted, estimate, percent } from '../../kit/format.ts';
import { useDayWords } from '../../plan/day-words.ts';
import { clicksWords, restsOn } from '../../plan/forecast-words.ts';
import { CurvePicture } from './CurvePicture.tsx';
import { Would } from './Would.tsx';

type Props = {
  plan: number;
  currency: string;
  scope: api.BidScope;
  forecast: api.ForecastView;
  onChanged: () => void;
};

/**
 * Cost against clicks of a day, one point for each position that all bids could be aimed at. The handle is dragged along
 * it; what that would do is told at once, and done by the button.
 */
export function CostCurve({ plan, currency, scope, forecast, onChanged }: Props) {
  const [place, setPlace] = useState<number | null>(null);
  const [byShare, setByShare] = useState<number | null>(null);
  const [headroom, setHeadroom] = useState(0);
  const day = useDayWords(plan);
  const { curve, now } = forecast;
  const point = place === null ? null : (curve[place] ?? null);
  const byPosition: Aimed | null = point && { kind: 'position', at: point.position };
  const aim: Aimed | null = byShare === null ? byPosition : { kind: 'share', at: byShare };
  const { data: would } = useQuery({
    ...question(api.aimBids, { params: { plan }, body: { scope, aim: aim as Aimed, headroom, dry: true } }),
    enabled: aim !== null,
    placeholderData: keepPreviousData,
  });
  const { write: aimAll } = useWrite(api.aimBids, {
    said: ({ changed }) => `Changed ${counted(changed, 'bid')}. They are held from now on.`,
  });
  const apply = async () => {
    if (!aim) return;
    const aimed = await aimAll({ params: { plan }, body: { scope, aim, headroom, dry: false } });
    if (!aimed) return;
    setPlace(null);
    setByShare(null);
    onChanged();
  };
  return (
    <section aria-label="Aim bids" className="flex flex-col gap-1.5">
      <CurvePicture
        forecast={forecast}
        place={place}
        currency={currency}
        day={day}
        onPlace={(next) => {
          setByShare(null);
          setPlace(next);
        }}
      />
      <p className="text-[12.5px]">
        <span className="mr-1 inline-block size-2 rotate-45 bg-base-content" aria-hidden /> Now{' '}
        <b>{clicksWords(now.clicks)}</b> for <b>{estimate(now.cost, currency)}</b> {day}
        {forecast.position !== null && <>, about position {forecast.position}</>}, eight in ten from{' '}
        {estimate(forecast.low.cost, currency)} to {estimate(forecast.high.cost, currency)}
        {forecast.held.reached < 10_000 && (
          <>
            ; the daily budget reaches{' '}
            <b className="text-warning">{percent(Math.round(forecast.held.reached / 100) * 100)}</b> of it
          </>
        )}
        . <span className="text-faint">{restsOn(forecast)}</span>
      </p>
      <p className="flex flex-wrap items-center gap-x-2 gap-y-1 text-[12.5px]">
        <label className="flex items-center gap-1">
          or a share of impressions of{' '}
          <input
            type="number"
            min={1}
            max={100}
            aria-label="Share of impressions, %"
            className="plain-field chip w-14 text-right"
            value={byShare === null ? '' : byShare / 100}
            placeholder="–"
            onChange={({ target }) => {
              const typed = Number(target.value);
              setByShare(
                target.value === '' || !(typed >= 1 && typed <= 100) ? null : Math.round(typed * 100),
              );
            }}
          />
          %
        </label>
        <label className="flex items-center gap-1">
          with{' '}
          <input
            type="number"
            min={0}
            max={1000}
            aria-label="Headroom, %"
            className="plain-field chip w-14 text-right"
            value={headroom / 100}
            onChange={({ target }) =>
              setHeadroom(Math.max(0, Math.min(100_000, Math.round(Number(target.value) * 100) || 0)))
            }
          />
          % on top
        </label>
      </p>
      {aim && would && (
        <Would
          would={would}
          currency={currency}
          day={day}
          onAim={() => void apply()}
          onLeave={() => {
            setPlace(null);
            setByShare(null);
          }}
        />
      )}
      {!aim && (
        <Help>
          Drag along the curve, or use the arrow keys, to aim these bids at a position. Each search is counted
          once, at its keyword’s highest bid; what wider match types reach besides is not in it.
        </Help>
      )}
    </section>
  );
}

type Aimed = { kind: 'position'; at: number } | { kind: 'share'; at: number };
