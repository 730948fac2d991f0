import { accountCode, type ReportImport } from '@sprig/contracts';
import { daysText } from '../../plan/results/result-words.ts';

type Props = { imports: readonly Pick<ReportImport, 'account' | 'range'>[]; onSideBySide: () => void };

/** The account that reports told of, and of which days; of several how many they are, and the way to them. */
export function ToldAccounts({ imports, onSideBySide }: Props) {
  const told = new Map<string, { name: string; from: string; to: string }>();
  for (const { account, range } of imports) {
    const there = told.get(accountCode(account)) ?? range;
    const days = [there.from, there.to, range.from, range.to].sort();
    const [from, to] = [days[0] ?? range.from, days.at(-1) ?? range.to];
    told.set(accountCode(account), { name: account.name, from, to });
  }
  const all = [...told.values()];
  const [only] = all;
  if (!only) return null;
  if (all.length > 1)
    return (
      <button
        type="button"
        className="btn btn-sm shrink-0 border-hair bg-transparent font-normal"
        title={all.map(({ name, ...days }) => `${name}, ${daysText(days)}`).join('\n')}
        onClick={onSideBySide}
      >
        {all.length} accounts side by side
      </button>
    );
  return (
    <span className="flex h-8 shrink-0 items-center gap-1.5 whitespace-nowrap rounded-md px-2 ring-1 ring-hair">
      {only.name} <span className="text-faint">{daysText(only)}</span>
    </span>
  );
}
