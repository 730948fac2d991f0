import * as api from '@sprig/contracts';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { line, max, scaleLinear } from 'd3';
import { type KeyboardEvent, type PointerEvent, useRef, useState } from 'react';
import { question } from '../../data/question.ts';
import { useWrite } from '../../data/use-write.ts';
import { Help } from '../../frame/Help.tsx';
import { count, counted, estimate, money, percent } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { useDayWords } from '../../plan/day-words.ts';
import { clicksWords, restsOn } from '../../plan/forecast-words.ts';

type Props = {
  plan: number;
  currency: string;
  scope: api.BidScope;
  forecast: api.ForecastView;
  onChanged: () => void;
};

const WIDTH = 360;
const HEIGHT = 150;
const PAD = { left: 8, right: 12, top: 14, bottom: 20 };

/**
 * Cost against clicks of a day, one point for each position that all bids could be aimed at. The handle is dragged along
 * it; what that would do is told at once, and done by the button.
 */
export function CostCurve({ plan, currency, scope, forecast, onChanged }: Props) {
  const [place, setPlace] = useState<number | null>(null);
  const [byShare, setByShare] = useState<number | null>(null);
  const [headroom, setHeadroom] = useState(0);
  const picture = useRef<SVGSVGElement>(null);
  const day = useDayWords(plan);
  const { curve, now } = forecast;
  const x = scaleLinear()
    .domain([0, Math.max(now.cost, max(curve, ({ cost }) => cost) ?? 0, 1)])
    .range([PAD.left, WIDTH - PAD.right]);
  const y = scaleLinear()
    .domain([0, Math.max(now.clicks, max(curve, ({ clicks }) => clicks) ?? 0, 0.001)])
    .range([HEIGHT - PAD.bottom, PAD.top]);
  const path = line<api.DayForecast>()
    .x(({ cost }) => x(cost))
    .y(({ clicks }) => y(clicks))([...curve].sort((a, b) => a.cost - b.cost));
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
  const nearest = (event: PointerEvent) => {
    const box = picture.current?.getBoundingClientRect();
    if (!box) return;
    const cost = x.invert(((event.clientX - box.left) / box.width) * WIDTH);
    let best = 0;
    curve.forEach((one, at) => {
      if (Math.abs(one.cost - cost) < Math.abs((curve[best]?.cost ?? 0) - cost)) best = at;
    });
    setByShare(null);
    setPlace(best);
  };
  const step = (event: KeyboardEvent) => {
    const from = place ?? nearestPlace(curve, now.cost);
    const steps: Record<string, number | null> = {
      ArrowRight: from - 1,
      ArrowUp: from - 1,
      ArrowLeft: from + 1,
      ArrowDown: from + 1,
      Escape: null,
    };
    const next = steps[event.key];
    if (next === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    setByShare(null);
    setPlace(next === null ? null : Math.max(0, Math.min(curve.length - 1, next)));
  };
  const apply = async () => {
    if (!aim) return;
    const aimed = await aimAll({ params: { plan }, body: { scope, aim, headroom, dry: false } });
    if (!aimed) return;
    setPlace(null);
    setByShare(null);
    onChanged();
  };
  const unreachable = would && aim ? Object.values(would.unreachable).reduce((sum, one) => sum + one, 0) : 0;
  return (
    <section aria-label="Aim bids" className="flex flex-col gap-1.5">
      <svg
        ref={picture}
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="h-[150px] w-full max-w-[420px] cursor-ew-resize touch-none select-none"
        role="slider"
        tabIndex={0}
        aria-label="Aim all bids at a position"
        aria-valuemin={1}
        aria-valuemax={8}
        aria-valuenow={point?.position ?? forecast.position ?? 8}
        aria-valuetext={
          point
            ? `position ${point.position}: ${clicksWords(point.clicks)} for ${estimate(point.cost, currency)} ${day}`
            : `now: ${clicksWords(now.clicks)} for ${estimate(now.cost, currency)} ${day}`
        }
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          nearest(event);
        }}
        onPointerMove={(event) => event.buttons === 1 && nearest(event)}
        onKeyDown={step}
      >
        <line
          x1={PAD.left}
          x2={WIDTH - PAD.right}
          y1={HEIGHT - PAD.bottom}
          y2={HEIGHT - PAD.bottom}
          className="stroke-hair"
        />
        <path d={path ?? ''} className="fill-none stroke-primary" strokeWidth="2" />
        {curve.map(({ position, cost, clicks, unreachable: out }, at) => (
          <circle
            key={position}
            cx={x(cost)}
            cy={y(clicks)}
            r={at === place ? 7 : 3}
            className={
              at === place ? 'fill-primary' : `fill-base-100 ${out > 0 ? 'stroke-warning' : 'stroke-primary'}`
            }
            strokeWidth="1.5"
          />
        ))}
        {point && (
          <text
            x={Math.min(x(point.cost), WIDTH - 70)}
            y={Math.max(12, y(point.clicks) - 11)}
            textAnchor="middle"
            className="fill-base-content font-semibold text-[12px]"
          >
            position {point.position}
          </text>
        )}
        <g transform={`translate(${x(now.cost)},${y(now.clicks)})`}>
          <path d="M0 -6 L6 0 L0 6 L-6 0 Z" className="fill-base-content" />
        </g>
        <text x={WIDTH - PAD.right} y={HEIGHT - 6} textAnchor="end" className="fill-faint text-[11px]">
          cost {day} →
        </text>
        <text x={PAD.left} y={10} className="fill-faint text-[11px]">
          ↑ clicks {day}
        </text>
      </svg>
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
        <div className="rounded-md bg-base-200 px-2.5 py-1.5 text-[12.5px]" role="status">
          <p>
            {counted(would.changed, 'bid')} of {count(would.rows)} would change:{' '}
            {clicksWords(would.before.clicks)} → <b>{clicksWords(would.after.clicks)}</b>,{' '}
            {estimate(would.before.cost, currency)} → <b>{estimate(would.after.cost, currency)}</b> {day}.
          </p>
          {unreachable > 0 && (
            <p className="text-warning">
              {counted(unreachable, 'keyword')} can’t be aimed and would stay as they are:{' '}
              {reasons(would.unreachable)}.
            </p>
          )}
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
              onClick={() => void apply()}
            >
              Aim {counted(would.changed, 'bid')}
            </button>
            <button
              type="button"
              className="btn btn-ghost btn-xs"
              onClick={() => {
                setPlace(null);
                setByShare(null);
              }}
            >
              Leave them
            </button>
          </div>
        </div>
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

const REASONS = {
  'no-estimate': 'their searches or their CPC are not known',
  'out-of-reach': 'no bid gets there',
  'above-ceiling': 'it would take more than the greatest bid',
};
const reasons = (unreachable: Record<keyof typeof REASONS, number>): string =>
  (Object.keys(REASONS) as (keyof typeof REASONS)[])
    .filter((why) => unreachable[why] > 0)
    .map((why) => `${count(unreachable[why])} since ${REASONS[why]}`)
    .join(', ');

const nearestPlace = (curve: readonly { cost: number }[], cost: number): number =>
  curve.reduce(
    (best, one, at) => (Math.abs(one.cost - cost) < Math.abs((curve[best]?.cost ?? 0) - cost) ? at : best),
    0,
  );
