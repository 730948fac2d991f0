import type { ClientPage, PlanState } from '@sprig/contracts';
import { count, counted, date, estimate, money } from '../../kit/format.ts';
import { useDayWords } from '../../plan/day-words.ts';
import { clicksWords, restsOn } from '../../plan/forecast-words.ts';
import { useFacts } from '../../plan/use-facts.ts';
import { useForecast } from '../../plan/use-forecast.ts';

type Props = { plan: PlanState; page: ClientPage; withForecast: boolean };

/** Whose plan it is, what it comes to, where it shows, and what a day of it may bring. */
export function Overview({ plan, page, withForecast }: Props) {
  const { name, site, currency } = plan.brief;
  const facts = useFacts(plan.id).value;
  const day = useDayWords(plan.id);
  const hasRows = plan.counts.rows > 0;
  const { data: forecast } = useForecast(plan.id, hasRows && withForecast ? { all: true } : null);
  const sum = (of: (campaign: ClientPage['campaigns'][number]) => number) =>
    page.campaigns.reduce((all, campaign) => all + of(campaign), 0);
  const budget = sum(({ dailyBudget }) => dailyBudget);
  const where = facts?.locations.map((location) => location.name) ?? [];
  return (
    <header className="border-hair border-b pb-5">
      <p className="text-faint">Search advertising plan · {date(new Date().toISOString())}</p>
      <h1 className="mt-1 font-semibold text-[26px] leading-8">{facts?.client || name}</h1>
      {site && <p className="text-faint">{site}</p>}
      <dl className="mt-5 grid grid-cols-4 gap-x-6 gap-y-3 max-[700px]:grid-cols-2">
        <Figure name="Campaigns" value={count(page.campaigns.length)} />
        <Figure name="Ad groups" value={count(sum(({ groups }) => groups))} />
        <Figure name="Keywords" value={count(sum(({ keywords }) => keywords))} />
        <Figure name="Searches a month, at most" value={count(sum(({ searches }) => searches))} />
        <Figure name="Daily budget" value={budget > 0 ? money(budget, currency) : 'none set'} />
        {withForecast && forecast && (
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
      {withForecast && forecast && (
        <p className="mt-3 text-[12.5px] text-faint">
          The forecast is an estimate within the daily budgets, made of searches, costs per click and bids;
          what comes of it will differ. {restsOn(forecast)}
        </p>
      )}
      {facts && (
        <p className="mt-3">
          Shown {where.length > 0 ? `in ${listed(where)}` : 'without a chosen location yet'}
          {facts.languages.length > 0 ? `, in ${listed(facts.languages)}` : ''}, on{' '}
          {networksOf(facts.networks)}
          {facts.schedule.length > 0
            ? `, at ${counted(facts.schedule.length, 'chosen time')} of the week`
            : ''}
          .{facts.starts && ` It starts on ${date(facts.starts)}.`}
          {facts.ends && ` It ends on ${date(facts.ends)}.`}
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
