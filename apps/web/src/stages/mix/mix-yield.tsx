import { perDay } from '@sprig/core/figures';
import type { Recipe } from '@sprig/core/mix';
import { dropReasons } from '@sprig/core/mix';
import { asMicros } from '@sprig/core/money';
import { Help } from '../../frame/Help.tsx';
import { count, counted, money, short, wholeMoney } from '../../kit/format.ts';
import type { YieldTerm } from '../../kit/Yield.tsx';
import type { MixFigures, MixSummary } from '../../pool/mixing.ts';
import { dropWords, large } from './mix-words.ts';
import type { MixCounts } from './use-counts.ts';

/** The running sum of a recipe, from its words to what they would cost a day. */
export function mixYield(
  recipe: Recipe,
  counts: MixCounts,
  summary: MixSummary | undefined,
  figures: MixFigures | null,
  currency: string,
  day: string,
): YieldTerm[] {
  const dropped = dropReasons.reduce((sum, reason) => sum + (summary?.dropped[reason].count ?? 0), 0);
  const about = figures?.isSample ? '≈ ' : '';
  const left =
    figures && figures.asked < figures.of
      ? ` (${count(figures.asked)} of ${count(figures.of)} looked at)`
      : '';
  return [
    {
      id: 'words',
      figure: productWords(recipe, counts),
      words: '',
      more: (
        <ul>
          {recipe.patterns.map((pattern, at) => (
            <li key={pattern.id} className="flex justify-between gap-6">
              <span>Pattern {at + 1}</span> <b>{large(counts.of(pattern))}</b>
            </li>
          ))}
        </ul>
      ),
    },
    { id: 'combinations', figure: large(counts.total), words: 'combinations' },
    {
      id: 'dropped',
      figure: count(dropped),
      words: 'dropped',
      more: (
        <div className="flex max-w-lg flex-col gap-2">
          {dropReasons.map((reason) => {
            const { count: many, sample } = summary?.dropped[reason] ?? { count: 0, sample: [] };
            return many === 0 ? null : (
              <div key={reason}>
                <b>{count(many)}</b> {dropWords[reason]}
                <p className="line-clamp-3 text-faint">{sample.filter(Boolean).slice(0, 30).join(', ')}</p>
              </div>
            );
          })}
          {dropped === 0 && <Help>Nothing is dropped: each combination is a keyword of its own.</Help>}
        </div>
      ),
    },
    {
      id: 'made',
      figure: count(summary?.made ?? null),
      words: 'made',
      more: summary && summary.made > 0 && (
        <div className="grid grid-cols-2 gap-6">
          <Sample title="The first" texts={summary.first} />
          <Sample title="At random" texts={summary.random} />
        </div>
      ),
    },
    { id: 'cut', figure: count(summary?.cut ?? null), words: 'cut' },
    {
      id: 'new',
      figure: count(summary?.fresh ?? null),
      words: 'new',
      more: summary && (
        <Help>
          {counted(summary.fresh, 'keyword')} that no other source brings; {count(summary.elsewhere)} stand in
          the pool already.
        </Help>
      ),
    },
    { id: 'searched', figure: about + count(figures?.searched ?? null), words: 'searched' },
    {
      id: 'searches',
      figure: figures && figures.known > 0 ? about + short(figures.searches) : '–',
      words: `searches a month${left}`,
      more: (
        <Help>
          {figures ? fromWords(figures) : ''}{' '}
          {figures?.cpc ? `A click costs ${money(figures.cpc, currency)} on average.` : ''}{' '}
          {figures?.isSample
            ? `${counted(figures.of, 'combination')} picked at random were looked at, and stand for all.`
            : ''}
        </Help>
      ),
    },
    {
      id: 'cost',
      figure: figures && figures.cost > 0 ? `about ${about}${costOfDay(figures.cost, currency)}` : '–',
      words: day,
      more: (
        <Help>
          Each search bid for at its CPC, by the forecast’s assumptions, which Build has as a sentence.
        </Help>
      ),
    },
  ];
}

/** What the sum is made of: how much of it nobody told, and of how many nothing is known. */
function fromWords({ of, asked, known, searches, estimatedSearches, madeUpSearches }: MixFigures): string {
  const share = (part: number) => `${Math.max(1, Math.round((part * 100) / searches))}%`;
  return [
    searches > 0 &&
      estimatedSearches > 0 &&
      `${share(estimatedSearches)} of them are estimated from what was told.`,
    searches > 0 &&
      madeUpSearches > 0 &&
      `${share(madeUpSearches)} of them are made up by the stand-in market.`,
    asked === of &&
      known < of &&
      `Of ${counted(of - known, 'combination')} nothing is told, nor enough to estimate from.`,
  ]
    .filter((part) => part !== false)
    .join(' ');
}

/** Micros a month as an amount a day: `£643`, or `£3.20` where it is small. */
const costOfDay = (cost: number, currency: string): string => {
  const day = perDay({ clicks: 0, cost: asMicros(Math.round(cost)) }).cost;
  return day >= 10_000_000 ? wholeMoney(day, currency) : money(Math.round(day / 10_000) * 10_000, currency);
};

/** `13 Traits × 2 Things`, for a recipe of one pattern; else how many patterns. */
function productWords({ patterns }: Recipe, counts: MixCounts): string {
  const [only] = patterns;
  if (patterns.length !== 1 || !only || only.slots.length === 0) return counted(patterns.length, 'pattern');
  const parts = only.slots.flatMap((slot) => {
    if (slot.kind === 'word') return [];
    const name = counts.lists.find(({ id }) => id === slot.list)?.name.toLowerCase() ?? '';
    return [`${count(counts.sizeOf(slot.list))} ${name}${slot.optional ? ' or none' : ''}`];
  });
  return parts.join(' × ') + (only.flip && only.slots.length > 1 ? ', both ways' : '');
}

const Sample = ({ title, texts }: { title: string; texts: readonly string[] }) => (
  <div>
    <h3 className="mb-1 text-faint">{title}</h3>
    <ul>
      {texts.slice(0, 20).map((text) => (
        <li key={text} className="max-w-64 truncate">
          {text}
        </li>
      ))}
    </ul>
  </div>
);
