import { type Facts, readSeason } from '@sprig/contracts';
import { MONTHS } from '@sprig/core/figures';
import { useQuery } from '@tanstack/react-query';
import { toast } from 'sonner';
import type { Document } from '../../data/document.ts';
import { question } from '../../data/question.ts';
import { Help } from '../../frame/Help.tsx';
import { ChoiceChip } from '../../kit/chips.tsx';
import { counted } from '../../kit/format.ts';
import { YearBars } from '../../kit/YearBars.tsx';
import { monthName } from '../../plan/day-words.ts';

type Props = { plan: number; facts: Document<Facts> };

const useTold = (plan: number) => useQuery(question(readSeason, { params: { plan } })).data?.season;

/** Which month is forecast. What months have of the year is taken as it is told when the month is chosen. */
export function SeasonChip({ plan, facts }: Props) {
  const told = useTold(plan);
  const season = facts.value?.assumptions.season ?? null;
  const year = told ?? season;
  const choose = (value: string) => {
    const next =
      value === 'mean' || !year ? null : { month: Number(value), parts: year.parts, keywords: year.keywords };
    void facts.edit('assumptions.season', next).then((words) => words && toast.error(words));
  };
  const months = year ? Array.from({ length: MONTHS }, (_, at) => at + 1) : [];
  return (
    <ChoiceChip
      label="Month that is forecast"
      value={season ? String(season.month) : 'mean'}
      choices={[
        { value: 'mean', words: 'a mean month' },
        ...months.map((month) => ({
          value: String(month),
          words: `${monthName(month)}: ${Math.round((year?.parts[month - 1] ?? 0) / 100)}%`,
        })),
      ]}
      onChoose={choose}
    />
  );
}

/** What the year is made of, or what it would take to forecast a month. */
export function SeasonHelp({ plan, facts }: Props) {
  const told = useTold(plan);
  const season = facts.value?.assumptions.season ?? null;
  const year = season ?? told;
  if (told === undefined) return null;
  if (!year)
    return (
      <Help>
        To forecast one month, bring in a sheet with a column of searches for each of the twelve, kept as it
        is.
      </Help>
    );
  return (
    <div className="mt-1 flex items-center gap-2">
      <YearBars months={year.parts.map((part) => Math.round(part / 100))} width={96} height={20} />
      <Help>
        January to December, in percent of a mean month, as told of {counted(year.keywords, 'keyword')}; a
        month’s part is the same for all.
      </Help>
    </div>
  );
}
