import type { BidsFrom, Facts, ResultBidsAnswer } from '@sprig/contracts';
import { type BidRulesOfResults, type PositionBand, usualBidRules } from '@sprig/core/judge';
import { Plus, X } from 'lucide-react';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import type { Document } from '../../data/document.ts';
import { TextChip } from '../../kit/chips.tsx';
import { count } from '../../kit/format.ts';
import { daysText } from '../../plan/results/result-words.ts';
import { readWithin } from './read-number.ts';

type Props = { from: BidsFrom; facts: Document<Facts>; high: ResultBidsAnswer['high'] };

/** How bids follow from results, as a sentence to be typed over. */
export function BidRules({ from, facts, high }: Props) {
  if (from === 'down') return <High high={high} />;
  return from === 'bands' ? <Bands facts={facts} /> : <ToAim facts={facts} />;
}

const Line = ({ children }: { children: ReactNode }) => (
  <p className="flex min-h-10 shrink-0 flex-wrap items-center gap-1.5 border-hair border-b px-4 py-1">
    {children}
  </p>
);

function ToAim({ facts }: { facts: Document<Facts> }) {
  const rules = facts.value?.bids ?? usualBidRules;
  const chip = (name: Exclude<keyof BidRulesOfResults, 'bands'>, label: string, most: number, unit = '') => (
    <TextChip
      label={label}
      value={`${rules[name]}${unit}`}
      read={readWithin(1, most, '30')}
      width={6}
      onKeep={(value) => facts.edit(`bids.${name}`, Math.round(value as number))}
    />
  );
  return (
    <Line>
      What a click may cost: the conversion rate to expect, times the aim. From{' '}
      {chip('clicks', 'Clicks that an aim needs', 100_000)} clicks on, by at most{' '}
      {chip('most', 'Most at a time', 900, '%')} at a time, within the plan’s floor and ceiling.
    </Line>
  );
}

function Bands({ facts }: { facts: Document<Facts> }) {
  const bands = [...(facts.value?.bids.bands ?? usualBidRules.bands)].sort((a, b) => a.from - b.from);
  const seen = facts.value?.verdicts.impressions;
  const keep = (next: readonly PositionBand[]) => facts.edit('bids.bands', next);
  const put = (at: number, part: Partial<PositionBand>) =>
    keep(bands.map((band, nth) => (nth === at ? { ...band, ...part } : band)));
  const last = bands.at(-1);
  return (
    <Line>
      {bands.length === 0 && 'No band of positions.'}
      {bands.map(({ from, by }, at) => (
        <span key={from} className="flex items-center gap-1.5">
          {at === 0 ? 'From position' : 'from'}
          <TextChip
            label={`Band ${at + 1} begins at position`}
            value={String(from)}
            read={readWithin(1, 100, '3.5')}
            width={5}
            onKeep={(value) => put(at, { from: value as number })}
          />
          on by
          <TextChip
            label={`Band ${at + 1} changes bids by percent`}
            value={`${by > 0 ? '+' : ''}${by}%`}
            read={readWithin(-90, 900, '20 or -10')}
            width={6}
            onKeep={(value) => put(at, { by: Math.round(value as number) })}
          />
          <button
            type="button"
            className="btn btn-ghost btn-xs px-1"
            aria-label={`Remove the band from position ${from}`}
            onClick={() => void keep(bands.filter((_, nth) => nth !== at))}
          >
            <X size={13} aria-hidden />
          </button>
        </span>
      ))}
      {bands.length < 10 && (
        <button
          type="button"
          className="btn btn-ghost btn-xs font-normal"
          onClick={() => void keep([...bands, { from: last ? Math.min(100, last.from + 2) : 3.5, by: 20 }])}
        >
          <Plus size={13} aria-hidden /> Band
        </button>
      )}
      {seen !== undefined && <span className="text-faint">with {count(seen)} impressions or more</span>}
    </Line>
  );
}

function High({ high }: { high: ResultBidsAnswer['high'] }) {
  if (!high) return null;
  const day = high.until && daysText({ from: high.until, to: high.until });
  return (
    <Line>
      {!high.on && `Since ${day} bids have come down from where they started.`}
      {high.on &&
        day &&
        `Bids start high, and come down by themselves on ${day}: the next difference ships them.`}
      {high.on && !day && 'Bids start high, and no day is set on which they come down.'}
      <Link className="underline" to="../build?view=rules">
        {high.on && !day ? 'Set a day in Build' : 'See to it in Build'}
      </Link>
    </Line>
  );
}
