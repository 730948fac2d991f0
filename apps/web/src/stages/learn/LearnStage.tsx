import { useOpenPlan } from '../../data/plan.ts';
import { useAddress } from '../../kit/address.ts';
import { useCommands, viewRuns } from '../../kit/commands.ts';
import { ViewButtons } from '../../kit/ViewButtons.tsx';
import { AdsView } from './AdsView.tsx';
import { BidsView } from './BidsView.tsx';
import { learnCommands, learnViews } from './commands.ts';
import { HappenedView } from './HappenedView.tsx';
import { ReportsYield } from './LearnYield.tsx';
import { ReportsView } from './ReportsView.tsx';
import { TermsView } from './TermsView.tsx';
import { ToldAccounts } from './ToldAccounts.tsx';
import { useReportList } from './use-reports.ts';
import { VerdictsView } from './VerdictsView.tsx';
import { WatchView } from './WatchView.tsx';
import { WorthView } from './WorthView.tsx';

/** What happened with what was shipped, and the reports that tell it. */
export function LearnStage() {
  const plan = useOpenPlan();
  const [params, set] = useAddress();
  const view = learnViews.find(([id]) => id === params.get('view'))?.[0] ?? '';
  const { data } = useReportList(plan.id);
  useCommands(
    learnCommands,
    viewRuns(learnViews, (id) => set({ view: id })),
  );
  const waiting = data?.readings.length ?? 0;
  const reports = data ? `${data.imports.length}${waiting > 0 ? ` + ${waiting}` : ''}` : '';
  return (
    <>
      <section
        aria-label="Accounts"
        className="flex h-12 shrink-0 items-center gap-2 overflow-x-auto border-hair border-b px-4"
      >
        <ToldAccounts
          imports={data?.imports ?? []}
          onSideBySide={() => set({ view: '', by: 'account', names: '', figures: '' })}
        />
        <fieldset className="ml-auto flex shrink-0 gap-1.5" aria-label="Views of Learn">
          <ViewButtons
            views={learnViews}
            current={view}
            figures={{ reports }}
            onView={(id) => set({ view: id })}
          />
        </fieldset>
      </section>
      {view === 'reports' && (
        <>
          <ReportsView plan={plan} />
          <ReportsYield imports={data?.imports} />
        </>
      )}
      {view === 'verdicts' && (
        <VerdictsView plan={plan} imports={data?.imports} onReports={() => set({ view: 'reports' })} />
      )}
      {view === 'terms' && (
        <TermsView plan={plan} imports={data?.imports} onReports={() => set({ view: 'reports' })} />
      )}
      {view === 'worth' && <WorthView plan={plan} imports={data?.imports} />}
      {view === 'bids' && (
        <BidsView plan={plan} imports={data?.imports} onReports={() => set({ view: 'reports' })} />
      )}
      {view === 'ads' && (
        <AdsView plan={plan} imports={data?.imports} onReports={() => set({ view: 'reports' })} />
      )}
      {view === 'watch' && (
        <WatchView plan={plan} imports={data?.imports} onReports={() => set({ view: 'reports' })} />
      )}
      {view === '' && (
        <HappenedView plan={plan} imports={data?.imports} onReports={() => set({ view: 'reports' })} />
      )}
    </>
  );
}
