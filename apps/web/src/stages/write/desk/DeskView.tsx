import { type DeskGroup, type DeskOnly, deskOnly, type PlanState } from '@sprig/contracts';
import { useEffect, useRef } from 'react';
import { wordsOf } from '../../../data/call.ts';
import { useAddress } from '../../../kit/address.ts';
import { useMay } from '../../../kit/allowed.tsx';
import { useCommands } from '../../../kit/commands.ts';
import { FilterField } from '../../../kit/FilterField.tsx';
import { count, counted } from '../../../kit/format.ts';
import { PickButtons } from '../../../kit/PickButtons.tsx';
import { deskCommands } from '../commands.ts';
import type { AdMaking, WritingState } from '../use-writing.ts';
import { DeskGroupView, type OnMove } from './DeskGroupView.tsx';
import { givenText, onlyWords, standsAs } from './desk-words.ts';
import { useDesk, useMoves } from './use-desk.ts';

const PICKS = deskOnly.map((only) => [only, onlyWords[only]] as const);
const TONES = { bad: 'text-error', good: 'text-success', plain: 'text-faint' } as const;

type Props = { plan: PlanState; writing: WritingState; made: AdMaking | null };

/** Ad groups whose ads somebody has to do something about, one after another, with all that is needed to write beside. */
export function DeskView({ plan, writing, made }: Props) {
  const [params, set] = useAddress();
  const only = deskOnly.find((one) => one === params.get('desk')) ?? 'todo';
  const filter = params.get('filter') ?? '';
  const { page, groups, error, hasNextPage, fetchNextPage, isFetchingNextPage } = useDesk(
    plan.id,
    only,
    filter,
  );
  const moves = useMoves(plan, page?.builtRevision, groups);
  const may = useMay();
  const wanted = groups.findIndex(({ key }) => key === params.get('at'));
  // Whoever leaves the list is followed by the one that comes to its place.
  const last = useRef(0);
  const place = wanted >= 0 ? wanted : Math.max(0, Math.min(last.current, groups.length - 1));
  last.current = place;
  const group = groups[place] ?? null;
  const go = (by: number) => {
    const next = groups[Math.max(0, Math.min(groups.length - 1, place + by))];
    if (next) set({ at: next.key });
    if (place + by >= groups.length && hasNextPage) void fetchNextPage();
  };
  const sendBack = useRef<() => void>(() => {});
  const move: OnMove = (state, isJudged, reason, onMoved) => {
    const isSound = group !== null && group.ads > 0 && group.misfits === 0;
    if (group && !moves.isBusy && (state === 'open' || isSound))
      moves.one(group, { state, isJudged, reason, onMoved });
  };
  useCommands(deskCommands, {
    next: () => go(1),
    back: () => go(-1),
    edit: openField,
    ...(may('write') && { over: () => move('handed', false) }),
    ...(may('approve') && { accept: () => move('accepted', true), sendBack: () => void sendBack.current() }),
  });
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex min-h-11 shrink-0 flex-wrap items-center gap-2 border-hair border-b px-4 py-1">
        <PickButtons
          label="Which ad groups"
          picks={PICKS}
          current={only}
          counts={page?.counts}
          onPick={(one) => set({ desk: one === 'todo' ? '' : one, at: '' })}
          className="flex-wrap"
        />
        <FilterField
          label="Filter ad groups"
          placeholder="Filter ad groups, campaigns"
          value={filter}
          onChange={(next) => set({ filter: next })}
        />
        <span className="ml-auto flex items-center gap-2 text-[13px]">
          {page?.asksAcceptance && <span className="text-faint">Only what is accepted ships.</span>}
          <AllOfThem only={only} page={page} moves={moves} filter={filter} />
        </span>
      </div>
      {error && (
        <p role="alert" className="px-4 py-2 text-error">
          {wordsOf(error)}
        </p>
      )}
      {page && groups.length === 0 ? (
        <p className="px-4 py-6 text-faint">{emptyWords(only, filter)}</p>
      ) : (
        <div className="flex min-h-0 flex-1">
          <nav
            aria-label="Ad groups of the desk"
            className="flex w-[270px] shrink-0 flex-col overflow-auto border-hair border-r"
          >
            <ol>
              {groups.map((one, at) => (
                <DeskLine
                  key={one.key}
                  group={one}
                  today={page?.today ?? ''}
                  isHere={at === place}
                  onOpen={() => set({ at: one.key })}
                />
              ))}
            </ol>
            {hasNextPage && (
              <button
                type="button"
                className="btn btn-sm m-2"
                disabled={isFetchingNextPage}
                onClick={() => void fetchNextPage()}
              >
                {counted((page?.total ?? 0) - groups.length, 'ad group')} more
              </button>
            )}
          </nav>
          {group && (
            <DeskGroupView
              key={group.key}
              plan={plan}
              group={group}
              today={page?.today ?? ''}
              writing={writing}
              made={made}
              isBusy={moves.isBusy}
              isWaiting={moves.isWaiting}
              onMove={move}
              onSendBack={sendBack}
            />
          )}
        </div>
      )}
    </div>
  );
}

