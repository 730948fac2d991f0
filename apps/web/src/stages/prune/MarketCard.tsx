import { lookUp, type PlanState } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { call, wordsOf } from '../../api/call.ts';
import { count, money, percent } from '../../kit/format.ts';
import { YearBars } from '../../kit/YearBars.tsx';

/** What the market says of one search: its year, its price, and what each position costs. */
export function MarketCard({ plan, text }: { plan: PlanState; text: string }) {
  const { data, error } = useQuery({
    queryKey: ['market', plan.id, text],
    queryFn: () => call(lookUp, { params: { plan: plan.id }, query: { text } }),
  });
  const { currency } = plan.brief;
  if (error) return <p className="border-hair border-t px-4 py-2 text-error">{wordsOf(error)}</p>;
  if (!data) return <p className="border-hair border-t px-4 py-2 text-faint">Asking the market …</p>;
  const { idea, positions, provider } = data;
  return (
    <section
      aria-label={`The market on ${text}`}
      className="min-h-0 flex-1 overflow-auto border-hair border-t px-4 py-2"
    >
      <h3 className="mb-1 text-[12px] text-faint">
        {provider.name} on <b>{text}</b>
        {provider.isStandIn && ': made-up figures, no real market is asked'}
      </h3>
      <div className="flex flex-wrap items-end gap-x-8 gap-y-2">
        <YearBars months={idea.months} width={180} height={48} />
        {(
          [
            ['searches a month', count(idea.searches)],
            ['CPC', money(idea.cpc, currency)],
            ['competition of 100', count(idea.competition)],
            ['CTR to expect', percent(idea.ctr)],
          ] as const
        ).map(([words, figure]) => (
          <span key={words}>
            <b className="text-[16px]">{figure}</b> <span className="text-faint">{words}</span>
          </span>
        ))}
      </div>
      <table className="mt-3 w-full max-w-lg">
        <thead className="text-[12px] text-faint">
          <tr>
            <th className="text-left font-normal">Position</th>
            <th className="text-right font-normal">Least bid</th>
            <th className="text-right font-normal">Clicks a month</th>
            <th className="text-right font-normal">Share of impressions</th>
          </tr>
        </thead>
        <tbody>
          {positions.map(({ position, bid, clicks, share }) => (
            <tr key={position} className="border-base-200 border-t">
              <td>{position}</td>
              <td className="text-right">{money(bid, currency)}</td>
              <td className="text-right">{clicks}</td>
              <td className="text-right">{Math.round(share * 100)}%</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
