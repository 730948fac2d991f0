import type { readForecastAgainst } from '@sprig/contracts';
import { LEAST_MEASURED_CLICKS } from '@sprig/core/judge';
import { toast } from 'sonner';
import type { z } from 'zod';
import { useFacts } from '../../plan/use-facts.ts';

type Found = Pick<
  z.output<(typeof readForecastAgainst)['answer']>,
  'measured' | 'assumed' | 'hasPositions' | 'account'
>;

const SHOWN = 4;
const rates = new Intl.NumberFormat('en-GB', { style: 'percent', maximumFractionDigits: 1 });
const times = new Intl.NumberFormat('en-GB', { minimumFractionDigits: 2, maximumFractionDigits: 2 });
const some = (values: readonly number[], text: (value: number) => string): string =>
  values.slice(0, SHOWN).map(text).join(', ');

/** What positions were measured to bring and to cost, against what is assumed; forecasts go by the one or the other. */
export function MeasuredSentence({ plan, found }: { plan: number; found: Found }) {
  const facts = useFacts(plan);
  const used = facts.value?.assumptions.measured ?? null;
  const { measured, assumed, hasPositions, account } = found;
  const keep = async (value: typeof measured) => {
    const words = await facts.edit('assumptions.measured', value);
    if (words) toast.error(words);
  };
  const isUsed = used !== null && JSON.stringify(used) === JSON.stringify(measured);
  const rate = (value: number) => rates.format(value);
  const price = (value: number) => times.format(value);
  return (
    <p className="shrink-0 border-hair border-b px-4 py-2 text-[14px] leading-7">
      {measured === null && (
        <span className="text-faint">
          {hasPositions
            ? `Positions can’t be measured yet: it takes ${LEAST_MEASURED_CLICKS} clicks at several positions.`
            : `Reports of ${account?.name} tell no position, so none can be measured.`}
        </span>
      )}
      {measured?.ctr && (
        <>
          Positions 1 to {SHOWN} are clicked <b>{some(measured.ctr, rate)}</b>{' '}
          <span className="text-faint">(assumed {some(assumed.ctr, rate)})</span>.{' '}
        </>
      )}
      {measured?.price && (
        <>
          A click there costs <b>{some(measured.price, price)}</b> of its keyword’s CPC{' '}
          <span className="text-faint">(assumed {some(assumed.price, price)})</span>.{' '}
        </>
      )}
      {measured && !isUsed && (
        <button
          type="button"
          className="btn btn-sm"
          disabled={!facts.value}
          onClick={() => void keep(measured)}
        >
          Forecast with what was measured
        </button>
      )}
      {used && (
        <>
          {' '}
          <span className="text-faint">
            Forecasts go by what was measured in {used.account} until {used.to}.
          </span>{' '}
          <button type="button" className="btn btn-ghost btn-sm font-normal" onClick={() => void keep(null)}>
            Assume instead
          </button>
        </>
      )}
    </p>
  );
}
