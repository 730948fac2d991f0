import type * as api from '@sprig/contracts';
import { line, max, scaleLinear } from 'd3';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';
import { estimate } from '../../kit/format.ts';
import { clicksWords } from '../../plan/forecast-words.ts';

const WIDTH = 360;
const HEIGHT = 150;
const PAD = { left: 8, right: 12, top: 14, bottom: 20 };

type Props = {
  forecast: api.ForecastView;
  /** Which point of the curve is aimed at; null: none. */
  place: number | null;
  currency: string;
  day: string;
  onPlace: (place: number | null) => void;
};

/** Cost against clicks of a day, one point for each position; the handle is dragged along it or moved by the arrows. */
export function CurvePicture({ forecast, place, currency, day, onPlace }: Props) {
  const picture = useRef<SVGSVGElement>(null);
  const { curve, now } = forecast;
  const point = place === null ? null : (curve[place] ?? null);
  const x = scaleLinear()
    .domain([0, Math.max(now.cost, max(curve, ({ cost }) => cost) ?? 0, 1)])
    .range([PAD.left, WIDTH - PAD.right]);
  const y = scaleLinear()
    .domain([0, Math.max(now.clicks, max(curve, ({ clicks }) => clicks) ?? 0, 0.001)])
    .range([HEIGHT - PAD.bottom, PAD.top]);
  const path = line<api.DayForecast>()
    .x(({ cost }) => x(cost))
    .y(({ clicks }) => y(clicks))([...curve].sort((a, b) => a.cost - b.cost));
  const nearest = (event: PointerEvent) => {
    const box = picture.current?.getBoundingClientRect();
    if (!box) return;
    onPlace(nearestPlace(curve, x.invert(((event.clientX - box.left) / box.width) * WIDTH)));
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
    onPlace(next === null ? null : Math.max(0, Math.min(curve.length - 1, next)));
  };
  return (
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
  );
}

const nearestPlace = (curve: readonly { cost: number }[], cost: number): number =>
  curve.reduce(
    (best, one, at) => (Math.abs(one.cost - cost) < Math.abs((curve[best]?.cost ?? 0) - cost) ? at : best),
    0,
  );
