import { scaleLinear } from 'd3';
import { type KeyboardEvent, type PointerEvent, useRef } from 'react';

export type LadderStep = {
  id: string;
  words: string;
  /** In basis points. */
  step: number;
  /** Shown above the step: a bid. */
  above: string;
  used: boolean;
};

type Props = {
  label: string;
  steps: LadderStep[];
  onDraft: (id: string, step: number) => void;
  onKeep: (id: string, step: number) => void;
  onUndraft: () => void;
};

const WIDTH = 360;
const HEIGHT = 150;
const FOOT = 20;
const HEAD = 22;
/** Steps go by these in basis points: with the mouse, with an arrow key, and with Shift. */
const SNAP = 500;
const FINE = 100;
const COARSE = 1_000;
const MOST = 100_000;

/** The ladder as steps to drag: up bids more, down bids less; what it makes is shown while it moves. */
export function LadderPicture({ label, steps, onDraft, onKeep, onUndraft }: Props) {
  const dragged = useRef<{ id: string; from: number; y: number; step: number; scale: number } | null>(null);
  const width = WIDTH / steps.length;
  const highest = Math.max(15_000, ...steps.map(({ step }) => step)) * 1.08;
  const y = scaleLinear()
    .domain([0, highest])
    .range([HEIGHT - FOOT, HEAD]);
  const down = (event: PointerEvent<SVGGElement>, { id, step }: LadderStep) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    const box = event.currentTarget.ownerSVGElement?.getBoundingClientRect();
    // The scale is kept as it was, so that the step stays under the hand.
    const perPixel = highest / (((HEIGHT - FOOT - HEAD) / HEIGHT) * (box?.height ?? HEIGHT));
    dragged.current = { id, from: step, y: event.clientY, step, scale: perPixel };
  };
  const move = (event: PointerEvent<SVGGElement>) => {
    const drag = dragged.current;
    if (!drag) return;
    const wanted = drag.from + (drag.y - event.clientY) * drag.scale;
    const step = Math.max(0, Math.min(MOST, Math.round(wanted / SNAP) * SNAP));
    if (step === drag.step) return;
    drag.step = step;
    onDraft(drag.id, step);
  };
  const up = () => {
    const drag = dragged.current;
    dragged.current = null;
    if (!drag) return;
    if (drag.step === drag.from) onUndraft();
    else onKeep(drag.id, drag.step);
  };
  const key = (event: KeyboardEvent, { id, step }: LadderStep) => {
    const by = event.shiftKey ? COARSE : FINE;
    const steps: Record<string, number> = { ArrowUp: step + by, ArrowDown: step - by };
    const next = steps[event.key];
    if (next === undefined) return;
    event.preventDefault();
    onKeep(id, Math.max(0, Math.min(MOST, next)));
  };
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="h-[150px] w-full max-w-[420px] select-none"
      aria-label={label}
      role="group"
    >
      <line x1="0" x2={WIDTH} y1={y(10_000)} y2={y(10_000)} className="stroke-faint" strokeDasharray="2 4" />
      {steps.map((one, at) => {
        const top = y(one.step);
        return (
          <g
            key={one.id}
            role="slider"
            tabIndex={0}
            aria-label={`${label}: ${one.words}`}
            aria-valuemin={0}
            aria-valuemax={1000}
            aria-valuenow={one.step / 100}
            aria-valuetext={`${one.step / 100}%, ${one.above}`}
            className={`cursor-ns-resize touch-none ${one.used ? '' : 'opacity-45'}`}
            onPointerDown={(event) => down(event, one)}
            onPointerMove={move}
            onPointerUp={up}
            onPointerCancel={up}
            onKeyDown={(event) => key(event, one)}
          >
            <rect
              x={at * width}
              y={HEAD - 14}
              width={width}
              height={HEIGHT - HEAD + 14}
              className="fill-transparent"
            />
            <rect x={at * width} y={top} width={width} height={HEIGHT - FOOT - top} className="fill-wash" />
            <line
              x1={at * width}
              x2={(at + 1) * width}
              y1={top}
              y2={top}
              className="stroke-primary"
              strokeWidth="3"
            />
            <rect
              x={at * width + width / 2 - 9}
              y={top - 2}
              width="18"
              height="4"
              rx="2"
              className="fill-primary"
            />
            <text
              x={at * width + width / 2}
              y={top - 8}
              textAnchor="middle"
              className="fill-base-content stroke-base-100 font-semibold text-[12px] [paint-order:stroke] [stroke-width:4px]"
            >
              {one.above}
            </text>
            <text
              x={at * width + width / 2}
              y={HEIGHT - FOOT - 6}
              textAnchor="middle"
              className="fill-faint text-[11px]"
            >
              {one.step / 100}%
            </text>
            <text
              x={at * width + width / 2}
              y={HEIGHT - 5}
              textAnchor="middle"
              className="fill-faint text-[11px]"
            >
              {one.words}
            </text>
          </g>
        );
      })}
    </svg>
  );
}
