import { lookUp, type PlanState } from '@sprig/contracts';
import { useQuery } from '@tanstack/react-query';
import { wordsOf } from '../../data/call.ts';
import { question } from '../../data/question.ts';
import { Figured, MoneyFigured } from '../../kit/Figured.tsx';
import { money } from '../../kit/format.ts';
import { YearBars } from '../../kit/YearBars.tsx';

/** What is known of one search: its year where it is told, its price, and what each position would cost. */
export function SearchCard({ plan, text }: { plan: PlanState; text: string }) {
  const { data, error } = useQuery(question(lookUp, { params: { plan: plan.id }, query: { text } }));
  const { currency } = plan.brief;
  if (error) return <p className="border-hair border-t px-4 py-2 text-error">{wordsOf(error)}</p>;
  if (!data) return <p className="border-hair border-t px-4 py-2 text-faint">Looking it up …</p>;
  const { searches, cpc, competition, from, months, positions } = data;
  return (
    <section
      aria-label={`What is known of ${text}`}
      className="min-h-0 flex-1 overflow-auto border-hair border-t px-4 py-2"
    >
      <h3 className="mb-1 text-[12px] text-faint">
        What is known of <b>{text}</b>
      </h3>
      <div className="flex flex-wrap items-end gap-x-8 gap-y-2">
        {months && <YearBars months={months} width={180} height={48} />}
        <span>
          <b className="text-[16px]">
            <Figured value={searches} from={from.searches} />
          </b>{' '}
          <span className="text-faint">searches a month</span>
        </span>
        <span>
          <b className="text-[16px]">
            <MoneyFigured value={cpc} from={from.cpc} currency={currency} />
          </b>{' '}
          <span className="text-faint">CPC</span>
        </span>
        <span>
          <b className="text-[16px]">
            <Figured value={competition} from={from.competition} />
          </b>{' '}
          <span className="text-faint">competition of 100</span>
        </span>
      </div>
      {positions.length === 0 && (
        <p className="mt-2 text-faint">
          Its searches or its CPC are neither told nor can they be estimated: nothing can be forecast.
        </p>
      )}
      <table hidden={positions.length === 0} className="mt-3 w-full max-w-lg">
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
              <td className="text-right">{clicks.toFixed(1)}</td>
              <td className="text-right">{Math.round(share * 100)}%</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}
