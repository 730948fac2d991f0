import { duplicatePlan, editBrief, may } from '@sprig/contracts';
import { CircleHelp, Redo2, Search, Undo2 } from 'lucide-react';
import { useEffect, useRef, useState } from 'react';
import { Link, Outlet, useLocation, useNavigate } from 'react-router';
import { toast } from 'sonner';
import { CallFailure, call, wordsOf } from '../data/call.ts';
import { readChanged } from '../data/changed.ts';
import { useOpenJobs } from '../data/jobs.ts';
import { useMe } from '../data/me.ts';
import { usePlanId, usePlanState } from '../data/plan.ts';
import { Allowed, Needs } from '../kit/allowed.tsx';
import { useCommands } from '../kit/commands.ts';
import { lazyPart } from '../kit/lazy-part.tsx';
import { Part } from '../kit/Part.tsx';
import { roleWords } from '../kit/role-words.ts';
import { usePreload } from '../kit/use-preload.ts';
import { YieldEnd } from '../kit/Yield.tsx';
import { everywhere } from './commands.ts';
import { EditedElsewhere } from './EditedElsewhere.tsx';
import { FindPanel, loadFind } from './FindPanel.tsx';
import { useFieldInHand, useToldTogether } from './field-in-hand.ts';
import { LostPage } from './LostPage.tsx';
import { leavesOf, type StageEntry } from './leaf.ts';
import { useWanted } from './next/use-wanted.ts';
import { NotesButton } from './notes/NotesButton.tsx';
import { turnNotes, useOpenNotes } from './notes/open-notes.ts';
import { Others } from './Others.tsx';
import { usePresence } from './presence.ts';
import { Trail } from './Trail.tsx';
import { usePlanEvents } from './use-plan-events.ts';
import { useSteps } from './use-steps.ts';
import { useTheme } from './use-theme.ts';
import { YouMenu } from './YouMenu.tsx';

type Panel = 'find' | 'help' | 'history' | 'people' | null;

/** By then a plan is on the screen. */
const SETTLED_MS = 1_500;

const NextStep = lazyPart('The next step', async () => (await import('./next/NextStep.tsx')).NextStep);
const HelpPanel = lazyPart('The keys', async () => (await import('./HelpPanel.tsx')).HelpPanel);
const PlanPeople = lazyPart('Who sees this plan', async () => (await import('./PlanPeople.tsx')).PlanPeople);
const NotesPanel = lazyPart('The notes', async () => (await import('./notes/NotesPanel.tsx')).NotesPanel);
const HistoryPanel = lazyPart('The history', async () => (await import('./HistoryPanel.tsx')).HistoryPanel);

/** Shown until a plan is there. */
export const Opening = () => (
  <div className="grid h-full place-items-center text-faint">Opening the plan …</div>
);

const NEXT_TRIES = 20;
const NEXT_MS = 50;

/** Follows the next step. While it is worked out anew it is not there for a moment: that is waited for. */
async function followNext(): Promise<void> {
  for (let tries = 0; tries < NEXT_TRIES; tries++) {
    const link = document.querySelector<HTMLElement>('[data-next-step]');
    if (link) return link.click();
    await new Promise((done) => setTimeout(done, NEXT_MS));
  }
}