const emptyWords = (only: DeskOnly, filter: string): string => {
  if (filter !== '') return 'No ad group here has these words.';
  if (only === 'todo') return 'Nothing is to be done: every ad group has ads that fit.';
  if (only === 'mine')
    return 'Nothing was given to you. A note on an ad group gives it to somebody, with a day.';
  if (only === 'handed') return 'Nothing waits for a look. Ads that are handed over come here.';
  return 'None.';
};

type LineProps = { group: DeskGroup; today: string; isHere: boolean; onOpen: () => void };

function DeskLine({ group, today, isHere, onOpen }: LineProps) {
  const line = useRef<HTMLLIElement>(null);
  useEffect(() => {
    if (isHere) line.current?.scrollIntoView?.({ block: 'nearest' });
  }, [isHere]);
  const [words, tone] = standsAs(group);
  return (
    <li ref={line}>
      <button
        type="button"
        aria-current={isHere || undefined}
        className={`block w-full border-base-200 border-b px-3 py-1.5 text-left text-[13px] ${isHere ? 'bg-wash' : 'hover:bg-base-200'}`}
        onClick={onOpen}
      >
        <span className="flex items-baseline justify-between gap-2">
          <span className="truncate">{group.name}</span>
          <span className="shrink-0 text-[12px] text-faint">{count(group.searches)}</span>
        </span>
        <span className="flex items-baseline justify-between gap-2 text-[12px]">
          <span className={TONES[tone]}>{words || group.campaign}</span>
          {group.given && (
            <span className={`truncate ${group.given.isYou ? 'text-primary' : 'text-faint'}`}>
              {givenText(group.given, today)}
            </span>
          )}
        </span>
      </button>
    </li>
  );
}

type AllProps = {
  only: DeskOnly;
  filter: string;
  page: ReturnType<typeof useDesk>['page'];
  moves: ReturnType<typeof useMoves>;
};

/** What is done with all that the list has. */
function AllOfThem({ only, filter, page, moves }: AllProps) {
  const may = useMay();
  const total = page?.total ?? 0;
  if (total === 0) return null;
  if (only === 'handed' && may('approve'))
    return (
      <button
        type="button"
        className="btn btn-sm"
        disabled={moves.isBusy}
        onClick={() => moves.all(only, filter, { state: 'accepted', isJudged: true })}
      >
        Accept all {count(total)}
      </button>
    );
  if ((only === 'todo' || only === 'mine' || only === 'all') && may('write'))
    return (
      <button
        type="button"
        className="btn btn-sm"
        disabled={moves.isBusy}
        title="Those whose ads all fit"
        onClick={() => moves.all(only, filter, { state: 'handed', isJudged: false })}
      >
        Hand over all that fit
      </button>
    );
  return null;
}

/** Opens the first field of the ads in view that nothing fits, or the first, to be written in. */
function openField(): void {
  const ads = document.querySelector('[data-desk-ads]');
  const field = ads?.querySelector('[data-bad=true]') ?? ads?.querySelector('[data-field]');
  field?.closest<HTMLElement>('[data-edit]')?.click();
}
