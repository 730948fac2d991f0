import { type Days, type Look, type LookAnswer, readLookDays } from '@sprig/contracts';
import { LATE_DAYS, type ResultFigure, resultFigures } from '@sprig/core/learn';
import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { extent, line, max, scaleLinear, scaleUtc } from 'd3';
import { type PointerEvent, useRef, useState } from 'react';
import { question } from '../../data/question.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { counted } from '../../kit/format.ts';
import { useWidth } from '../../kit/use-width.ts';
import { dayText, figureAt, figureText, figureWords } from '../../plan/results/result-words.ts';
import { noLookWords } from './look-words.ts';
import { paceWords } from './pace-words.ts';
import { UpAxis } from './UpAxis.tsx';

type Props = {
  plan: number;
  look: Look;
  found: LookAnswer;
  figure: ResultFigure;
  onFigure: (figure: ResultFigure) => void;
  onRange: (range: Days) => void;
};

const HEIGHT = 236;
const PAD = { left: 52, right: 14, top: 34, bottom: 24 };
const USUAL_WIDTH = 1_200;
const DAY_MS = 86_400_000;
const LATE: ReadonlySet<ResultFigure> = new Set([
  'conversions',
  'rate',
  'costPerConversion',
  'value',
  'return',
]);

/** A figure by day; days that are dragged across become the range. */
export function DaysPicture({ plan, look, found, figure, onFigure, onRange }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const width = useWidth(box, USUAL_WIDTH);
  const [drag, setDrag] = useState<readonly [number, number] | null>(null);
  const { data } = useQuery({
    ...question(readLookDays, { params: { plan }, body: { look } }),
    placeholderData: keepPreviousData,
  });
  const currency = found.account?.currency ?? 'EUR';
  const days = (data?.days ?? []).map(({ day, figures }) => ({
    day,
    at: Date.parse(day),
    value: figureAt(figure, figures),
  }));
  const budget = figure === 'cost' ? (data?.budget ?? null) : null;
  const [first = 0, last = 1] = extent(days, ({ at }) => at);
  const x = scaleUtc()
    .domain([first - DAY_MS / 2, last + DAY_MS / 2])
    .range([PAD.left, width - PAD.right]);
  const y = scaleLinear()
    .domain([0, Math.max(max(days, ({ value }) => value ?? 0) ?? 1, budget?.daily ?? 0, 1e-9)])
    .nice()
    .range([HEIGHT - PAD.bottom, PAD.top]);
  const shown = days.filter(({ value }) => value !== null);
  const path = line<(typeof days)[number]>()
    .x(({ at }) => x(at))
    .y(({ value }) => y(value ?? 0))(shown);
  const told = found.told ? Date.parse(found.told.to) : last;
  const lateFrom = x(told - (LATE_DAYS - 0.5) * DAY_MS);
  const isLate = LATE.has(figure) && lateFrom < width - PAD.right;
  const at = ({ currentTarget, clientX }: PointerEvent<SVGSVGElement>) =>
    clientX - currentTarget.getBoundingClientRect().left;
  const end = () => {
    const [from, to] = drag ?? [0, 0];
    setDrag(null);
    if (Math.abs(to - from) < 6) return;
    const iso = (pixel: number) =>
      new Date(Math.round(x.invert(pixel).getTime() / DAY_MS) * DAY_MS).toISOString().slice(0, 10);
    const [left, right] = [Math.min(from, to), Math.max(from, to)];
    onRange({ from: iso(Math.max(left, PAD.left)), to: iso(Math.min(right, width - PAD.right)) });
  };
  const marked = (data?.marks ?? []).reduce((sum, one) => sum + one.count, 0);
  const words = data?.why ? noLookWords(data.why, look.by) : null;
  return (
    <figure
      className="relative shrink-0 border-hair border-b px-4"
      aria-label={`${figureWords[figure]} by day`}
    >
      <span className="absolute top-1 left-16 z-10">
        <ChoiceChip
          label="Figure by day"
          value={figure}
          choices={resultFigures
            .filter((name) => name === figure || figureAt(name, found.totals) !== null)
            .map((name) => ({ value: name, words: figureWords[name] }))}
          onChoose={onFigure}
        />
      </span>
      <div ref={box}>
        <svg
          width={width}
          height={HEIGHT}
          role="img"
          className="block cursor-ew-resize touch-none select-none"
          onPointerDown={(event) => {
            event.currentTarget.setPointerCapture?.(event.pointerId);
            setDrag([at(event), at(event)]);
          }}
          onPointerMove={(event) => event.buttons === 1 && drag && setDrag([drag[0], at(event)])}
          onPointerUp={end}
        >
          <title>{`${figureWords[figure]} by day: drag across days to look at them alone; by days in the table below`}</title>
          <defs>
            <pattern
              id="late-days"
              width="6"
              height="6"
              patternUnits="userSpaceOnUse"
              patternTransform="rotate(45)"
            >
              <line x1="0" y1="0" x2="0" y2="6" className="stroke-hair" strokeWidth="3" />
            </pattern>
          </defs>
          {isLate && (
            <rect
              x={Math.max(lateFrom, PAD.left)}
              y={PAD.top}
              width={width - PAD.right - Math.max(lateFrom, PAD.left)}
              height={HEIGHT - PAD.top - PAD.bottom}
              fill="url(#late-days)"
            >
              <title>{`Conversions come late: those of the last ${LATE_DAYS} days are not all told yet`}</title>
            </rect>
          )}
          <UpAxis y={y} left={PAD.left} right={width - PAD.right} figure={figure} currency={currency} />
          {x.ticks(Math.min(days.length, 12)).map((tick) => (
            <text
              key={tick.getTime()}
              x={x(tick)}
              y={HEIGHT - 8}
              textAnchor="middle"
              className="fill-faint text-[10.5px]"
            >
              {dayText(tick.toISOString().slice(0, 10))}
            </text>
          ))}
          {budget && (
            <line
              x1={PAD.left}
              x2={width - PAD.right}
              y1={y(budget.daily)}
              y2={y(budget.daily)}
              className="stroke-warning"
              strokeWidth="1.4"
              strokeDasharray="7 4"
              data-budget={budget.daily}
            />
          )}
          <path d={path ?? ''} className="fill-none stroke-primary" strokeWidth="1.8" />
          {shown.map(({ day, at: when, value }) => (
            <circle
              key={day}
              cx={x(when)}
              cy={y(value ?? 0)}
              r="3"
              className="fill-base-100 stroke-primary"
              strokeWidth="1.5"
            >
              <title>{`${dayText(day)}: ${figureText(figure, value, currency)}`}</title>
            </circle>
          ))}
          {(data?.marks ?? []).map(({ day, count, labels }) => (
            <g key={day} transform={`translate(${x(Date.parse(day))},${HEIGHT - PAD.bottom})`}>
              <line y1={-(HEIGHT - PAD.top - PAD.bottom)} className="stroke-info/60" strokeDasharray="2 3" />
              <path d="M0 1 L5 9 L-5 9 Z" className="fill-info" data-mark={day} />
              <title>{markWords(day, count, labels)}</title>
            </g>
          ))}
          {drag && (
            <rect
              x={Math.min(...drag)}
              y={PAD.top}
              width={Math.abs(drag[1] - drag[0])}
              height={HEIGHT - PAD.top - PAD.bottom}
              className="pointer-events-none fill-warning/20 stroke-warning"
            />
          )}
        </svg>
      </div>
      {words && (
        <p className="absolute inset-0 grid place-items-center text-center text-faint">
          {words[0]}. {words[1]}
        </p>
      )}
      {marked > 0 && (
        <p className="absolute bottom-0 left-16 text-[11px] text-faint">
          ▲ days on which the plan was changed or shipped
        </p>
      )}
      {budget && (
        <p className="absolute top-2 right-6 text-[11.5px] text-faint">
          dashed: daily budgets, {figureText('cost', budget.daily, currency)} · {paceWords(budget, currency)}
        </p>
      )}
      {isLate && (
        <p className="absolute top-2 right-6 text-[11.5px] text-faint">
          hatched: conversions of the last {LATE_DAYS} days may still come
        </p>
      )}
    </figure>
  );
}

/** `17 Nov: 6 changes. Block 14 words; Shipped (2); …` */
function markWords(day: string, count: number, labels: readonly string[]): string {
  const more = count > labels.length ? '; …' : '';
  return `${dayText(day)}: ${counted(count, 'change')}. ${labels.join('; ')}${more}`;
}