/** The frame around every stage: plan, trail, find or do, undo. */
export function PlanFrame({ stages }: { stages: readonly StageEntry[] }) {
  const id = usePlanId();
  const { data: plan, error } = usePlanState(id);
  const [panel, setPanel] = useState<Panel>(null);
  const navigate = useNavigate();
  const { pathname } = useLocation();
  const { undo, redo } = useSteps(id);
  const notes = useOpenNotes();
  const page = useRef<HTMLElement>(null);
  useWanted(page);
  useTheme();
  usePlanEvents(id);
  const inHand = useFieldInHand(page);
  const others = usePresence(id, stageAt(pathname), inHand, useMe()?.actor ?? null);
  useToldTogether(others, stageAt(pathname), inHand);
  useEffect(() => {
    document.title = plan ? `${plan.brief.name} – Green Sprig` : 'Green Sprig';
  }, [plan]);

  usePreload(loadFind, SETTLED_MS);
  const openFind = () => setPanel((open) => (open === 'find' ? null : 'find'));
  useCommands(everywhere, {
    stage: (event) => {
      const stage = stages[Number(event?.key) - 1];
      if (stage) void navigate(`/plans/${id}/${stage.path}`);
    },
    next: () => void followNext(),
    notes: turnNotes,
    find: openFind,
    filter: () => {
      const field = document.querySelector<HTMLInputElement>('[data-filter]');
      field?.focus();
      return field !== null;
    },
    undo,
    redo,
    help: () => setPanel('help'),
  });

  if (error && !plan) return <LostPage words={wordsOf(error)} />;
  if (!plan) return <Opening />;
  const leaves = leavesOf(stages, plan);

  const actions = [
    { name: 'Undo', hint: plan.undo ?? 'nothing to undo', run: undo },
    { name: 'Redo', hint: plan.redo ?? 'nothing to redo', run: redo },
    { name: 'Brief: name, site, currency, places and more', run: () => navigate(`/plans/${id}/brief`) },
    { name: 'Read sheets back', run: () => navigate(`/plans/${id}/ship?view=back`) },
    {
      name: 'Client’s page: to print or save as PDF',
      run: () => navigate(`/plans/${id}/client`),
    },
    { name: 'Match variants of any list', run: () => navigate('/variants') },
    { name: 'Notes of this plan', run: turnNotes },
    { name: 'History of this plan', run: () => setPanel('history') },
    { name: 'Who sees this plan, and may do what', run: () => setPanel('people') },
    { name: 'Keys of this screen', run: () => setPanel('help') },
    ...(may(plan.you, 'build')
      ? [
          { name: 'Duplicate this plan', run: () => void duplicate(id, navigate) },
          {
            name: plan.brief.archived ? 'Take this plan out of the archive' : 'Archive this plan',
            run: () => void archive(id, plan.brief.archived),
          },
        ]
      : []),
  ];

  return (
    <Allowed may={(access) => may(plan.you, access)}>
      <div className="flex h-full flex-col">
        <header className="grid h-[62px] shrink-0 grid-cols-[minmax(8rem,1fr)_auto_1fr] items-center border-hair border-b px-4 max-[999px]:h-auto max-[999px]:grid-cols-[minmax(0,1fr)_auto] max-[999px]:gap-x-2 max-[999px]:pt-1">
          <div className="flex min-w-0 items-center gap-2.5">
            <Link to="/" title="All plans" className="shrink-0">
              <img src="/sprig.svg" alt="Green Sprig: all plans" width="28" height="28" />
            </Link>
            <Link
              to="brief"
              title="The plan's facts"
              className="min-w-0 truncate rounded px-1.5 py-1 font-semibold text-[15px] hover:bg-base-200"
            >
              {plan.brief.name}
            </Link>
            {plan.brief.archived && <span className="badge badge-sm">archived</span>}
            {!may(plan.you, 'build') && (
              <button
                type="button"
                className="badge badge-sm shrink-0 cursor-pointer"
                title={`Here you are ${roleWords[plan.you.role].name}: ${roleWords[plan.you.role].does}. Who may do what?`}
                onClick={() => setPanel('people')}
              >
                {roleWords[plan.you.role].name}
              </button>
            )}
          </div>
          <Trail leaves={leaves} />
          <div className="flex items-center justify-end gap-1">
            <Others others={others} stages={stages} />
            <button
              type="button"
              aria-label="Find or do"
              title="Find or do (Ctrl K)"
              className="flex h-8 items-center gap-2 rounded-md border border-hair px-2.5 text-faint hover:text-base-content"
              onClick={openFind}
            >
              <Search size={14} aria-hidden />
              <span className="hidden whitespace-nowrap 2xl:inline">Find or do</span>
              <span className="max-[1399px]:hidden">
                <span className="key whitespace-nowrap">Ctrl K</span>
              </span>
            </button>
            <IconButton
              label={plan.undo ? `Undo: ${plan.undo}` : 'Nothing to undo'}
              disabled={!plan.undo || !may(plan.you, 'write')}
              onClick={undo}
            >
              <Undo2 size={16} />
            </IconButton>
            <IconButton
              label={plan.redo ? `Redo: ${plan.redo}` : 'Nothing to redo'}
              disabled={!plan.redo || !may(plan.you, 'write')}
              onClick={redo}
            >
              <Redo2 size={16} />
            </IconButton>
            <NotesButton plan={id} isOpen={notes !== null} />
            <IconButton label="Keys of this screen" onClick={() => setPanel('help')}>
              <CircleHelp size={16} />
            </IconButton>
            <YouMenu onHistory={() => setPanel('history')} />
          </div>
        </header>
        <EditedElsewhere others={others} place={stageAt(pathname)} />
        <Part name="The list of jobs">
          <JobsBar plan={id} />
        </Part>
        {/* What a very small or much enlarged window has no room for is scrolled to. */}
        <div className="flex min-h-0 flex-1">
          <main
            ref={page}
            className={`min-h-0 min-w-0 flex-1 [@media(max-height:560px)]:overflow-auto ${notes ? 'overflow-x-auto' : 'max-[759px]:overflow-auto'}`}
          >
            <div className="flex h-full min-h-[430px] min-w-[760px] flex-col">
              <YieldEnd value={<NextStep plan={plan} />}>
                <Part name="This screen" of={pathname}>
                  <Needs access={pathname.endsWith('/write') ? 'write' : 'build'}>
                    <Outlet />
                  </Needs>
                </Part>
              </YieldEnd>
            </div>
          </main>
          {notes && <NotesPanel plan={id} about={notes.about} />}
        </div>
        {panel === 'find' && (
          <FindPanel plan={plan} leaves={leaves} actions={actions} onClose={() => setPanel(null)} />
        )}
        {panel === 'help' && <HelpPanel stages={stages} onClose={() => setPanel(null)} />}
        {panel === 'history' && <HistoryPanel plan={id} onClose={() => setPanel(null)} />}
        {panel === 'people' && <PlanPeople plan={id} onClose={() => setPanel(null)} />}
      </div>
    </Allowed>
  );
}

