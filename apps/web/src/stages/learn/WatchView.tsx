import type { PlanState, ReportImport } from '@sprig/contracts';
import { useAddress } from '../../kit/address.ts';
import { ChoiceChip } from '../../kit/chips.tsx';
import { BudgetsPart } from './BudgetsPart.tsx';
import { ForecastAgainst } from './ForecastAgainst.tsx';
import { ReportsYield } from './LearnYield.tsx';
import { SellersPart } from './SellersPart.tsx';
import { UnlikePart } from './UnlikePart.tsx';

type Props = { plan: PlanState; imports: readonly ReportImport[] | undefined; onReports: () => void };

const parts = [
  { value: 'budgets', words: 'budgets that run out' },
  { value: 'unlike', words: 'days that are unlike' },
  { value: 'sells', words: 'what sells' },
  { value: 'forecast', words: 'forecast against what came' },
] as const;

/** What to keep an eye on: budgets, days that stand out, and what sells. */
export function WatchView({ plan, imports, onReports }: Props) {
  const [params, set] = useAddress();
  const part = parts.find(({ value }) => value === params.get('watch'))?.value ?? 'budgets';
  return (
    <>
      <div className="flex min-h-11 shrink-0 items-center gap-2 border-hair border-b px-4 text-[14px]">
        Watch
        <ChoiceChip
          label="What is watched"
          value={part}
          choices={parts}
          onChoose={(value) => set({ watch: value === 'budgets' ? '' : value })}
        />
      </div>
      {part === 'budgets' && <BudgetsPart plan={plan} onReports={onReports} />}
      {part === 'unlike' && <UnlikePart plan={plan} onReports={onReports} />}
      {part === 'sells' && <SellersPart plan={plan} onReports={onReports} />}
      {part === 'forecast' && <ForecastAgainst plan={plan} onReports={onReports} />}
      <ReportsYield imports={imports} />
    </>
  );
}
