import type { ClientPage, ForecastView, SharedPlan } from '@sprig/contracts';
import { count, counted, date, estimate, money } from '../../kit/format.ts';
import { dayIn } from '../../plan/day-words.ts';
import { clicksWords, restsOn } from '../../plan/forecast-words.ts';

/** What the page says of a plan beside what is built. */
export type ClientPlan = Omit<SharedPlan, 'page' | 'forecast' | 'isBehind' | 'counts'> & {
  hasFacts: boolean;
};

type Props = { plan: ClientPlan; page: ClientPage; forecast: ForecastView | null };

/** Whose plan it is, what it comes to, where it shows, and what a day of it may bring. */
export function Overview({ plan, page, forecast }: Props) {
  const { name, client, site, currency, locations, languages, networks, times, starts, ends } = plan;
  const day = dayIn(plan.month);
  const sum = (of: (campaign: ClientPage['campaigns'][number]) => number) =>
    page.campaigns.reduce((all, campaign) => all + of(campaign), 0);
  const budget = sum(({ dailyBudget }) => dailyBudget);
  return (
    <header className="border-hair border-b pb-5">
      <p className="text-faint">Search advertising plan · {date(new Date().toISOString())}</p>
      <h1 className="mt-1 font-semibold text-[26px] leading-8">{client || name}</h1>
      {site && <p className="text-faint">{site}</p>}
      <dl className="mt-5 grid grid-cols-4 gap-x-6 gap-y-3 max-[700px]:grid-cols-2">
        <Figure name="Campaigns" value={count(page.campaigns.length)} />
        <Figure name="Ad groups" value={count(sum(({ groups }) => groups))} />
        <Figure name="Keywords" value={count(sum(({ keywords }) => keywords))} />
        <Figure name="Searches a month, at most" value={count(sum(({ searches }) => searches))} />
        <Figure name="Daily budget" value={budget > 0 ? money(budget, currency) : 'none set'} />
        {forecast && (
          <>
            <Figure
              name={`Clicks ${day}`}
              value={`≈${clicksWords(forecast.held.clicks).replace(/ clicks?$/, '')}`}
            />
            <Figure name={`Cost ${day}`} value={estimate(forecast.held.cost, currency)} />
            <Figure
              name={
                forecast.held.cost < forecast.now.cost
                  ? `Cost ${day} if budgets let it`
                  : 'Cost, eight days in ten'
              }
              value={`${estimate(forecast.low.cost, currency)} to ${estimate(forecast.high.cost, currency)}`}
            />
          </>
        )}
      </dl>
      {forecast && (
        <p className="mt-3 text-[12.5px] text-faint">
          The forecast is an estimate within the daily budgets, made of searches, costs per click and bids;
          what comes of it will differ. {restsOn(forecast)}
        </p>
      )}
      {plan.hasFacts && (
        <p className="mt-3">
          Shown {locations.length > 0 ? `in ${listed(locations)}` : 'without a chosen location yet'}
          {languages.length > 0 ? `, in ${listed(languages)}` : ''}, on {networksOf(networks)}
          {times > 0 ? `, at ${counted(times, 'chosen time')} of the week` : ''}.
          {starts && ` It starts on ${date(starts)}.`}
          {ends && ` It ends on ${date(ends)}.`}
        </p>
      )}
    </header>
  );
}

const Figure = ({ name, value }: { name: string; value: string }) => (
  <div>
    <dt className="text-[12.5px] text-faint">{name}</dt>
    <dd className="font-semibold text-[17px]">{value}</dd>
  </div>
);

const MOST_NAMED = 8;
const listed = (names: readonly string[]): string => {
  const shown = names.slice(0, MOST_NAMED);
  const others = names.length - shown.length;
  return others > 0 ? `${shown.join(', ')} and ${others} more` : new Intl.ListFormat('en-GB').format(shown);
};

const networksOf = ({
  search,
  partners,
  display,
}: {
  search: boolean;
  partners: boolean;
  display: boolean;
}) =>
  listed([
    ...(search ? ['search'] : []),
    ...(partners ? ['search partners'] : []),
    ...(display ? ['sites of the display network'] : []),
  ]);
