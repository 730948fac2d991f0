import type { PlanState } from '@sprig/contracts';
import { Help } from '../../frame/Help.tsx';
import { count, counted, estimate } from '../../kit/format.ts';
import { Yield } from '../../kit/Yield.tsx';
import { useDayWords } from '../../plan/day-words.ts';
import { clicksWords, restsOn } from '../../plan/forecast-words.ts';
import { useForecast } from '../../plan/use-forecast.ts';

type Props = {
  plan: PlanState;
  counts: { campaigns: number; groups: number; keywords: number; ads: number };
  blockers: number;
  /** Of all sheets, and those of them that differ from what an outlet has. */
  rows: number;
  differs: number;
  outlets: number;
};

/** From the campaigns to the rows that there are to tell. */
export function ShipYield({ plan, counts, blockers, rows, differs, outlets }: Props) {
  const { data: forecast } = useForecast(plan.id, plan.counts.rows > 0 ? { all: true } : null);
  const day = useDayWords(plan.id);
  const { currency } = plan.brief;
  return (
    <Yield
      terms={[
        {
          id: 'campaigns',
          figure: count(counts.campaigns),
          words: counts.campaigns === 1 ? 'campaign' : 'campaigns',
        },
        { id: 'groups', figure: count(counts.groups), words: 'ad groups' },
        { id: 'keywords', figure: count(counts.keywords), words: 'keyword rows' },
        { id: 'ads', figure: count(counts.ads), words: 'ads' },
        {
          id: 'cost',
          figure:
            forecast && forecast.now.clicks > 0 ? `about ${estimate(forecast.held.cost, currency)}` : '–',
          words: day,
          more: forecast && (
            <Help>
              {clicksWords(forecast.now.clicks)} for {estimate(forecast.now.cost, currency)} {day} at these
              bids, eight in ten from {estimate(forecast.low.cost, currency)} to{' '}
              {estimate(forecast.high.cost, currency)}; the daily budgets reach{' '}
              {Math.floor(forecast.held.reached / 100)}% of it. {restsOn(forecast)}
            </Help>
          ),
        },
        {
          id: 'blockers',
          figure: count(blockers),
          words: blockers === 1 ? 'blocker' : 'blockers',
          tone: blockers > 0 ? 'bad' : 'plain',
        },
        { id: 'rows', figure: count(rows), words: `rows for ${counted(outlets, 'outlet')}` },
        { id: 'differs', figure: count(differs), words: 'of them to tell' },
      ]}
    />
  );
}
