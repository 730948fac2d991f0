import type { PlanState } from '@sprig/contracts';
import { matchTypes } from '@sprig/core/match';
import { Help } from '../../frame/Help.tsx';
import { count, counted, estimate, money, short } from '../../kit/format.ts';
import { matchWords } from '../../kit/match-words.ts';
import { ReachBars } from '../../kit/ReachBars.tsx';
import { Yield } from '../../kit/Yield.tsx';
import { clicksWords } from '../../plan/forecast-words.ts';
import type { useForecast } from '../../plan/use-forecast.ts';
import type { useLiveBuild } from './use-live-build.ts';

type Props = {
  plan: PlanState;
  /** Null until it has been worked out. */
  live: ReturnType<typeof useLiveBuild>['live'];
  forecast: ReturnType<typeof useForecast>['data'];
  held: number;
  /** How much of a day the forecast is of, in words. */
  day: string;
  behind: boolean;
};

/** What Build makes of the keywords, from them to what the ads cost. */
export function BuildYield({ plan, live, forecast, held, day, behind }: Props) {
  const { currency } = plan.brief;
  return (
    <Yield
      note={behind ? 'building' : ''}
      terms={[
        {
          id: 'keywords',
          figure: count(live?.keywords),
          words: 'keywords',
          more: live && <Help>{short(live.searches)} searches a month between them, at most.</Help>,
        },
        {
          id: 'campaigns',
          figure: count(live?.campaigns),
          words: live?.campaigns === 1 ? 'campaign' : 'campaigns',
        },
        {
          id: 'groups',
          figure: count(live?.groups),
          words: 'ad groups',
          more: live && <Help>The largest holds {counted(live.largestGroup, 'keyword')}.</Help>,
        },
        {
          id: 'rows',
          figure: count(live?.rows),
          words: 'keyword rows',
          more: live && (
            <table>
              <tbody>
                {matchTypes.map((type) => (
                  <tr key={type}>
                    <td className="pr-3">
                      <ReachBars type={type} />
                    </td>
                    <td className="pr-6">{matchWords[type]}</td>
                    <td className="pr-6 text-right">{count(live.rowsByType[type])}</td>
                    <td className="text-right text-faint">{money(live.medians[type], currency)}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          ),
        },
        {
          id: 'bids',
          figure:
            live?.lowestBid == null
              ? '–'
              : `${money(live.lowestBid, currency)} to ${money(live.highestBid, currency)}`,
          words: 'bids',
          more: live && (
            <Help>
              The median is {money(live.medianBid, currency)}. {counted(live.withoutEstimate, 'keyword')} have
              no CPC estimate of their own.
            </Help>
          ),
        },
        {
          id: 'cost',
          figure: forecast ? estimate(forecast.held.cost, currency) : '–',
          words: day,
          more: forecast && (
            <Help>
              {clicksWords(forecast.now.clicks)} for {estimate(forecast.now.cost, currency)} {day} at these
              bids, as it is forecast; the daily budgets reach {Math.floor(forecast.held.reached / 100)}% of
              it: {clicksWords(forecast.held.clicks)}.
            </Help>
          ),
        },
        { id: 'held', figure: count(held), words: held === 1 ? 'value held' : 'values held' },
        {
          id: 'misfits',
          figure: count(plan.counts.misfits),
          words: 'ads that do not fit',
          tone: plan.counts.misfits > 0 ? 'bad' : 'plain',
        },
      ]}
    />
  );
}
