import type { Receipt } from '@sprig/contracts';
import * as d3 from 'd3';
import { useMemo } from 'react';
import { counted, time } from '../../kit/format.ts';
import { stateWords } from './ship-words.ts';

type Props = { receipts: readonly Receipt[]; chosen: string | null; onChoose: (set: string) => void };

const ROW = 26;
const LEFT = 118;
const STEP = 46;

/** Receipts in the order in which they came, a line for each outlet; a dot is as large as what was shipped. */
export function ReceiptsTimeline({ receipts, chosen, onChoose }: Props) {
  const { lanes, dots, radius } = useMemo(() => {
    const inOrder = receipts.toReversed();
    const outlets = [...new Map(inOrder.map((one) => [one.outlet, one.outletName]))];
    const rowsOf = ({ files }: Receipt) => files.reduce((sum, { rows }) => sum + rows, 0);
    const most = d3.max(inOrder, rowsOf) ?? 1;
    return {
      lanes: outlets,
      dots: inOrder.map((receipt, at) => ({
        receipt,
        at,
        lane: outlets.findIndex(([key]) => key === receipt.outlet),
        rows: rowsOf(receipt),
      })),
      radius: d3
        .scaleSqrt()
        .domain([0, Math.max(1, most)])
        .range([4, 10]),
    };
  }, [receipts]);
  const width = LEFT + dots.length * STEP + 16;
  const height = lanes.length * ROW + 8;
  return (
    <div className="overflow-x-auto" tabIndex={0} role="group" aria-label="Receipts in time">
      <div className="relative" style={{ width, height }}>
        <svg width={width} height={height} aria-hidden="true" className="absolute inset-0">
          {lanes.map(([key, name], lane) => (
            <g key={key} transform={`translate(0 ${lane * ROW + ROW / 2 + 4})`}>
              <text x={0} y={4} className="fill-current text-[12.5px]">
                {name.length > 16 ? `${name.slice(0, 15)}…` : name}
              </text>
              <line x1={LEFT - 10} x2={width - 8} className="stroke-hair" />
            </g>
          ))}
        </svg>
        {dots.map(({ receipt, at, lane, rows }) => {
          const r = radius(rows);
          const isChosen = receipt.id === chosen;
          return (
            <button
              key={receipt.id}
              type="button"
              aria-pressed={isChosen}
              aria-label={`Receipt ${receipt.n} of ${receipt.outletName}, ${stateWords[receipt.state]}, ${counted(rows, 'row')}, ${time(receipt.at)}`}
              title={`${receipt.outletName} ${receipt.n}: ${counted(rows, 'row')}, ${stateWords[receipt.state]}, ${time(receipt.at)}`}
              className="absolute grid size-6 cursor-pointer place-items-center rounded-full"
              style={{ left: LEFT + at * STEP, top: lane * ROW + 4 + (ROW - 24) / 2 }}
              onClick={() => onChoose(receipt.id)}
            >
              <Dot state={receipt.state} radius={r} isChosen={isChosen} />
            </button>
          );
        })}
      </div>
    </div>
  );
}

/** Hollow: written; filled: accepted; half: answered with refusals; crossed: withdrawn. */
function Dot({
  state,
  radius,
  isChosen = false,
}: {
  state: Receipt['state'];
  radius: number;
  isChosen?: boolean;
}) {
  const tones: Partial<Record<Receipt['state'], string>> = {
    answered: 'text-warning',
    withdrawn: 'text-faint',
  };
  const tone = tones[state] ?? 'text-primary';
  return (
    <svg width="24" height="24" viewBox="-12 -12 24 24" aria-hidden="true" className={tone}>
      {isChosen && <circle r={11} className="fill-wash stroke-current" strokeWidth="1" />}
      <circle
        r={radius}
        className={state === 'accepted' ? 'fill-current stroke-current' : 'fill-base-100 stroke-current'}
        strokeWidth="1.6"
      />
      {state === 'answered' && (
        <path d={`M0 ${-radius}A${radius} ${radius} 0 0 1 0 ${radius}Z`} className="fill-current" />
      )}
      {state === 'withdrawn' && (
        <path d={`M${-radius} ${-radius}L${radius} ${radius}`} className="stroke-current" strokeWidth="1.6" />
      )}
    </svg>
  );
}
