import type { Facts } from '@sprig/contracts';
import { type Assumptions, assumptionLimits, CurveMaker } from '@sprig/core/figures';
import { line, scaleLinear } from 'd3';
import type { Document } from '../../data/document.ts';
import { Help } from '../../frame/Help.tsx';
import { PercentChip, TextChip } from '../../kit/chips.tsx';
import { Part, Sentence } from './LayoutSentences.tsx';
import { SeasonChip, SeasonHelp } from './SeasonChip.tsx';

type Props = { plan: number; facts: Document<Facts> };
type Percentage = keyof typeof assumptionLimits;

/** What forecasts take for granted, as a sentence, with the curve that it draws. */
export function AssumptionsSentence({ plan, facts }: Props) {
  const assumed = facts.value?.assumptions;
  if (!assumed) return null;
  const chip = (name: Percentage, label: string) => (
    <PercentChip
      label={label}
      value={assumed[name]}
      onDraft={(value) => facts.draft(`assumptions.${name}`, value)}
      onUndraft={facts.undraft}
      onKeep={(value) => keepWithin(facts, name, value as number, label)}
    />
  );
  const position = (name: 'priceAt' | 'lastPosition', label: string) => (
    <TextChip
      label={label}
      value={String(assumed[name])}
      shown={String(assumed[name])}
      read={readPosition}
      width={3}
      onDraft={(value) => facts.draft(`assumptions.${name}`, value)}
      onUndraft={facts.undraft}
      onKeep={(value) => facts.edit(`assumptions.${name}`, value)}
    />
  );
  return (
    <Part title="Assumed">
      <Sentence>
        A click costs its CPC at position {position('priceAt', 'Position of the CPC')}; a position higher
        costs {chip('step', 'A position higher costs more')} more (where competition is known, from{' '}
        {chip('stepAtNone', 'More at no competition')} at 0 to{' '}
        {chip('stepAtMost', 'More at full competition')} at 100); position 1 is clicked{' '}
        {chip('ctr', 'CTR at position 1')} of times it shows, each position down{' '}
        {chip('ctrFall', 'CTR less each position down')} less; ads show up to position{' '}
        {position('lastPosition', 'Last position')}, at position 1 for {chip('share', 'Share of searches')} of
        searches, each position down for {chip('shareFall', 'Fewer searches each position down')} fewer; the
        campaign’s networks, hours and places leave {chip('reach', 'Searches left')} of searches, which are
        those of <SeasonChip plan={plan} facts={facts} />.
      </Sentence>
      {assumed.measured && (
        <p className="text-[13px]">
          {assumed.measured.ctr && assumed.measured.price && 'CTR and prices'}
          {assumed.measured.ctr && !assumed.measured.price && 'CTR'}
          {!assumed.measured.ctr && assumed.measured.price && 'Prices'} by position are not these, but what
          was measured in {assumed.measured.account} from {assumed.measured.from} to {assumed.measured.to}.{' '}
          <button
            type="button"
            className="btn btn-ghost btn-xs font-normal"
            onClick={() => void facts.edit('assumptions.measured', null)}
          >
            Assume instead
          </button>
        </p>
      )}
      <Help>
        From the searches, CPC and competition of each keyword. What broad and phrase reach beyond a keyword’s
        own searches is not counted.
      </Help>
      <SeasonHelp plan={plan} facts={facts} />
    </Part>
  );
}

async function keepWithin(
  facts: Document<Facts>,
  name: Percentage,
  value: number,
  label: string,
): Promise<string | null> {
  const [least, most] = assumptionLimits[name];
  if (value < least || value > most) return `${label}: from ${least / 100}% to ${most / 100}%.`;
  return facts.edit(`assumptions.${name}`, value);
}

function readPosition(typed: string): { value: number } | { words: string } {
  return /^[1-8]$/.test(typed.trim())
    ? { value: Number(typed) }
    : { words: `“${typed}” is no position. Type a whole one from 1 to 8.` };
}

const WIDTH = 352;
const HEIGHT = 92;
const SEARCHES = 1_000;

/** Clicks of 1,000 searches against what a click costs, one dot for each position. */
export function CurvePicture({ assumptions }: { assumptions: Assumptions }) {
  const points = new CurveMaker(assumptions).of({ searches: SEARCHES, cpc: 1_000_000, competition: null });
  const dearest = Math.max(1.6, ...points.map(({ bid }) => bid / 1_000_000));
  const x = scaleLinear()
    .domain([0, dearest])
    .range([4, WIDTH - 8]);
  const y = scaleLinear()
    .domain([0, Math.max(80, ...points.map(({ clicks }) => clicks))])
    .range([HEIGHT - 14, 16]);
  const path = line<(typeof points)[number]>()
    .x(({ bid }) => x(bid / 1_000_000))
    .y(({ clicks }) => y(clicks))(points);
  return (
    <svg
      viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
      className="mt-1 w-full"
      role="img"
      aria-label={`Of ${SEARCHES} searches a month ${points
        .map(
          ({ position, clicks, bid }) =>
            `position ${position} brings ${clicks.toFixed(0)} clicks at ${(bid / 1_000_000).toFixed(2)} times the CPC`,
        )
        .join(', ')}`}
    >
      <line x1={4} x2={WIDTH - 8} y1={HEIGHT - 14} y2={HEIGHT - 14} className="stroke-hair" />
      <path d={path ?? ''} className="fill-none stroke-primary" strokeWidth="1.5" />
      {points.map(({ position, bid, clicks }) => (
        <g key={position}>
          <circle
            cx={x(bid / 1_000_000)}
            cy={y(clicks)}
            r={3}
            className="fill-base-100 stroke-primary"
            strokeWidth="1.5"
          />
          {position <= 3 && (
            <text
              x={x(bid / 1_000_000)}
              y={y(clicks) - 6}
              textAnchor="middle"
              className="fill-faint text-[10px]"
            >
              {position}
            </text>
          )}
        </g>
      ))}
      <text x={WIDTH - 8} y={HEIGHT - 3} textAnchor="end" className="fill-faint text-[10px]">
        a click costs, in CPCs →
      </text>
      <text x={4} y={HEIGHT - 3} className="fill-faint text-[10px]">
        clicks of 1,000 searches ↑
      </text>
    </svg>
  );
}
