import { type PlanState, type ResultsAbout, type ResultsBy, readResults } from '@sprig/contracts';
import type { ResultFigure } from '@sprig/core/learn';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { usePreferences } from '../../data/me.ts';
import { question } from '../../data/question.ts';
import { reportRoleWords } from '../report-role-words.ts';
import { daysText, figureOrder, figureWords, grainText } from './result-words.ts';
import { useResultFigures } from './use-results.ts';

type Props = { plan: PlanState; by: ResultsBy };

/** Which figures of results stand beside what is worked on, and of what they are. Nothing where no report came home. */
export function ResultsMenu({ plan, by }: Props) {
  const [isOpen, setOpen] = useState(false);
  const shown = useResultFigures(plan);
  const { data } = useQuery({
    ...question(readResults, { params: { plan: plan.id }, body: { by, keys: [] } }),
    enabled: isOpen,
  });
  if (plan.counts.reports === 0) return null;
  return (
    <details
      name="results-menu"
      className="dropdown dropdown-end"
      onToggle={({ currentTarget }) => setOpen(currentTarget.open)}
    >
      <summary className="btn btn-ghost btn-sm font-normal text-faint">
        Results{shown.length > 0 ? ` (${shown.length})` : ''}
      </summary>
      <div className="dropdown-content z-30 max-h-96 w-64 overflow-auto rounded-md border border-hair bg-base-100 p-2">
        <p className="mb-1 text-[12px] text-faint leading-4">{data ? aboutWords(data.about) : '…'}</p>
        <FigureChoices />
      </div>
    </details>
  );
}

/** Of which reports and days results are, or why there are none. */
function aboutWords({ account, range, grain, why }: ResultsAbout): string {
  if (account && range && grain) return `${daysText(range)}, ${account.name}: ${grainText(grain)}.`;
  if (why?.none === 'dimension')
    return `No report of ${account?.name ?? 'the account'} tells ${why.missing.map((one) => reportRoleWords[one]).join(' and ')}. Take one in in Learn.`;
  return 'No report tells anything of these days. Take one in in Learn.';
}

function FigureChoices() {
  const { preferences, setAloud } = usePreferences();
  const { resultColumns } = preferences;
  const choose = (figure: ResultFigure) =>
    setAloud({
      resultColumns: resultColumns.includes(figure)
        ? resultColumns.filter((one) => one !== figure)
        : [...resultColumns, figure],
    });
  return figureOrder.map((figure) => (
    <label key={figure} className="flex items-center gap-2 py-0.5">
      <input
        type="checkbox"
        className="checkbox checkbox-xs"
        checked={resultColumns.includes(figure)}
        onChange={() => choose(figure)}
      />
      {figureWords[figure]}
    </label>
  ));
}