function IconButton({
  label,
  disabled,
  onClick,
  children,
}: {
  label: string;
  disabled?: boolean;
  onClick: () => void;
  children: React.ReactNode;
}) {
  return (
    <button
      type="button"
      className="btn btn-ghost btn-square btn-sm"
      title={label}
      aria-label={label}
      disabled={disabled}
      onClick={onClick}
    >
      {children}
    </button>
  );
}

/** The stage of an address, as it is named there. */
const stageAt = (pathname: string): string => /^\/plans\/\d+\/([a-z]+)/.exec(pathname)?.[1] ?? '';

async function duplicate(id: number, navigate: (to: string) => void) {
  try {
    const { id: made } = await call(duplicatePlan, { params: { plan: id } });
    navigate(`/plans/${made}/gather`);
    toast('This is the copy, with every hand edit. Its history begins here.');
  } catch (error) {
    toast.error(wordsOf(error));
  }
}

async function archive(id: number, archived: boolean) {
  try {
    await call(editBrief, {
      params: { plan: id },
      body: { edits: [{ at: 'archived', before: archived, after: !archived }] },
    });
    await readChanged(id);
    toast(
      archived
        ? 'The plan is out of the archive.'
        : 'Archived. It stays in the list of plans, at its end; undo takes it back.',
    );
  } catch (error) {
    toast.error(error instanceof CallFailure ? error.message : wordsOf(error));
  }
}

const JOB_WORDS = {
  addresses: 'Asking addresses',
  import: 'Taking in a list',
  mix: 'The pool follows a recipe',
  rebuild: 'Building',
  check: 'Looking through the plan',
  'hand-in': 'Handing in sheets',
  'part-look': 'Looking at a part',
  'row-look': 'Looking at every row',
  'read-back': 'Reading sheets back',
  'take-back': 'Taking sheets in',
  follow: 'Following what is shared',
  ship: 'Writing sheets',
  sort: 'Proposing themes',
  reports: 'Reading reports',
  traffic: 'Letting days pass',
  site: 'Reading a site',
} as const;

/** Long work, wherever one is: a thin bar under the header. */
function JobsBar({ plan }: { plan: number }) {
  const { data: jobs = [] } = useOpenJobs(plan);
  const slow = jobs.find(({ status }) => status === 'running');
  return (
    <div className="relative h-0">
      {slow && (
        <div
          className="-translate-x-1/2 absolute top-0 left-1/2 z-20 rounded-b-md border border-hair border-t-0 bg-base-200 px-2.5 py-0.5 text-[12px] text-faint"
          role="status"
        >
          {JOB_WORDS[slow.kind]} …
          {slow.total > 0 && slow.done > 0
            ? ` ${slow.done.toLocaleString('en-GB')} of ${slow.total.toLocaleString('en-GB')}`
            : ''}
        </div>
      )}
    </div>
  );
}
